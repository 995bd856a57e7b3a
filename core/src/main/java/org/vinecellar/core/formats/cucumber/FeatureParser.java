package org.vinecellar.core.formats.cucumber;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Takes one feature after the other. */
final class FeatureParser {
  private final ReadLimits limits;
  private final CaseHandler handler;
  private final Problems problems;
  private final Values values;
  private final Set<Integer> lines = new HashSet<>();
  private boolean failing;
  private int count;

  FeatureParser(ReadLimits limits, CaseHandler handler, Problems problems) {
    this.limits = limits;
    this.handler = handler;
    this.problems = problems;
    this.values = new Values(limits);
  }

  void feature(JsonNode feature) {
    String uri = uri(feature);
    SuitePath suite =
        SuitePath.ROOT.child(
            values.name(feature, "name", uri == null ? "(feature without a name)" : uri));
    List<String> tags = tags(feature);
    JsonNode background = null;
    int scenarios = 0;
    lines.clear();
    failing = false;
    for (JsonNode element : feature.path("elements")) {
      if (element.path("type").asText().equals("background")) {
        background = element;
      } else {
        scenario(suite, uri, tags, background, element);
        background = null;
        scenarios++;
      }
    }
    // Python's runner tells of a hook around the feature that failed only by the feature's status.
    if (feature.path("status").asText().equals("failed") && !failing) {
      Failure failure =
          new Failure(
              null,
              scenarios == 0
                  ? "the feature failed before its first scenario"
                  : "the feature failed, but none of its scenarios did: a hook around it",
              null);
      emit(TestId.setUpOf(suite), ResultKind.SETUP, Outcome.ERRORED, failure, uri);
    }
  }

  private void emit(
      TestId id, ResultKind kind, Outcome outcome, Failure failure, @Nullable String uri) {
    handler.onCase(
        TestResult.of(
            id,
            kind,
            List.of(
                new TryParts(problems)
                    .attempt(outcome, TestResult.NO_DURATION, List.of(failure), null, null)),
            null,
            Map.of(),
            uri,
            0));
  }

  private @Nullable String uri(JsonNode feature) {
    String uri = values.text(feature, "uri");
    String location = values.text(feature, "location");
    return uri != null || location == null ? uri : location.replaceFirst(":\\d+$", "");
  }

  private int line(JsonNode node) {
    int line = Values.line(node.path("line"));
    String location = node.path("location").asText();
    String number = location.substring(location.lastIndexOf(':') + 1);
    return line > 0 || !number.matches("[0-9]{1,9}") ? line : Integer.parseInt(number);
  }

  private List<String> tags(JsonNode holder) {
    List<String> tags = new ArrayList<>();
    for (JsonNode tag : holder.path("tags")) {
      String name = tag.isTextual() ? values.text(tag) : values.text(tag, "name");
      if (name != null) {
        tags.add(Scenarios.tag(name));
      }
    }
    return tags;
  }

  private void scenario(
      SuitePath suite,
      @Nullable String uri,
      List<String> outerTags,
      @Nullable JsonNode background,
      JsonNode scenario) {
    if (++count > limits.maxCases()) {
      throw new UnreadableFileException(
          "has more than " + limits.maxCases() + " scenarios; split it into several files");
    }
    TryParts parts = new TryParts(problems);
    List<Step> steps = new ArrayList<>();
    hooks(scenario.path("before"), "Before", parts, steps);
    if (background != null && background.path("steps").path(0).has("result")) {
      hooks(background.path("before"), "Before", parts, steps);
      steps(background, parts, steps);
    }
    steps(scenario, parts, steps);
    hooks(scenario.path("after"), "After", parts, steps);
    steps.forEach(parts::step);
    long micros = TestResult.NO_DURATION;
    for (Step step : steps) {
      micros = TestResult.plus(micros, step.durationMicros());
    }
    List<String> tags = new ArrayList<>(outerTags);
    tags(scenario).stream().filter(tag -> !tags.contains(tag)).forEach(tags::add);
    String description = values.text(scenario, "description");
    Outcome outcome = outcome(scenario, steps);
    failing |= outcome.isFailing();
    int line = line(scenario);
    // The same place again is the same scenario; another one may well have the same name.
    boolean again = line > 0 && !lines.add(line);
    handler.onCase(
        TestResult.of(
                id(suite, scenario),
                ResultKind.TEST,
                List.of(parts.attempt(outcome, micros, StepStatus.failures(steps), null, null)),
                Values.time(scenario.path("start_timestamp")),
                description == null ? Map.of() : Map.of("description", description.strip()),
                uri,
                line)
            .tagged(tags),
        again ? Repeat.RETRY : Repeat.OTHER);
  }

  /** Python's runner puts the place of an example row behind the name: that is its parameters. */
  private TestId id(SuitePath suite, JsonNode scenario) {
    String name = values.name(scenario, "name", "(scenario without a name)");
    int row = name.lastIndexOf(" -- @");
    return row <= 0
        ? TestId.of(suite, name, null)
        : TestId.of(suite, name.substring(0, row), "[" + name.substring(row + 4) + "]");
  }

