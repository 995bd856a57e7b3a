package org.vinecellar.core.boards;

import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.statistics.Share;

/**
 * What some runs came to together.
 *
 * @param runs how many there are
 * @param passed results of all of them, once each
 * @param notReached tests that a run lost before it came to them
 * @param retried results that took more than one attempt; counted under their outcome too
 * @param overruled results whose outcome somebody set
 * @param testTimeUs of all results, in microseconds
 * @param newFailing tests that fail and did not in the run before, of each run
 * @param red runs in which a test or a set-up failed
 * @param failingUs of results that failed in the end
 * @param againUs of tries beside the last one of each result
 */
public record RunSum(
    long runs,
    long passed,
    long failed,
    long errored,
    long skipped,
    long notReached,
    long retried,
    long overruled,
    long testTimeUs,
    long newFailing,
    long fixed,
    long added,
    long renamed,
    long red,
    long failingUs,
    long againUs) {
  /** Of no run. */
  public static final RunSum NONE = new RunSum(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);

  /** These and those. */
  public RunSum plus(RunSum o) {
    return new RunSum(
        runs + o.runs,
        passed + o.passed,
        failed + o.failed,
        errored + o.errored,
        skipped + o.skipped,
        notReached + o.notReached,
        retried + o.retried,
        overruled + o.overruled,
        testTimeUs + o.testTimeUs,
        newFailing + o.newFailing,
        fixed + o.fixed,
        added + o.added,
        renamed + o.renamed,
        red + o.red,
        failingUs + o.failingUs,
        againUs + o.againUs);
  }

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

  /** All results, whatever they came to. */
  public long tests() {
    return passed + failed + errored + skipped + notReached;
  }

  /**
   * How many passed of those that came to an end. What was skipped or not reached told nothing, so
   * that it is neither: who shows a rate shows beside it how many those were.
   */
  public Share passRate() {
    return Share.of(passed, passed + failed + errored);
  }
}
