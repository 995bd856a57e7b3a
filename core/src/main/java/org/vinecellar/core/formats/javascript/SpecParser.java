package org.vinecellar.core.formats.javascript;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.BoundedText;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/** Takes one suite of Playwright's after the other. */
final class SpecParser {
  private static final int MAX_STEP_DEPTH = 50;
  private static final int MAX_OUTPUT = 4_000_000;

  private final Values values;
  private final Problems problems;
  private final int maxDepth;
  private final Consumer<TestResult> results;

  SpecParser(Values values, Problems problems, int maxDepth, Consumer<TestResult> results) {
    this.values = values;
    this.problems = problems;
    this.maxDepth = maxDepth;
    this.results = results;
  }

  void suite(SuitePath outer, JsonNode suite) {
    if (outer.depth() > maxDepth) {
      throw new UnreadableFileException("nests suites deeper than " + maxDepth);
    }
    SuitePath path = outer.child(values.name(suite, "title", "(suite without a name)"));
    suite.path("specs").forEach(spec -> spec(path, spec));
    suite.path("suites").forEach(inner -> suite(path, inner));
  }

  private void spec(SuitePath suite, JsonNode spec) {
    List<String> tags = new ArrayList<>();
    spec.path("tags").forEach(tag -> tags.add(tag(values.name(tag.asText()))));
    spec.path("tests").forEach(test -> test(suite, spec, test, tags));
  }

  private static String tag(String name) {
    return name.startsWith("@") ? name.substring(1) : name;
  }

  private void test(SuitePath suite, JsonNode spec, JsonNode test, List<String> tags) {
    Map<String, String> properties = new LinkedHashMap<>();
    for (JsonNode note : test.path("annotations")) {
      String type = values.text(note, "type");
      String text = values.text(note, "description");
      if (type != null && text != null && properties.size() < 200) {
        properties.merge(type, text, (a, b) -> a + "\n" + b);
      }
    }
    boolean expectsFailure = test.path("expectedStatus").asText().equals("failed");
    if (expectsFailure) {
      properties.put("expected", "to fail");
    }
    boolean left = test.path("expectedStatus").asText().equals("skipped");
    List<Attempt> attempts = new ArrayList<>();
    for (JsonNode result : test.path("results")) {
      Attempt attempt = attempt(result, expectsFailure, left);
      // A try that never began is one only when no other follows.
      attempts.removeIf(before -> before.outcome() == Outcome.NOT_REACHED);
      attempts.add(attempt);
    }
    if (attempts.isEmpty()) {
      attempts.add(
          new Attempt(
              left ? Outcome.SKIPPED : Outcome.NOT_REACHED,
              TestResult.NO_DURATION,
              List.of(),
              null,
              null));
    }
    results.accept(
        TestResult.of(
                TestId.of(suite, values.name(spec, "title", "(test without a name)"), null)
                    .in(Variant.told("project", values.text(test, "projectName"))),
                ResultKind.TEST,
                attempts,
                Values.time(test.path("results").path(0).path("startTime")),
                properties,
                values.text(spec, "file"),
                Values.line(spec.path("line")))
            .tagged(tags));
  }

  private Attempt attempt(JsonNode result, boolean expectsFailure, boolean left) {
    TryParts parts = new TryParts(problems);
    result.path("steps").forEach(step -> add(parts, step));
    result.path("attachments").forEach(attachment -> attach(parts, attachment));
    List<Failure> failures = new ArrayList<>();
    JsonNode first = result.path("error");
    for (JsonNode error : result.path("errors")) {
      boolean same = failures.isEmpty() && first.isObject();
      failures.add(failure(same ? first : error, values.text(error, "message")));
    }
    if (failures.isEmpty() && first.isObject()) {
      failures.add(failure(first, null));
    }
    String status = result.path("status").asText();
    Outcome outcome = outcome(status, expectsFailure, left, failures);
    if (outcome == Outcome.PASSED) {
      failures.clear();
    }
    return parts.attempt(
        outcome,
        Values.micros(result.path("duration"), 1000),
        failures,
        printed(result.path("stdout")),
        printed(result.path("stderr")));
  }

  private static Outcome outcome(
      String status, boolean expectsFailure, boolean left, List<Failure> failures) {
    return switch (status) {
      case "passed" -> expectsFailure ? Outcome.FAILED : Outcome.PASSED;
      case "failed" ->
          expectsFailure
              ? Outcome.PASSED
              : failures.isEmpty()
                  ? Outcome.FAILED
                  : FailureKind.of(failures.get(0).type(), failures.get(0).message());
      // Left out though nobody said so: a hook failed, or the worker that should run it.
      case "skipped" -> left ? Outcome.SKIPPED : Outcome.NOT_REACHED;
      case "interrupted" -> Outcome.NOT_REACHED;
      default -> Outcome.ERRORED;
    };
  }

  /** The stack is a copy of the message with frames; the list's message has the source lines. */
  private Failure failure(JsonNode error, @Nullable String longer) {
    String message = values.text(error, "message");
    String stack = values.text(error, "stack");
    if (message == null && stack == null) {
      return new Failure(null, longer, null);
    }
    Failure parsed =
        stack == null ? StackText.of(null, message, null) : StackText.of(null, null, stack);
    String snippet = values.text(error, "snippet");
    return snippet == null || parsed.trace() == null
        ? parsed
        : new Failure(parsed.type(), parsed.message(), parsed.trace() + "\n\n" + snippet);
  }

  private void add(TryParts parts, JsonNode step) {
    Step made = step(parts, step, 0);
    if (made != null) {
      parts.step(made);
    }
  }

  private @Nullable Step step(TryParts parts, JsonNode step, int depth) {
    if (depth > MAX_STEP_DEPTH || !parts.roomForStep()) {
      return null;
    }
    List<Step> inner = new ArrayList<>();
    for (JsonNode child : step.path("steps")) {
      Step made = step(parts, child, depth + 1);
      if (made != null) {
        inner.add(made);
      }
    }
    JsonNode error = step.path("error");
    Failure failure = error.isObject() ? failure(error, null) : null;
    Outcome outcome =
        failure == null ? Outcome.PASSED : FailureKind.of(failure.type(), failure.message());
    return new Step(
        null,
        values.name(step, "title", "(step without a name)"),
        outcome,
        null,
        Values.micros(step.path("duration"), 1000),
        failure == null ? null : new Failure(failure.type(), failure.message(), null),
        null,
        List.of(),
        List.of(),
        List.of(),
        inner);
  }

  private void attach(TryParts parts, JsonNode attachment) {
    String name = values.name(attachment, "name", "attachment");
    String type = values.text(attachment, "contentType");
    String path = values.text(attachment, "path");
    if (path != null) {
      parts.attach(Attachment.at(values.name(path), name, type));
      return;
    }
    String body = attachment.path("body").asText();
    byte[] content = Values.base64(body);
    parts.attach(
        Attachment.embedded(
            name, type, content == null ? body.getBytes(StandardCharsets.UTF_8) : content));
  }

  private @Nullable String printed(JsonNode pieces) {
    BoundedText text = new BoundedText(MAX_OUTPUT);
    StringBuilder all = new StringBuilder();
    for (JsonNode piece : pieces) {
      byte[] packed = Values.base64(values.text(piece, "buffer"));
      if (all.length() < MAX_OUTPUT) {
        all.append(
            packed == null
                ? piece.path("text").asText()
                : new String(packed, StandardCharsets.UTF_8));
      }
    }
    all.toString().strip().lines().forEach(text::add);
    return text.take();
  }
}
