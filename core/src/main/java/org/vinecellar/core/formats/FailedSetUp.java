package org.vinecellar.core.formats;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** What went wrong around tests, and not in one: a hook, a file that does not load. */
public final class FailedSetUp {
  /** The name of the result that tells of what went wrong around all tests. */
  private static final String JOB = "(the job as a whole)";

  private FailedSetUp() {}

  /** The result that says what went wrong around all tests of a part. */
  public static TestResult ofJob(String message, @Nullable String details) {
    return of(SuitePath.ROOT, JOB, new Failure("job", message, details));
  }

  /**
   * The result that says so.
   *
   * @param suite around which it stands
   * @param name of the hook or file; null for the set-up of the suite
   */
  public static TestResult of(SuitePath suite, @Nullable String name, Failure failure) {
    return TestResult.of(
        name == null ? TestId.setUpOf(suite) : TestId.of(suite, name, null),
        ResultKind.SETUP,
        List.of(new Attempt(Outcome.ERRORED, TestResult.NO_DURATION, List.of(failure), null, null)),
        null,
        Map.of(),
        null,
        0);
  }
}
