package org.vinecellar.core.formats.cucumber;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.Timestamps;
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

/** Follows the messages of one file, and hands on each scenario when its last try has ended. */
final class MessagesParser extends LinesReader.Parser {
  private static final String LOG = "text/x.cucumber.log+plain";
  private static final int MAX_OPEN = 200_000;

  private final Values values;
  private final Scenarios scenarios;
  private final Map<String, Case> cases = new LinkedHashMap<>();
  private final Map<String, Try> tries = new LinkedHashMap<>();
  private final Map<String, String> hooks = new HashMap<>();
  private boolean started;
  private boolean finished;

  /** A scenario with the steps and hooks that are to be run for it. */
  private static final class Case {
    private final String pickleId;
    private final Map<String, String> steps = new HashMap<>();
    private final Map<String, String> hookOfStep = new HashMap<>();
    private final List<Attempt> attempts = new ArrayList<>();
    private @Nullable Instant started;

    Case(String pickleId) {
      this.pickleId = pickleId;
    }
  }

  /** One try that is under way. */
  private static final class Try {
    private final String caseId;
    private final Instant started;
    private final TryParts parts;
    private final List<Step> steps = new ArrayList<>();
    private final Map<String, List<LogLine>> logs = new HashMap<>();
    private final Map<String, List<Integer>> attached = new HashMap<>();

    Try(String caseId, Instant started, TryParts parts) {
      this.caseId = caseId;
      this.started = started;
      this.parts = parts;
    }
  }

  MessagesParser(ReadLimits limits, CaseHandler handler, Problems problems) {
    super(limits, handler, problems);
    this.values = new Values(limits);
    this.scenarios = new Scenarios(values);
  }

  @Override
  protected void object(JsonNode envelope, int line) {
    var fields = envelope.fields();
    if (!fields.hasNext()) {
      return;
    }
    var field = fields.next();
    JsonNode body = field.getValue();
    switch (field.getKey()) {
      case "meta" -> meta(body);
      case "gherkinDocument" -> scenarios.document(body);
      case "pickle" -> scenarios.pickle(body);
      case "hook" -> hook(body);
      case "testRunStarted" -> started = true;
      case "testCase" -> testCase(body);
      case "testCaseStarted" -> caseStarted(body);
      case "attachment" -> attachment(body);
      case "testStepFinished" -> stepFinished(body);
      case "testCaseFinished" -> caseFinished(body);
      case "testRunHookFinished" -> runHook(body);
      case "parseError" -> parseError(body);
      case "testRunFinished" -> runFinished(body);
      default -> {
        // the code behind the steps, and hints for those who write them
      }
    }
  }

  private void meta(JsonNode meta) {
    for (String of : List.of("implementation", "runtime", "os", "cpu")) {
      JsonNode tool = meta.path(of);
      String name = values.text(tool, "name");
      String version = values.text(tool, "version");
      if (name != null) {
        handler.onProperty(of, version == null ? name : name + " " + version);
      }
    }
  }

  private void hook(JsonNode hook) {
    String name = values.text(hook, "name");
    JsonNode at = hook.path("sourceReference");
    String method = values.text(at.path("javaMethod"), "methodName");
    String uri = values.text(at, "uri");
    String place = method != null ? method : uri == null ? "" : uri;
    if (hooks.size() < MAX_OPEN) {
      hooks.put(hook.path("id").asText(), name == null ? place : name);
    }
  }

  private void testCase(JsonNode body) {
    Case made = new Case(body.path("pickleId").asText());
    for (JsonNode step : body.path("testSteps")) {
      String id = step.path("id").asText();
      if (step.has("pickleStepId")) {
        made.steps.put(id, step.path("pickleStepId").asText());
      } else {
        made.hookOfStep.put(id, step.path("hookId").asText());
      }
    }
    cases.put(body.path("id").asText(), made);
  }

