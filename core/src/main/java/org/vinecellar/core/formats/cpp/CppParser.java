package org.vinecellar.core.formats.cpp;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * What Catch2 and doctest write alike: test cases with the checks that did not hold, nested in
 * sections, and a verdict at the end of each, which counts.
 */
abstract class CppParser extends DocumentReader.Parser {
  private static final int MAX_FAILURES = 100;

  private @Nullable Draft open;

  /** The case that is being read. */
  static final class Draft {
    final SuitePath suite;
    final @Nullable String name;
    final List<String> tags;
    final @Nullable String file;
    final int line;
    final List<Failure> failures = new ArrayList<>();
    boolean crashed;

    /** Null until it is told. */
    @Nullable Boolean success;

    boolean skipped;
    long micros = TestResult.NO_DURATION;

    Draft(
        SuitePath suite,
        @Nullable String name,
        List<String> tags,
        @Nullable String file,
        int line) {
      this.suite = suite;
      this.name = name;
      this.tags = tags;
      this.file = file;
      this.line = line;
    }
  }

  CppParser(DocumentReader.Source source) {
    super(source);
  }

  /** A case of that suite, on whose start the tokenizer stands. */
  protected final void testCase(SuitePath suite) throws XMLStreamException {
    Draft draft =
        new Draft(suite, attribute("name"), tags(attribute("tags")), attribute("filename"), line());
    draft.skipped = "true".equals(attribute("skipped"));
    open = draft;
    inside(draft, "");
    open = null;
    emit(result(draft));
  }

  /** The framework's own count of cases that failed. */
  protected final void counted() {
    String failures = attribute("failures");
    if (failures != null && !failures.equals("0")) {
      failed("it counts " + failures + " failed cases");
    }
  }

  private void inside(Draft draft, String sections) throws XMLStreamException {
    children(
        element -> {
          switch (element) {
            case "Section", "SubCase" -> {
              String name = attribute("name");
              inside(draft, sections + (sections.isEmpty() ? "" : " › ") + name);
            }
            case "Expression" -> expression(draft, sections);
            case "Exception" -> fault(draft, "exception", sections);
            case "FatalErrorCondition" -> fault(draft, "crash", sections);
            case "Failure" -> said(draft, sections);
            case "Message" -> message(draft, sections);
            case "Skip" -> {
              draft.skipped = true;
              said(draft, sections);
            }
            case "OverallResult", "OverallResultsAsserts" -> {
              verdict(draft);
              return false;
            }
            default -> {
              return false;
            }
          }
          return true;
        });
  }

  private void expression(Draft draft, String sections) throws XMLStreamException {
    boolean held = "true".equals(attribute("success"));
    String type = attribute("type");
    String place = place();
    @Nullable String[] told = new String[2];
    children(
        element -> {
          switch (element) {
            case "Original" -> told[0] = text();
            case "Expanded" -> told[1] = text();
            case "Exception" -> {
              draft.crashed = true;
              told[1] = "threw " + text();
            }
            default -> {
              return false;
            }
          }
          return true;
        });
    if (!held) {
      String check = (type == null ? "CHECK" : type) + "( " + told[0] + " )";
      String expanded = told[1] == null || told[1].equals(told[0]) ? "" : ": " + told[1];
      add(draft, new Failure(type, check + expanded, trace(place, sections)));
    }
  }

  private void fault(Draft draft, String type, String sections) throws XMLStreamException {
    String place = place();
    draft.crashed = true;
    add(draft, new Failure(type, text(), trace(place, sections)));
  }

  private void said(Draft draft, String sections) throws XMLStreamException {
    String place = place();
    add(draft, new Failure(null, text(), trace(place, sections)));
  }

  /** doctest's messages: only those of a failure count. */
  private void message(Draft draft, String sections) throws XMLStreamException {
    String type = String.valueOf(attribute("type"));
    String place = place();
    @Nullable String[] told = new String[1];
    children(
        element -> {
          told[0] = text();
          return true;
        });
    if (!type.equals("WARNING") && told[0] != null) {
      add(draft, new Failure(null, told[0], trace(place, sections)));
    }
  }

  private static void add(Draft draft, Failure failure) {
    if (draft.failures.size() < MAX_FAILURES) {
      draft.failures.add(failure);
    }
  }

  private void verdict(Draft draft) {
    String catches = attribute("success");
    String success = catches == null ? attribute("test_case_success") : catches;
    draft.success = "true".equals(success);
    String skips = attribute("skips");
    draft.skipped |= skips != null && !skips.equals("0") && draft.success;
    String catchTime = attribute("durationInSeconds");
    String time = catchTime == null ? attribute("duration") : catchTime;
    draft.micros = time == null ? TestResult.NO_DURATION : Seconds.toMicros(time);
  }

  /** What a case that failed, and was expected to, is to its framework. */
  protected abstract Outcome asExpected();

  private TestResult result(Draft draft) {
    Outcome outcome = outcome(draft);
    List<Failure> failures = outcome == Outcome.PASSED ? List.of() : draft.failures;
    return TestResult.of(
            TestId.ofPrinted(
                draft.suite, draft.name == null ? "(case without a name)" : draft.name),
            ResultKind.TEST,
            List.of(new Attempt(outcome, draft.micros, failures, null, null)),
            null,
            outcome == Outcome.PASSED && !draft.failures.isEmpty()
                ? Map.of("expected", "to fail")
                : Map.of(),
            draft.file,
            draft.line)
        .tagged(draft.tags);
  }

  private Outcome outcome(Draft draft) {
    Boolean success = draft.success;
    if (success == null && !draft.skipped) {
      add(draft, new Failure("no end", "the case has no end: its process ended before", null));
      return Outcome.ERRORED;
    }
    if (draft.skipped && !Boolean.FALSE.equals(success)) {
      return Outcome.SKIPPED;
    }
    if (Boolean.TRUE.equals(success)) {
      return draft.failures.isEmpty() ? Outcome.PASSED : asExpected();
    }
    return draft.crashed ? Outcome.ERRORED : Outcome.FAILED;
  }

  @Override
  protected void cutOff() {
    Draft draft = open;
    if (draft != null) {
      draft.success = null;
      draft.skipped = false;
      emit(result(draft));
    }
  }

  private @Nullable String text() throws XMLStreamException {
    String text = texts.text();
    return text == null ? null : text.strip();
  }

  private @Nullable String place() {
    String file = attribute("filename");
    return file == null ? null : file + ":" + attribute("line");
  }

  private static @Nullable String trace(@Nullable String place, String sections) {
    String where = place == null ? "" : "at " + place;
    String in = sections.isEmpty() ? "" : "in " + sections;
    String all = in + (in.isEmpty() || where.isEmpty() ? "" : "\n") + where;
    return all.isEmpty() ? null : all;
  }

  private int line() {
    String line = attribute("line");
    return line != null && line.matches("[0-9]{1,9}") ? Integer.parseInt(line) : 0;
  }

  /** Of {@code [smoke][.slow]}; what begins with other signs steers the framework. */
  private static List<String> tags(@Nullable String told) {
    List<String> tags = new ArrayList<>();
    if (told != null) {
      for (String word : told.split("[\\[\\]]+")) {
        if (!word.isEmpty() && Character.isLetterOrDigit(word.charAt(0))) {
          tags.add(word);
        }
      }
    }
    return tags;
  }
}
