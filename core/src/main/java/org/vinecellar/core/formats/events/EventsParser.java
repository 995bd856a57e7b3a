package org.vinecellar.core.formats.events;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.json.LinesReader;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Follows the events of one stream. */
final class EventsParser extends LinesReader.Parser {
  private static final int MAX_RUNNING = 100_000;
  private static final int MAX_PROPERTIES = 200;

  private final Values values;
  private final Map<String, Running> running = new LinkedHashMap<>();
  private boolean finished;

  /** A test that has begun. */
  private static final class Running {
    private final TestId test;
    private final @Nullable Instant started;
    private final @Nullable String file;
    private final int line;
    private final List<String> tags;
    private final Repeat repeat;
    private final Map<String, String> properties = new LinkedHashMap<>();
    private final TryParts parts;

    Running(
        TestId test,
        @Nullable Instant started,
        @Nullable String file,
        int line,
        List<String> tags,
        Repeat repeat,
        TryParts parts) {
      this.test = test;
      this.started = started;
      this.file = file;
      this.line = line;
      this.tags = tags;
      this.repeat = repeat;
      this.parts = parts;
    }
  }

  EventsParser(ReadLimits limits, CaseHandler handler, Problems problems) {
    super(limits, handler, problems);
    this.values = new Values(limits);
  }

  @Override
  protected void object(JsonNode event, int line) {
    String kind = event.path("event").asText();
    switch (kind) {
      case "run" -> properties(event.path("properties"));
      case "test started" -> started(event, line);
      case "step", "log", "attachment", "property" -> part(kind, event, line);
      case "test finished" -> finished(event, line);
      case "set-up failed" -> setUp(event);
      case "run finished" -> finished = true;
      default -> problems.add("line " + line + " has the event “" + kind + "”, which is not known");
    }
  }

  private void properties(JsonNode properties) {
    properties
        .fields()
        .forEachRemaining(
            field -> {
              String value = values.text(field.getValue());
              if (value != null) {
                handler.onProperty(field.getKey(), value);
              }
            });
  }

  private SuitePath suite(JsonNode event) {
    SuitePath suite = SuitePath.ROOT;
    for (JsonNode name : event.path("suite")) {
      if (suite.depth() < limits.maxDepth() && !name.asText().isBlank()) {
        suite = suite.child(values.name(name.asText()));
      }
    }
    return suite;
  }

  private static String id(JsonNode event) {
    return event.path("id").asText();
  }

  private void started(JsonNode event, int line) {
    String id = id(event);
    String name = values.text(event, "test");
    if (id.isEmpty() || name == null) {
      problems.add("line " + line + " starts a test without “id” or “test”; it was left out");
      return;
    }
    if (running.size() >= MAX_RUNNING) {
      throw new UnreadableFileException("has more than " + MAX_RUNNING + " tests under way");
    }
    String parameters = values.text(event, "parameters");
    TestId test =
        TestId.of(
            suite(event),
            values.name(name),
            parameters == null ? null : values.name("[" + parameters + "]"));
    List<String> tags = new ArrayList<>();
    for (JsonNode tag : event.path("tags")) {
      if (tags.size() < 100) {
        tags.add(values.name(tag.asText()));
      }
    }
    Instant time = Values.time(event.path("time"));
    running.put(
        id,
        new Running(
            test,
            time,
            values.text(event, "file"),
            Values.line(event.path("line")),
            tags,
            repeat(event.path("attempt"), line),
            new TryParts(problems)));
    handler.onStart(test, time);
  }

  private void part(String kind, JsonNode event, int line) {
    Running test = running.get(id(event));
    if (test == null) {
      problems.add("line " + line + " is of no test that is under way; it was left out");
      return;
    }
    switch (kind) {
      case "step" -> step(test, event);
      case "log" ->
          test.parts.log(
              new LogLine(
                  Values.time(event.path("time")),
                  values.text(event, "level"),
                  values.cut(event.path("text").asText())));
      case "property" -> {
        String value = values.text(event, "value");
        if (value != null && test.properties.size() < MAX_PROPERTIES) {
          test.properties.put(values.name(event, "name", "property"), value);
        }
      }
      default -> attachment(test, event, line);
    }
  }