  private void caseStarted(JsonNode body) {
    if (tries.size() > MAX_OPEN) {
      throw new UnreadableFileException("has more than " + MAX_OPEN + " scenarios under way");
    }
    Instant at = time(body.path("timestamp"));
    tries.put(
        body.path("id").asText(),
        new Try(
            body.path("testCaseId").asText(),
            at == null ? Instant.EPOCH : at,
            new TryParts(problems)));
    Case of = cases.get(body.path("testCaseId").asText());
    Scenarios.Pickle pickle = of == null ? null : scenarios.pickle(of.pickleId);
    if (pickle != null) {
      handler.onStart(pickle.test(), at);
    }
  }

  private void attachment(JsonNode body) {
    Try running = tries.get(body.path("testCaseStartedId").asText());
    if (running == null) {
      return;
    }
    String step = body.path("testStepId").asText();
    String type = values.text(body, "mediaType");
    String text = body.path("body").asText();
    boolean packed = body.path("contentEncoding").asText().equals("BASE64");
    if (LOG.equals(type) && !packed) {
      if (running.parts.roomForLog()) {
        running
            .logs
            .computeIfAbsent(step, s -> new ArrayList<>())
            .add(new LogLine(time(body.path("timestamp")), null, values.cut(text)));
      }
      return;
    }
    byte[] content = packed ? Values.base64(text) : text.getBytes(StandardCharsets.UTF_8);
    if (content == null) {
      problems.add("an attachment is not the base 64 that it says it is; it was left out");
      return;
    }
    String name =
        values.name(body, "fileName", "attachment " + (running.parts.attachmentCount() + 1));
    int place = running.parts.attach(Attachment.embedded(name, type, content));
    if (place >= 0) {
      running.attached.computeIfAbsent(step, s -> new ArrayList<>()).add(place);
    }
  }

  private void stepFinished(JsonNode body) {
    Try running = tries.get(body.path("testCaseStartedId").asText());
    Case of = running == null ? null : cases.get(running.caseId);
    if (running == null || of == null || !running.parts.roomForStep()) {
      return;
    }
    String id = body.path("testStepId").asText();
    JsonNode result = body.path("testStepResult");
    StepStatus status = StepStatus.of(result.path("status").asText());
    List<LogLine> logs = running.logs.getOrDefault(id, List.of());
    List<Integer> attached = running.attached.getOrDefault(id, List.of());
    String hook = of.hookOfStep.get(id);
    if (hook != null
        && status != StepStatus.FAILED
        && status != StepStatus.PENDING
        && logs.isEmpty()
        && attached.isEmpty()) {
      return;
    }
    Scenarios.Pickle pickle = scenarios.pickle(of.pickleId);
    String stepId = of.steps.getOrDefault(id, "");
    Scenarios.PickleStep written = pickle == null ? null : pickle.steps().get(stepId);
    String text =
        written != null ? written.text() : hook == null ? "" : hooks.getOrDefault(hook, "");
    String keyword = written != null ? written.keyword() : "Hook";
    Failure failure = failure(result);
    if (failure == null) {
      failure = status.explained(keyword == null ? text : keyword + " " + text);
    }
    running.steps.add(
        new Step(
            keyword,
            text,
            status.outcome(failure),
            status.told(),
            duration(result.path("duration")),
            failure,
            written == null ? null : written.argument(),
            written == null ? List.of() : written.table(),
            logs,
            attached,
            List.of()));
  }

  private @Nullable Failure failure(JsonNode result) {
    JsonNode exception = result.path("exception");
    String text = values.text(result, "message");
    String stack = values.text(exception, "stackTrace");
    String type = values.text(exception, "type");
    String message = values.text(exception, "message");
    return type == null && message == null && text == null
        ? null
        : StackText.of(type, message, stack == null ? text : stack);
  }

  private void caseFinished(JsonNode body) {
    Try ended = tries.remove(body.path("testCaseStartedId").asText());
    Case of = ended == null ? null : cases.get(ended.caseId);
    if (ended == null || of == null) {
      return;
    }
    Instant end = time(body.path("timestamp"));
    long micros =
        end == null || ended.started.equals(Instant.EPOCH)
            ? TestResult.NO_DURATION
            : Math.max(0, java.time.Duration.between(ended.started, end).toNanos() / 1000);
    of.attempts.add(attempt(ended, micros, null));
    if (of.started == null && !ended.started.equals(Instant.EPOCH)) {
      of.started = ended.started;
    }
    if (!body.path("willBeRetried").asBoolean()) {
      emit(ended.caseId, of);
    }
  }

