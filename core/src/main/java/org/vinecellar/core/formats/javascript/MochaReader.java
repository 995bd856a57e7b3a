package org.vinecellar.core.formats.javascript;

import com.fasterxml.jackson.databind.JsonNode;
import com.google.re2j.Pattern;
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

/**
 * Reads Mocha's JSON. Its three lists by outcome are read, since the list of all tests does not say
 * which of them were pending, and leaves hooks out.
 */
public final class MochaReader extends DocumentReader {
  @Override
  public String format() {
    return "mocha-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array() && json.has("stats", "stats/passes", "stats/pending");
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new MochaParser(limits, handler, problems);
  }

  private static final class MochaParser extends Parser {
    private static final Pattern HOOK = Pattern.compile("^\"(before|after) (all|each)\" hook");

    MochaParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "pending" -> document.array(() -> test(document.tree(), Outcome.SKIPPED));
              case "failures" -> document.array(() -> test(document.tree(), Outcome.FAILED));
              case "passes" -> document.array(() -> test(document.tree(), Outcome.PASSED));
              default -> {
                // sums, and the list of all
              }
            }
          });
    }

    private void test(JsonNode test, Outcome list) {
      String name = values.name(test, "title", "(test without a name)");
      String sentence = values.name(test, "fullTitle", name);
      String file = values.text(test, "file");
      String group =
          sentence.endsWith(name)
              ? sentence.substring(0, sentence.length() - name.length()).strip()
              : "";
      SuitePath suite = group.isEmpty() ? SuitePath.ROOT : SuitePath.ROOT.child(group);
      Failure failure = failure(test.path("err"));
      if (list == Outcome.FAILED && HOOK.matcher(name).find()) {
        emitSetUp(
            suite, name, failure == null ? new Failure(null, "the hook failed", null) : failure);
        return;
      }
      Outcome outcome =
          list == Outcome.FAILED && failure != null
              ? FailureKind.of(failure.type(), failure.message())
              : list;
      List<Attempt> attempts = EarlierTries.untold(test.path("currentRetry").asInt());
      attempts.add(
          new Attempt(
              outcome,
              Values.micros(test.path("duration"), 1000),
              failure == null ? List.of() : List.of(failure),
              null,
              null));
      emit(
          TestResult.of(
              TestId.of(suite, name, null), ResultKind.TEST, attempts, null, Map.of(), file, 0));
    }

    private @Nullable Failure failure(JsonNode err) {
      if (err.isEmpty()) {
        return null;
      }
      String message = values.text(err, "message");
      String expected = values.text(err, "expected");
      String actual = values.text(err, "actual");
      Failure parsed = StackText.of(values.text(err, "name"), message, values.text(err, "stack"));
      List<String> told = new ArrayList<>();
      if (parsed.message() != null) {
        told.add(parsed.message());
      }
      // As other frameworks print it, so that both sides are found.
      if (expected != null && actual != null) {
        told.add("Expected: " + expected + "\n  Actual: " + actual);
      }
      return new Failure(
          parsed.type(), told.isEmpty() ? null : String.join("\n", told), parsed.trace());
    }
  }
}
