package org.vinecellar.core.formats.dotnet;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/**
 * Reads TRX, as Visual Studio's test platform writes it. Which class a test is of stands behind all
 * results; they wait for it.
 */
public final class TrxReader extends DocumentReader {
  @Override
  public String format() {
    return "trx";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("TestRun");
  }

  @Override
  protected Parser parser(Source source) {
    return new TrxParser(source);
  }

  private static final class TrxParser extends Parser {
    private static final int MAX_WAITING = 500_000;

    private final List<Waiting> waiting = new ArrayList<>();
    private final Map<String, Definition> definitions = new HashMap<>();

    /** A result whose class is not known yet. */
    private record Waiting(String testId, String name, Attempt attempt, @Nullable String start) {}

    /** What a test is. */
    private record Definition(@Nullable String className, List<String> tags, Variant framework) {}

    TrxParser(Source source) {
      super(source);
    }

    @Override
    protected void root() throws XMLStreamException {
      children(
          element -> {
            switch (element) {
              case "Results" -> children(this::result);
              case "TestDefinitions" -> children(this::definition);
              case "ResultSummary" -> children(this::summary);
              default -> {
                return false;
              }
            }
            return true;
          });
      emitAll();
    }

    @Override
    protected void cutOff() {
      emitAll();
    }

    private boolean result(String element) throws XMLStreamException {
      if (!element.endsWith("TestResult")) {
        return false;
      }
      if (waiting.size() >= MAX_WAITING) {
        throw new UnreadableFileException(
            "has more than " + MAX_WAITING + " results; split it into several files");
      }
      TryParts parts = new TryParts(problems);
      String id = String.valueOf(attribute("testId"));
      String name = attribute("testName");
      String outcome = String.valueOf(attribute("outcome"));
      String duration = attribute("duration");
      String start = attribute("startTime");
      List<Failure> failures = new ArrayList<>();
      @Nullable String[] printed = new String[2];
      int before = waiting.size();
      children(
          inner -> {
            switch (inner) {
              case "Output" -> children(part -> output(part, failures, printed));
              case "ResultFiles" -> children(file -> file(parts));
              // A test with rows of data: the rows are the results.
              case "InnerResults" -> children(this::result);
              default -> {
                return false;
              }
            }
            return true;
          });
      if (waiting.size() == before) {
        waiting.add(
            new Waiting(
                id,
                name == null ? "(test without a name)" : name,
                parts.attempt(
                    outcome(outcome, failures),
                    duration == null ? TestResult.NO_DURATION : Seconds.toMicros(duration),
                    failures,
                    printed[0],
                    printed[1]),
                start));
      }
      return true;
    }

    private boolean output(String element, List<Failure> failures, @Nullable String[] printed)
        throws XMLStreamException {
      switch (element) {
        case "StdOut" -> printed[0] = texts.text();
        case "StdErr" -> printed[1] = texts.text();
        case "ErrorInfo" -> {
          @Nullable String[] told = new String[2];
          children(
              part -> {
                String text = texts.text();
                if (part.equals("Message")) {
                  told[0] = text;
                } else if (part.equals("StackTrace")) {
                  told[1] = text;
                }
                return true;
              });
          String type = told[0] == null ? null : StackText.parsed(told[0]).type();
          failures.add(new Failure(type, told[0], told[1]));
        }
        default -> {
          return false;
        }
      }
      return true;
    }

    private boolean file(TryParts parts) {
      String path = attribute("path");
      if (path != null) {
        parts.attach(Attachment.at(path, null, null));
      }
      return false;
    }

    private boolean definition(String element) throws XMLStreamException {
      String id = attribute("id");
      Variant framework = TargetFramework.of(null, attribute("storage"));
      @Nullable String[] className = new String[1];
      List<String> tags = new ArrayList<>();
      children(
          inner -> {
            if (inner.equals("TestMethod")) {
              className[0] = attribute("className");
            } else if (inner.equals("TestCategory")) {
              children(
                  item -> {
                    String tag = attribute("TestCategory");
                    if (tag != null) {
                      tags.add(tag);
                    }
                    return false;
                  });
              return true;
            }
            return false;
          });
      if (id != null && definitions.size() < MAX_WAITING) {
        definitions.put(id, new Definition(className[0], tags, framework));
      }
      return true;
    }

    /** What the run as a whole said: an aborted run shows only here. */
    private boolean summary(String element) throws XMLStreamException {
      if (!element.equals("RunInfos")) {
        return false;
      }
      children(
          info -> {
            boolean wrong = "Error".equals(attribute("outcome"));
            @Nullable String[] said = new String[1];
            children(
                text -> {
                  said[0] = texts.text();
                  return true;
                });
            if (wrong && said[0] != null) {
              if (said[0].contains("abort") || said[0].contains("Abort")) {
                brokenOff(said[0].lines().findFirst().orElse(""));
              }
              emitSetUp(SuitePath.ROOT, new Failure(null, said[0], null));
            }
            return true;
          });
      return true;
    }

    private void emitAll() {
      for (Waiting result : waiting) {
        Definition definition = definitions.get(result.testId());
        String className = definition == null ? null : definition.className();
        String name = result.name();
        String plain = className == null ? null : className.replaceFirst(", .*$", "");
        SuitePath suite =
            plain == null ? SuitePath.ROOT.child("(no class)") : SuitePath.ROOT.child(plain);
        String own =
            plain != null && name.startsWith(plain + ".")
                ? name.substring(plain.length() + 1)
                : name;
        String start = result.start();
        emit(
            TestResult.of(
                    TestId.ofPrinted(suite, own)
                        .in(definition == null ? Variant.NONE : definition.framework()),
                    ResultKind.TEST,
                    List.of(result.attempt()),
                    start == null ? null : Timestamps.parse(start),
                    Map.of(),
                    null,
                    0)
                .tagged(definition == null ? List.of() : definition.tags()));
      }
      waiting.clear();
    }

    private static Outcome outcome(String outcome, List<Failure> failures) {
      return switch (outcome) {
        case "Passed", "PassedButRunAborted", "Warning", "Completed" -> Outcome.PASSED;
        case "Failed" ->
            failures.isEmpty()
                ? Outcome.FAILED
                : kind(failures.get(0).type(), failures.get(0).message());
        case "NotExecuted", "NotRunnable", "Pending", "Inconclusive", "Disconnected" ->
            Outcome.SKIPPED;
        default -> Outcome.ERRORED;
      };
    }

    /** Of an exception nobody expected, the platform says that a method threw it. */
    private static Outcome kind(@Nullable String type, @Nullable String message) {
      boolean thrown =
          message != null && message.contains("threw exception")
              || type != null
                  && FailureKind.of(type, null) == Outcome.ERRORED
                  && type.endsWith("Exception");
      return thrown ? Outcome.ERRORED : Outcome.FAILED;
    }
  }
}