  private Attempt attempt(Try ended, long micros, @Nullable Failure brokenOff) {
    ended.steps.forEach(ended.parts::step);
    List<Failure> failures = new ArrayList<>(StepStatus.failures(ended.steps));
    Outcome outcome = StepStatus.together(ended.steps);
    if (brokenOff != null) {
      failures.add(brokenOff);
      outcome = Outcome.ERRORED;
    }
    return ended.parts.attempt(outcome, micros, failures, null, null);
  }

  private void emit(String caseId, Case ended) {
    cases.remove(caseId);
    Scenarios.Pickle pickle = scenarios.pickle(ended.pickleId);
    if (pickle == null) {
      problems.add("a scenario was run that the file does not describe; it was left out");
      return;
    }
    String description = pickle.description();
    emit(
        TestResult.of(
                pickle.test(),
                ResultKind.TEST,
                ended.attempts,
                ended.started,
                description == null ? Map.of() : Map.of("description", description.strip()),
                pickle.file(),
                pickle.line())
            .tagged(pickle.tags()));
    scenarios.drop(ended.pickleId);
  }

  private void runHook(JsonNode body) {
    JsonNode result = body.path("result");
    if (StepStatus.of(result.path("status").asText()) == StepStatus.FAILED) {
      Failure failure = failure(result);
      setUp("a hook around all scenarios", failure == null ? List.of() : List.of(failure));
    }
  }

  private void setUp(String name, List<Failure> failures) {
    emit(
        TestResult.of(
            TestId.of(SuitePath.ROOT, name, null),
            ResultKind.SETUP,
            List.of(new Attempt(Outcome.ERRORED, TestResult.NO_DURATION, failures, null, null)),
            null,
            Map.of(),
            null,
            0));
  }

  private void parseError(JsonNode body) {
    String uri = values.name(body.path("source"), "uri", "a feature file");
    String message = values.text(body, "message");
    setUp(uri + " cannot be parsed", List.of(new Failure("parse error", message, null)));
  }

  private void runFinished(JsonNode body) {
    finished = true;
    Failure failure = failure(body);
    if (failure != null && !body.path("success").asBoolean(true)) {
      setUp("the run as a whole", List.of(failure));
    }
  }

  /** What has not ended when the file has. */
  @Override
  protected void end() {
    if (finished || (!started && tries.isEmpty())) {
      return;
    }
    handler.onBrokenOff("it has no testRunFinished: the test run ended before its time");
    for (Try running : List.copyOf(tries.values())) {
      Case of = cases.get(running.caseId);
      if (of != null) {
        Failure failure = new Failure("broken off", "the run broke off during this test", null);
        of.attempts.add(attempt(running, TestResult.NO_DURATION, failure));
        emit(running.caseId, of);
      }
    }
    for (Map.Entry<String, Case> waiting : List.copyOf(cases.entrySet())) {
      if (waiting.getValue().attempts.isEmpty()) {
        Failure failure = new Failure(null, "the run broke off before this test", null);
        waiting
            .getValue()
            .attempts
            .add(
                new Attempt(
                    Outcome.NOT_REACHED, TestResult.NO_DURATION, List.of(failure), null, null));
      }
      emit(waiting.getKey(), waiting.getValue());
    }
  }

  private static long duration(JsonNode duration) {
    return duration.isObject()
        ? Values.micros(duration.path("seconds"), 1_000_000)
            + Math.max(0, Values.micros(duration.path("nanos"), 0.001))
        : TestResult.NO_DURATION;
  }

  private static @Nullable Instant time(JsonNode timestamp) {
    try {
      return timestamp.isObject()
          ? Timestamps.sensible(
              Instant.ofEpochSecond(
                  timestamp.path("seconds").asLong(), timestamp.path("nanos").asLong()))
          : null;
    } catch (DateTimeException | ArithmeticException e) {
      return null;
    }
  }
}
