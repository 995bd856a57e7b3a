package org.vinecellar.core.formats.javascript;

import com.fasterxml.jackson.databind.JsonNode;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** A test, or a hook that failed, as Mocha tells of it in its JSON and in the stream of it. */
final class MochaTest {
  private static final Pattern HOOK = Pattern.compile("^\"(before|after) (all|each)\" hook");

  private MochaTest() {}

  /**
   * What it says.
   *
   * @param list in which it stands
   */
  static TestResult read(JsonNode test, Outcome list, Values values) {
    String name = values.name(test, "title", "(test without a name)");
    String sentence = values.name(test, "fullTitle", name);
    String group =
        sentence.endsWith(name)
            ? sentence.substring(0, sentence.length() - name.length()).strip()
            : "";
    SuitePath suite = group.isEmpty() ? SuitePath.ROOT : SuitePath.ROOT.child(group);
    Failure failure = failure(test, values);
    if (list == Outcome.FAILED && HOOK.matcher(name).find()) {
      return FailedSetUp.of(
          suite, name, failure == null ? new Failure(null, "the hook failed", null) : failure);
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
    return TestResult.of(
        TestId.of(suite, name, null),
        ResultKind.TEST,
        attempts,
        null,
        Map.of(),
        values.text(test, "file"),
        0);
  }

  private static @Nullable Failure failure(JsonNode test, Values values) {
    JsonNode err = test.path("err");
    if (err.isTextual()) {
      return StackText.of(null, values.text(test, "err"), values.text(test, "stack"));
    }
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
