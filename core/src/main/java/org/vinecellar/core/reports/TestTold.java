package org.vinecellar.core.reports;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Lengths;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.KeptTest;

/**
 * What a test did in some runs: its results that stand.
 *
 * @param retried those that took more than one attempt; counted under their outcome, too
 * @param timeUs what they took, the last attempt of each, in microseconds
 * @param length of those that passed, failed or errored; null when none tells it
 */
public record TestTold(
    KeptTest test,
    long passed,
    long failed,
    long errored,
    long skipped,
    long notReached,
    long retried,
    long timeUs,
    @Nullable Lengths length) {
  /** Results of one outcome. */
  public long of(Outcome outcome) {
    return switch (outcome) {
      case PASSED -> passed;
      case FAILED -> failed;
      case ERRORED -> errored;
      case SKIPPED -> skipped;
      case NOT_REACHED -> notReached;
    };
  }

  /** All of them. */
  public long results() {
    return passed + failed + errored + skipped + notReached;
  }
}
