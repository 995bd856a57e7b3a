package org.vinecellar.service.boards;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.RunSum;
import org.vinecellar.core.statistics.Share;

/**
 * What some runs came to together.
 *
 * @param runs how many there are
 * @param red runs in which a test or a set-up failed
 * @param tests results of all of them, once each
 * @param notReached tests that a run lost before it came to them
 * @param retried results that took more than one attempt; counted under their outcome too
 * @param overruled results whose outcome somebody set
 * @param newFailing tests that fail and did not in the run before, of each run
 * @param passRate passed of those that passed, failed or errored; null when none did
 */
@Schema(name = "RunSum")
public record RunSumBody(
    long runs,
    long red,
    long tests,
    long passed,
    long failed,
    long errored,
    long skipped,
    long notReached,
    long retried,
    long overruled,
    double testTimeMs,
    long newFailing,
    long fixed,
    long added,
    long gone,
    @Schema(nullable = true) @Nullable RateBody passRate) {
  /**
   * A rate from 0 to 1.
   *
   * @param low where the interval begins that has the true rate in 19 of 20 cases
   * @param high where it ends
   */
  @Schema(name = "Rate")
  public record RateBody(double rate, double low, double high) {
    static @Nullable RateBody of(Share share) {
      return share.all() == 0
          ? null
          : new RateBody((double) share.some() / share.all(), share.low(), share.high());
    }
  }

  static @Nullable RunSumBody orNull(@Nullable RunSum sum) {
    return sum == null ? null : of(sum);
  }

  static RunSumBody of(RunSum s) {
    return new RunSumBody(
        s.runs(),
        s.red(),
        s.tests(),
        s.passed(),
        s.failed(),
        s.errored(),
        s.skipped(),
        s.notReached(),
        s.retried(),
        s.overruled(),
        s.testTimeUs() / 1e3,
        s.newFailing(),
        s.fixed(),
        s.added(),
        s.gone(),
        RateBody.of(s.passRate()));
  }
}
