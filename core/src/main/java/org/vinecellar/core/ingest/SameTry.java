package org.vinecellar.core.ingest;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

/** One try of a test of which a file tells in two cases: what it did, and what its teardown did. */
final class SameTry {
  private SameTry() {}

  /** Both as one: all that went wrong, in order. What an expectation said weighs more. */
  static TestResult joined(TestResult first, TestResult second) {
    List<Attempt> attempts = new ArrayList<>(first.attempts());
    Attempt one = attempts.remove(attempts.size() - 1);
    Attempt two = second.attempts().get(0);
    List<Failure> failures = new ArrayList<>(one.failures());
    for (Failure failure : two.failures()) {
      if (!failures.contains(failure)) {
        failures.add(failure);
      }
    }
    attempts.add(
        new Attempt(
            worse(one.outcome(), two.outcome()),
            TestResult.plus(one.durationMicros(), two.durationMicros()),
            failures,
            both(one.stdout(), two.stdout()),
            both(one.stderr(), two.stderr()),
            both(one.steps(), two.steps()),
            both(one.logs(), two.logs()),
            both(one.attachments(), two.attachments())));
    TestResult joined =
        TestResult.of(
            first.test(),
            first.kind(),
            attempts,
            first.started(),
            first.properties(),
            first.file(),
            first.line());
    return joined.tagged(first.tags());
  }

  private static Outcome worse(Outcome one, Outcome two) {
    if (one.isFailing() && two.isFailing()) {
      return one == two ? one : Outcome.FAILED;
    }
    return one.isFailing() ? one : two.isFailing() ? two : one;
  }

  private static @Nullable String both(@Nullable String one, @Nullable String two) {
    return one == null ? two : two == null || two.equals(one) ? one : one + "\n" + two;
  }

  private static <T> List<T> both(List<T> one, List<T> two) {
    List<T> all = new ArrayList<>(one);
    all.addAll(two);
    return all;
  }
}
