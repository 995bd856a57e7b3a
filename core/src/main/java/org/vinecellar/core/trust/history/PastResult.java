package org.vinecellar.core.trust.history;

import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;

/**
 * What a test did in a run.
 *
 * @param result as it is found in its run
 * @param micros how long it took; {@link org.vinecellar.core.results.TestResult#NO_DURATION} when
 *     not told
 * @param attempts how many tries it took
 * @param stumbled whether one of them failed
 * @param group its failure group; null unless it failed
 * @param alike how many results of its run have that group, or met before they passed what it met;
 *     0 for none
 * @param called its name then, if that was another one
 */
public record PastResult(
    Run run,
    ResultId result,
    Outcome outcome,
    long micros,
    int attempts,
    boolean stumbled,
    @Nullable Long group,
    int alike,
    @Nullable String called) {
  /** A cause that so many results of a run have tells nothing of a test. */
  private static final int MANY = 5;

  /**
   * Its run.
   *
   * @param environment the labels that tell where it ran
   */
  public record Run(
      long id,
      String stream,
      int number,
      Instant started,
      @Nullable String commit,
      @Nullable String branch,
      Map<String, String> environment) {
    /** Copies the labels. */
    public Run {
      environment = Map.copyOf(environment);
    }
  }

  /** Whether it passed in the end. */
  public boolean passed() {
    return outcome == Outcome.PASSED;
  }

  /** Whether it failed in the end. */
  public boolean failed() {
    return outcome == Outcome.FAILED || outcome == Outcome.ERRORED;
  }

  /** Whether that tells anything of the test. */
  public boolean tells() {
    return passed() || failed();
  }

  /** Whether it failed, and few others did for the same cause. */
  public boolean failedByItself() {
    return failed() && alike < MANY;
  }

  /** Whether it passed after a try that failed, and few others did for the same cause. */
  public boolean stumbledByItself() {
    return passedOnRetry() && alike < MANY;
  }

  /** Passed, after a try that failed. */
  public boolean passedOnRetry() {
    return passed() && stumbled;
  }
}
