package org.vinecellar.core.formats.gotest;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.BoundedText;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.json.LinesReader;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Follows the events of all packages. A test with subtests is a suite; it counts as a test of its
 * own only when it went wrong by itself.
 */
final class GoTestParser extends LinesReader.Parser {
  private static final int MAX_RUNNING = 200_000;
  private static final int SETUP_CHARS = 1_000_000;

  private final Values values;
  private final Map<String, Package> packages = new LinkedHashMap<>();
  private final BoundedText build = new BoundedText(SETUP_CHARS);
  private final PrintedTests printed = new PrintedTests(this::event);
  private boolean json;
  private int strangeLines;

  private static final class Package {
    private final Map<String, RunningTest> running = new LinkedHashMap<>();
    private final BoundedText output = new BoundedText(SETUP_CHARS);
    private final Set<String> failed = new HashSet<>();
    private boolean failing;

    /** Whether its process has ended: tests that come after that are tried again. */
    private boolean ended;
  }

  GoTestParser(ReadLimits limits, CaseHandler handler, Problems problems) {
    super(limits, handler, problems);
    this.values = new Values(limits);
  }

  /** A line that is no event: of the compiler, or of a build that failed. */
  @Override
  protected void other(String text, int line) {
    if (!json && printed.line(text)) {
      return;
    }
    if (text.startsWith("FAIL\t")) {
      String[] words = text.split("\\s+", 3);
      if (words.length == 3 && !packages.containsKey(words[1])) {
        boolean time = words[2].matches("[0-9].*");
        setUp(
            words[1],
            time ? "failed outside of its tests" : words[2].replaceAll("^\\[|\\]$", ""),
            build.take());
      }
    } else if (text.startsWith("{")) {
      problems.add("line " + line + " is no JSON object and was left out");
    } else {
      strangeLines++;
      build.add(text);
    }
  }

  @Override
  protected void object(JsonNode event, int line) {
    json = true;
    event(event);
  }

  private void event(JsonNode event) {
    String action = event.path("Action").asText();
    switch (action) {
      case "build-output" -> build.add(withoutEnd(event.path("Output").asText()));
      case "build-fail" -> {
        // the package's own failure follows
      }
      default -> {
        String path = values.text(event, "Package");
        if (path != null) {
          of(path, action, event);
        }
      }
    }
  }

  private void of(String path, String action, JsonNode event) {
    Package of = packages.computeIfAbsent(path, p -> new Package());
    String name = values.text(event, "Test");
    if (name == null) {
      ofPackage(path, of, action, event);
    } else {
      ofTest(path, of, values.name(name), action, event);
    }
  }

  private void ofPackage(String path, Package of, String action, JsonNode event) {
    switch (action) {
      case "output" -> {
        String line = withoutEnd(event.path("Output").asText());
        if (!line.startsWith("FAIL\t") && !line.startsWith("ok  \t") && !line.equals("PASS")) {
          of.output.add(line);
        }
      }
      case "pass", "skip" -> {
        close(path, of, Outcome.PASSED);
        of.ended = true;
      }
      case "fail" -> {
        of.ended = true;
        close(path, of, Outcome.FAILED);
        if (!of.failing) {
          String why = of.output.take();
          String compiler = event.has("FailedBuild") ? build.take() : null;
          setUp(
              path,
              event.has("FailedBuild") ? "build failed" : "failed outside of its tests",
              compiler == null ? why : compiler);
        }
      }
      default -> {
        // "start" tells nothing
      }
    }
  }

  private void ofTest(String path, Package of, String name, String action, JsonNode event) {
    switch (action) {
      case "run" -> begin(path, of, name, event);
      case "output" -> {
        RunningTest test = of.running.get(name);
        if (test != null) {
          test.print(event.path("Output").asText(), limits.maxTextChars());
        }
      }
      case "pass" -> end(path, of, name, Outcome.PASSED, event);
      case "skip" -> end(path, of, name, Outcome.SKIPPED, event);
      case "fail" -> end(path, of, name, Outcome.FAILED, event);
      default -> {
        // paused and continued: no matter
      }
    }
  }

  private void begin(String path, Package of, String name, JsonNode event) {
    if (of.running.size() > MAX_RUNNING) {
      throw new UnreadableFileException("has more than " + MAX_RUNNING + " tests under way");
    }
    RunningTest test =
        new RunningTest(name, limits.maxTextChars(), Values.time(event.path("Time")), of.ended);
    of.running.put(name, test);
    handler.onStart(id(path, name), test.started());
    RunningTest parent = parent(of, name);
    if (parent != null) {
      parent.child(false);
    }
  }

