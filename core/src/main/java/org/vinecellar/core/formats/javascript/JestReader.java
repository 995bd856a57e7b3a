package org.vinecellar.core.formats.javascript;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.json.DocumentReader;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Reads the JSON of Jest, which Vitest writes too. */
public final class JestReader extends DocumentReader {
  @Override
  public String format() {
    return "jest-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array() && json.has("numTotalTests", "numTotalTestSuites");
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new JestParser(limits, handler, problems);
  }

  private static final class JestParser extends Parser {
    private static final String HEADLINE = "^● Test suite failed to run\\s*";
    private static final String BEFORE = "the file failed before its first test";
    private static final String AROUND =
        "the file failed, but none of its tests did: a hook around them";

    JestParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "testResults" -> document.array(() -> file(document.tree()));
              case "success" -> {
                if (document.tree().asText().equals("false")) {
                  failed("“success” is false");
                }
              }
              case "wasInterrupted" -> {
                if (document.tree().asBoolean()) {
                  brokenOff("the file says that the test run was interrupted");
                }
              }
              default -> {
                // sums
              }
            }
          });
    }

    private void file(JsonNode file) {
      String path = values.name(file, "name", "(file without a name)");
      String base = path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
      JsonNode tests = file.path("assertionResults");
      boolean failed = file.path("status").asText().equals("failed");
      boolean shown = false;
      for (JsonNode test : tests) {
        shown |= test.path("status").asText().equals("failed");
      }
      // A hook around its tests may have failed, or the file itself.
      if (failed && !shown) {
        String message = said(values.text(file, "message"));
        emitSetUp(
            SuitePath.ROOT.child(base),
            null,
            message == null
                ? new Failure(null, tests.isEmpty() ? BEFORE : AROUND, null)
                : StackText.parsed(message));
      }
      tests.forEach(test -> test(test, path, base));
    }

    private static @Nullable String said(@Nullable String message) {
      String text = message == null ? "" : message.strip().replaceFirst(HEADLINE, "");
      return text.isBlank() ? null : text.strip();
    }

    private void test(JsonNode test, String path, String base) {
      List<String> groups = new ArrayList<>();
      test.path("ancestorTitles").forEach(title -> groups.add(values.name(title.asText())));
      SuitePath suite = SuitePath.of(groups.isEmpty() ? List.of(base) : groups);
      List<String> tags = new ArrayList<>();
      test.path("tags").forEach(tag -> tags.add(values.name(tag.asText())));
      emit(
          TestResult.of(
                  TestId.ofPrinted(suite, values.name(test, "title", "(test without a name)")),
                  ResultKind.TEST,
                  attempts(test),
                  Values.time(test.path("startAt")),
                  Map.of(),
                  path,
                  Values.line(test.path("location").path("line")))
              .tagged(tags));
    }

    private List<Attempt> attempts(JsonNode test) {
      List<Failure> failures = failures(test.path("failureMessages"));
      String status = test.path("status").asText();
      long micros = Values.micros(test.path("duration"), 1000);
      List<Attempt> attempts = earlier(test, status.equals("passed") ? failures : List.of());
      boolean wrong = status.equals("failed");
      attempts.add(
          new Attempt(outcome(status, failures), micros, wrong ? failures : List.of(), null, null));
      return attempts;
    }

    /** Vitest leaves the failures of earlier tries with a pass; Jest tells them apart. */
    private List<Attempt> earlier(JsonNode test, List<Failure> passedWith) {
      List<Attempt> tries = new ArrayList<>();
      List<Failure> told = new ArrayList<>(failures(test.path("retryReasons")));
      told.addAll(passedWith);
      for (Failure failure : told) {
        tries.add(new Attempt(kind(failure), TestResult.NO_DURATION, List.of(failure), null, null));
      }
      int invocations = test.path("invocations").asInt(1);
      tries.addAll(EarlierTries.untold(invocations - 1 - tries.size()));
      return tries;
    }

    private List<Failure> failures(JsonNode messages) {
      List<Failure> failures = new ArrayList<>();
      for (JsonNode message : messages) {
        String text = values.text(message);
        if (text != null && failures.size() < 100) {
          failures.add(StackText.parsed(text));
        }
      }
      return failures;
    }

    private static Outcome outcome(String status, List<Failure> failures) {
      return switch (status) {
        case "passed" -> Outcome.PASSED;
        case "failed" -> kind(failures.isEmpty() ? null : failures.get(0));
        default -> Outcome.SKIPPED;
      };
    }

    private static Outcome kind(@Nullable Failure failure) {
      return failure == null ? Outcome.FAILED : FailureKind.of(failure.type(), failure.message());
    }
  }
}
