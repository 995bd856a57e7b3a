package org.vinecellar.core.formats.robot;

import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** The grammar of one file, by descent: suites, tests, keywords. */
final class RobotParser extends DocumentReader.Parser {
  private static final int MAX_TAGS = 100;

  /** What kept a test from being run. */
  private static final List<String> NOT_REACHED =
      List.of(
          "Parent suite setup failed:",
          "Test execution stopped due to a fatal error.",
          "Failure occurred and exit-on-failure mode is in use.",
          "Error occurred and exit-on-error mode is in use.",
          "Critical failure occurred and exit-on-failure mode is in use.");

  /** The tag of tests that were left out since another one ended the run. */
  private static final String LEFT_OUT = "robot:exit";

  /** What goes wrong without an expectation. */
  private static final Pattern ERROR =
      Pattern.compile(
          "^(?:Setup failed:|Teardown failed:|No keyword with name |(?:Test|Task|Keyword) timeout "
              + "|Keyword '[^']*' expected |Variable '[^']*' not found|Invalid syntax)");

  private static final String ALSO_TEARDOWN = "\n\nAlso teardown failed:\n";

  /** How a message begins that tells of what is around a test. */
  private static final Map<String, String> AROUND =
      Map.of(
          "Setup failed:", "setup",
          "Teardown failed:", "teardown",
          "Parent suite setup failed:", "suite setup");

  private final KeywordParser keywords;
  private @Nullable TestId running;

  RobotParser(DocumentReader.Source source) {
    super(source);
    this.keywords = new KeywordParser(xml, texts, problems);
  }

  @Override
  protected void root() throws XMLStreamException {
    property("generator", attribute("generator"));
    children(
        element -> {
          switch (element) {
            case "suite" -> suite(SuitePath.ROOT);
            case "statistics" -> statistics();
            case "errors" -> errors();
            default -> {
              return false;
            }
          }
          return true;
        });
  }

  private void suite(SuitePath around) throws XMLStreamException {
    String name = attribute("name");
    String source = attribute("source");
    SuitePath suite = name == null ? around : around.child(name);
    Status[] status = {Status.NONE};
    boolean[] told = {false};
    children(
        element -> {
          switch (element) {
            case "suite" -> suite(suite);
            case "test", "task" -> test(suite, source);
            case "kw" -> told[0] |= hook(suite);
            case "status" -> status[0] = Status.read(texts);
            default -> {
              return false;
            }
          }
          return true;
        });
    if (status[0].isFail() && !told[0]) {
      failed("the status of the suite “" + suite.name() + "”");
    }
  }

  /** A set-up or teardown of a suite; true when it failed, which is told. */
  private boolean hook(SuitePath suite) throws XMLStreamException {
    TryParts parts = new TryParts(problems);
    KeywordParser.Keyword keyword = keywords.read("kw", parts);
    if (!keyword.status().isFail()) {
      return false;
    }
    if (keyword.step() != null) {
      parts.step(keyword.step());
    }
    String message = keyword.status().message();
    Attempt attempt =
        parts.attempt(
            Outcome.ERRORED,
            keyword.status().micros(),
            List.of(new Failure(null, message == null ? firstFailure(keyword) : message, null)),
            null,
            null);
    boolean teardown = keyword.kind().equals("TEARDOWN");
    emit(
        TestResult.of(
            TestId.of(suite, keyword.name() + (teardown ? " (teardown)" : " (set-up)"), null),
            ResultKind.SETUP,
            List.of(attempt),
            keyword.status().started(),
            Map.of(),
            null,
            0));
    return true;
  }

  /** What a keyword of older versions logged when it failed: its status says nothing. */
  private static String firstFailure(KeywordParser.Keyword keyword) {
    var step = keyword.step();
    while (step != null) {
      for (var line : step.logs()) {
        if ("FAIL".equals(line.level())) {
          return line.text();
        }
      }
      step =
          step.steps().stream()
              .filter(inner -> inner.outcome() == Outcome.FAILED)
              .findFirst()
              .orElse(null);
    }
    return "“" + keyword.name() + "” failed";
  }