  private static @Nullable RunningTest parent(Package of, String name) {
    for (int at = name.lastIndexOf('/'); at > 0; at = name.lastIndexOf('/', at - 1)) {
      RunningTest parent = of.running.get(name.substring(0, at));
      if (parent != null) {
        return parent;
      }
    }
    return null;
  }

  private void end(String path, Package of, String name, Outcome outcome, JsonNode event) {
    RunningTest test = of.running.get(name);
    if (test == null) {
      // Something printed what looks like the end of a test.
      problems.add("the test “" + name + "” ends without having begun; it was left out");
      return;
    }
    end(path, of, name, test, outcome, Values.micros(event.path("Elapsed"), 1_000_000), null);
  }

  private void end(
      String path,
      Package of,
      String name,
      RunningTest test,
      Outcome reported,
      long micros,
      @Nullable String reason) {
    of.running.remove(name);
    boolean failing = reported.isFailing();
    of.failing |= failing;
    RunningTest parent = parent(of, name);
    if (parent != null) {
      parent.child(failing);
    }
    if (test.hasChildren() && (!failing || test.childFailed())) {
      handler.onEnd(id(path, name));
      return;
    }
    boolean ownFault = failing || reported == Outcome.NOT_REACHED;
    Outcome outcome = reported == Outcome.FAILED && test.panicked() ? Outcome.ERRORED : reported;
    RunningTest.Ending ending = test.take(ownFault);
    Failure told = ending.failure();
    boolean keeps = ownFault || outcome == Outcome.SKIPPED;
    List<Failure> failures = new ArrayList<>();
    if (reason != null) {
      failures.add(new Failure("no end", reason, told == null ? null : told.trace()));
    } else if (keeps && told != null && (told.message() != null || told.trace() != null)) {
      failures.add(told);
    }
    emit(
        TestResult.of(
            id(path, name),
            ResultKind.TEST,
            List.of(new Attempt(outcome, micros, failures, ending.output(), null)),
            test.started(),
            Map.of(),
            null,
            0),
        test.isAgain() && of.failed.contains(name) ? Repeat.RETRY : Repeat.OTHER);
    if (outcome.isFailing() && of.failed.size() < MAX_RUNNING) {
      of.failed.add(name);
    }
  }

  private static TestId id(String path, String name) {
    SuitePath suite = SuitePath.ROOT.child(path);
    String[] words = name.split("/");
    for (int i = 0; i < words.length - 1; i++) {
      suite = suite.child(words[i]);
    }
    return TestId.ofPrinted(suite, words.length == 0 ? name : words[words.length - 1]);
  }

  /** Ends tests that had no event of their end. */
  private void close(String path, Package of, Outcome outcome) {
    List<String> names = new ArrayList<>(of.running.keySet());
    for (int i = names.size() - 1; i >= 0; i--) {
      RunningTest test = of.running.get(names.get(i));
      if (test == null) {
        continue;
      }
      Outcome printed = test.printedEnd();
      if (printed == null && outcome == Outcome.PASSED) {
        printed = Outcome.PASSED;
      }
      end(
          path,
          of,
          names.get(i),
          test,
          printed == null ? Outcome.ERRORED : printed,
          TestResult.NO_DURATION,
          printed == null && !test.panicked()
              ? "the test has no end: its process ended before, or its time was up"
              : null);
    }
  }

  private void setUp(String path, String why, @Nullable String output) {
    SuitePath suite = SuitePath.ROOT.child(values.name(path));
    Failure failure = new Failure("package", why, output);
    emit(FailedSetUp.of(suite, null, failure));
  }

  @Override
  protected void end() {
    printed.end();
    if (printed.isCut()) {
      problems.add("not all that the tests of a package printed is kept; it is in the raw file");
    }
    if (printed.quiet() > 0) {
      problems.add(
          printed.quiet()
              + (printed.quiet() == 1 ? " package" : " packages")
              + " passed without naming their tests; go test -v or -json tells them");
    }
    boolean open = false;
    for (Map.Entry<String, Package> entry : packages.entrySet()) {
      open |= !entry.getValue().running.isEmpty();
      close(entry.getKey(), entry.getValue(), Outcome.ERRORED);
    }
    if (open) {
      handler.onBrokenOff("tests have no end: the test run ended before its time");
    }
    if (strangeLines > 0 && build.take() != null) {
      problems.add(strangeLines + " lines that are no events are in the raw file only");
    }
  }

  private static String withoutEnd(String line) {
    return line.endsWith("\n") ? line.substring(0, line.length() - 1) : line;
  }
}