  private void step(Running test, JsonNode event) {
    if (!test.parts.roomForStep()) {
      return;
    }
    String message = values.text(event, "message");
    Outcome outcome = outcome(event.path("outcome").asText("passed"));
    test.parts.step(
        new Step(
            values.text(event, "keyword"),
            values.name(event, "text", ""),
            outcome == null ? Outcome.ERRORED : outcome,
            null,
            Values.micros(event.path("ms"), 1000),
            message == null ? null : new Failure(null, message, null),
            null,
            List.of(),
            List.of(),
            List.of(),
            List.of()));
  }

  private void attachment(Running test, JsonNode event, int line) {
    String path = values.text(event, "path");
    String type = values.text(event, "type");
    if (path != null) {
      test.parts.attach(Attachment.at(values.name(path), values.text(event, "name"), type));
      return;
    }
    byte[] content = Values.base64(values.text(event, "content"));
    if (content == null) {
      problems.add("line " + line + " attaches neither a path nor base 64; it was left out");
      return;
    }
    test.parts.attach(Attachment.embedded(values.name(event, "name", "attachment"), type, content));
  }

  private void finished(JsonNode event, int line) {
    Running test = running.remove(id(event));
    if (test == null) {
      problems.add("line " + line + " ends a test that has not begun; it was left out");
      return;
    }
    Outcome outcome = outcome(event.path("outcome").asText());
    if (outcome == null) {
      problems.add(
          "line "
              + line
              + " has the outcome “"
              + event.path("outcome").asText()
              + "”, which is not known: errored");
    }
    emit(
        test,
        ResultKind.TEST,
        test.parts.attempt(
            outcome == null ? Outcome.ERRORED : outcome,
            micros(test, event),
            failures(event),
            values.text(event, "stdout"),
            values.text(event, "stderr")));
  }

  private static long micros(Running test, JsonNode event) {
    long told = Values.micros(event.path("ms"), 1000);
    Instant end = Values.time(event.path("time"));
    return told != TestResult.NO_DURATION || end == null || test.started == null
        ? told
        : Math.max(0, Duration.between(test.started, end).toNanos() / 1000);
  }

  private List<Failure> failures(JsonNode event) {
    Failure failure =
        new Failure(
            values.text(event, "type"), values.text(event, "message"), values.text(event, "trace"));
    return failure.type() == null && failure.message() == null && failure.trace() == null
        ? List.of()
        : List.of(failure);
  }

  private void setUp(JsonNode event) {
    Running of =
        new Running(
            TestId.setUpOf(suite(event)),
            Values.time(event.path("time")),
            null,
            0,
            List.of(),
            Repeat.UNTOLD,
            new TryParts(problems));
    emit(
        of,
        ResultKind.SETUP,
        of.parts.attempt(
            Outcome.ERRORED,
            Values.micros(event.path("ms"), 1000),
            failures(event),
            values.text(event, "stdout"),
            values.text(event, "stderr")));
  }

  private void emit(Running test, ResultKind kind, Attempt attempt) {
    emit(
        TestResult.of(
                test.test,
                kind,
                List.of(attempt),
                test.started,
                test.properties,
                test.file,
                test.line)
            .tagged(test.tags),
        test.repeat);
  }

  /** The first attempt of a test that was told of before is another invocation. */
  private Repeat repeat(JsonNode attempt, int line) {
    if (attempt.isMissingNode() || attempt.isNull()) {
      return Repeat.UNTOLD;
    }
    if (!attempt.isIntegralNumber() || attempt.asLong() < 1) {
      problems.add("line " + line + " has an “attempt” that is no number from 1 on");
      return Repeat.UNTOLD;
    }
    return attempt.asLong() > 1 ? Repeat.RETRY : Repeat.OTHER;
  }

  private static @Nullable Outcome outcome(String word) {
    return switch (word.toLowerCase(Locale.ROOT)) {
      case "passed" -> Outcome.PASSED;
      case "failed" -> Outcome.FAILED;
      case "errored" -> Outcome.ERRORED;
      case "skipped" -> Outcome.SKIPPED;
      case "not reached" -> Outcome.NOT_REACHED;
      default -> null;
    };
  }

  @Override
  protected void end() {
    if (finished && running.isEmpty()) {
      return;
    }
    handler.onBrokenOff("it has no “run finished”: the test run ended before its time");
    for (Running test : List.copyOf(running.values())) {
      Failure failure = new Failure("broken off", "the run broke off during this test", null);
      emit(
          test,
          ResultKind.TEST,
          test.parts.attempt(
              Outcome.ERRORED, TestResult.NO_DURATION, List.of(failure), null, null));
    }
  }
}