  private void test(SuitePath suite, @Nullable String source) throws XMLStreamException {
    String name = attribute("name");
    String line = attribute("line");
    TestId id = TestId.of(suite, name == null ? "(unnamed)" : name, null);
    running = id;
    TryParts parts = new TryParts(problems);
    Status[] status = {Status.NONE};
    List<String> tags = new ArrayList<>();
    Map<String, String> properties = new LinkedHashMap<>();
    children(
        element -> {
          if (KeywordParser.isKeyword(element)) {
            KeywordParser.Keyword keyword = keywords.read(element, parts);
            if (keyword.step() != null) {
              parts.step(keyword.step());
            }
            return true;
          }
          switch (element) {
            case "tag" -> tag(tags, texts.text());
            case "tags" -> {
              while (texts.nextChild()) {
                tag(tags, texts.text());
              }
            }
            case "doc" -> {
              String text = texts.text();
              if (text != null) {
                properties.put("documentation", text);
              }
            }
            case "status" -> {
              if ("no".equals(attribute("critical"))) {
                properties.put("critical", "no");
              }
              status[0] = Status.read(texts);
            }
            default -> {
              return false;
            }
          }
          return true;
        });
    running = null;
    emit(result(id, status[0], parts, properties, source, line).tagged(tags));
  }

  private static TestResult result(
      TestId id,
      Status status,
      TryParts parts,
      Map<String, String> properties,
      @Nullable String source,
      @Nullable String line) {
    return TestResult.of(
        id,
        ResultKind.TEST,
        List.of(
            parts.attempt(
                outcome(status), status.micros(), failures(status.message()), null, null)),
        status.started(),
        properties,
        source,
        line != null && line.matches("[0-9]{1,9}") ? Integer.parseInt(line) : 0);
  }

  private static void tag(List<String> tags, @Nullable String tag) {
    if (tag != null && !tag.equals(LEFT_OUT) && tags.size() < MAX_TAGS) {
      tags.add(tag);
    }
  }

  private static Outcome outcome(Status status) {
    String message = status.message() == null ? "" : status.message();
    return switch (status.word()) {
      case "PASS" -> Outcome.PASSED;
      case "SKIP" -> Outcome.SKIPPED;
      case "NOT RUN", "NOT_RUN" -> Outcome.NOT_REACHED;
      case "FAIL" ->
          NOT_REACHED.stream().anyMatch(message::startsWith)
              ? Outcome.NOT_REACHED
              : ERROR.matcher(message).find() ? Outcome.ERRORED : Outcome.FAILED;
      default -> Outcome.ERRORED;
    };
  }

  /** What the test said, and what its teardown said beside it; where it went wrong is the type. */
  private static List<Failure> failures(@Nullable String message) {
    if (message == null) {
      return List.of();
    }
    int also = message.indexOf(ALSO_TEARDOWN);
    Failure first = failure(also < 0 ? message : message.substring(0, also));
    return also < 0
        ? List.of(first)
        : List.of(
            first, new Failure("teardown", message.substring(also + ALSO_TEARDOWN.length()), null));
  }

  private static Failure failure(String message) {
    for (Map.Entry<String, String> around : AROUND.entrySet()) {
      String rest = message.substring(Math.min(around.getKey().length(), message.length()));
      if (message.startsWith(around.getKey()) && !rest.isBlank()) {
        return new Failure(around.getValue(), rest.strip(), null);
      }
    }
    return new Failure(null, message, null);
  }

  /** The first number of all is what the file's own count says of it. */
  private void statistics() throws XMLStreamException {
    children(
        group -> {
          if (!group.equals("total")) {
            return false;
          }
          children(
              stat -> {
                String fail = attribute("fail");
                if (fail != null && !fail.matches("0+")) {
                  failed("its statistics count " + fail + " that failed");
                }
                return false;
              });
          return true;
        });
  }

  /** What went wrong while files were read, such as a library that is not there. */
  private void errors() throws XMLStreamException {
    children(
        element -> {
          String level = attribute("level");
          if (level == null || !level.toUpperCase(Locale.ROOT).equals("ERROR")) {
            return false;
          }
          String text = texts.text();
          if (text != null) {
            problems.add("the framework says: " + text.lines().findFirst().orElse(""));
          }
          return true;
        });
  }

  @Override
  protected void cutOff() {
    TestId id = running;
    if (id != null) {
      emit(
          TestResult.of(
              id,
              ResultKind.TEST,
              List.of(
                  new Attempt(
                      Outcome.ERRORED,
                      TestResult.NO_DURATION,
                      List.of(
                          new Failure(
                              null, "the test run ended while this test was running", null)),
                      null,
                      null)),
              null,
              Map.of(),
              null,
              0));
    }
  }
}