  /** Steps decide; a scenario whose hook failed without a step says so itself. */
  private static Outcome outcome(JsonNode scenario, List<Step> steps) {
    Outcome outcome = StepStatus.together(steps);
    StepStatus own = StepStatus.of(scenario.path("status").asText());
    return own == StepStatus.FAILED && !outcome.isFailing() ? Outcome.ERRORED : outcome;
  }

  private void steps(JsonNode holder, TryParts parts, List<Step> steps) {
    for (JsonNode step : holder.path("steps")) {
      hooks(step.path("before"), "Before step", parts, steps);
      if (step.path("hidden").asBoolean()) {
        hook(step, values.name(step, "keyword", "Hook").strip(), parts, steps);
      } else if (parts.roomForStep()) {
        steps.add(step(values.name(step, "keyword", "").strip(), name(step, "name"), step, parts));
      }
      hooks(step.path("after"), "After step", parts, steps);
    }
  }

  private String name(JsonNode step, String field) {
    return values.name(step, field, "");
  }

  private void hooks(JsonNode hooks, String keyword, TryParts parts, List<Step> steps) {
    for (JsonNode hook : hooks) {
      hook(hook, keyword, parts, steps);
    }
  }

  /** Hooks are shown only where they have something to say. */
  private void hook(JsonNode hook, String keyword, TryParts parts, List<Step> steps) {
    String status = hook.path("result").path("status").asText();
    boolean silent =
        StepStatus.of(status) != StepStatus.FAILED
            && hook.path("output").isEmpty()
            && hook.path("embeddings").isEmpty();
    if (!silent && parts.roomForStep()) {
      steps.add(step(keyword, values.name(hook.path("match"), "location", ""), hook, parts));
    }
  }

  private Step step(String keyword, String text, JsonNode step, TryParts parts) {
    JsonNode result = step.path("result");
    StepStatus status = StepStatus.of(result.path("status").asText("skipped"));
    List<LogLine> logs = new ArrayList<>();
    for (JsonNode line : step.path("output")) {
      if (parts.roomForLog()) {
        logs.add(new LogLine(null, null, values.cut(line.asText())));
      }
    }
    List<Integer> attached = new ArrayList<>();
    step.path("embeddings").forEach(embedding -> embed(embedding, logs, attached, parts));
    Failure failure = failure(result);
    if (failure == null) {
      failure = status.explained(keyword.isEmpty() ? text : keyword + " " + text);
    }
    return new Step(
        keyword.isEmpty() ? null : keyword,
        text,
        status.outcome(failure),
        status.told(),
        duration(result.path("duration")),
        failure,
        argument(step),
        table(step),
        logs,
        attached,
        List.of());
  }

  private @Nullable Failure failure(JsonNode result) {
    JsonNode message = result.path("error_message");
    List<String> lines = new ArrayList<>();
    message.forEach(line -> lines.add(line.asText()));
    String text = lines.isEmpty() ? values.text(message) : values.cut(String.join("\n", lines));
    return text == null ? null : StackText.parsed(text);
  }

  private void embed(
      JsonNode embedding, List<LogLine> logs, List<Integer> attached, TryParts parts) {
    String type = values.text(embedding, "mime_type");
    if (type == null) {
      type = values.text(embedding.path("media"), "type");
    }
    String data = embedding.path("data").asText();
    if (type != null && type.startsWith("text/x.cucumber.log")) {
      if (parts.roomForLog()) {
        logs.add(new LogLine(null, null, values.cut(data)));
      }
      return;
    }
    byte[] content = Values.base64(data);
    int place =
        parts.attach(
            Attachment.embedded(
                values.name(embedding, "name", "attachment " + (parts.attachmentCount() + 1)),
                type,
                content == null ? data.getBytes(StandardCharsets.UTF_8) : content));
    if (place >= 0) {
      attached.add(place);
    }
  }

  private @Nullable String argument(JsonNode step) {
    String own = values.text(step.path("doc_string"), "value");
    if (own == null) {
      own = values.text(step.path("doc_string"), "content");
    }
    if (own == null) {
      own = values.text(step, "text");
    }
    for (JsonNode argument : step.path("arguments")) {
      own = own == null ? values.text(argument, "content") : own;
    }
    return own;
  }

  private List<List<String>> table(JsonNode step) {
    List<List<String>> table = new ArrayList<>();
    step.path("rows").forEach(row -> table.add(cells(row.path("cells"))));
    for (JsonNode argument : step.path("arguments")) {
      argument.path("rows").forEach(row -> table.add(cells(row.path("cells"))));
    }
    JsonNode own = step.path("table");
    if (own.isObject()) {
      table.add(cells(own.path("headings")));
      own.path("rows").forEach(row -> table.add(cells(row)));
    }
    return table;
  }

  private List<String> cells(JsonNode row) {
    List<String> cells = new ArrayList<>();
    row.forEach(cell -> cells.add(values.cut(cell.asText())));
    return cells;
  }

  /** Whole numbers are nanoseconds; Python's runner writes seconds with a point. */
  private static long duration(JsonNode duration) {
    return Values.micros(duration, duration.isFloatingPointNumber() ? 1_000_000 : 0.001);
  }
}
