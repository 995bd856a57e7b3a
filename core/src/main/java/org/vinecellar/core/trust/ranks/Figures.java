package org.vinecellar.core.trust.ranks;

import org.jspecify.annotations.Nullable;

/**
 * What the latest runs of a stream tell of a test. Runs are counted from 0, the oldest.
 *
 * @param runs those in which it passed or failed, each a bit
 * @param failures those in which it failed in the end, each a bit
 * @param millis how long it takes now: the median since it last changed; null when no run tells
 * @param slower since when it is slower; null when it is not
 */
public record Figures(long runs, long failures, @Nullable Double millis, @Nullable Slower slower) {

  /** In how many it passed or failed. */
  public int ran() {
    return Long.bitCount(runs);
  }

  /** In how many it failed in the end. */
  public int failed() {
    return Long.bitCount(failures);
  }

  /** In how many of some runs it failed, each a bit. */
  public int failedIn(long some) {
    return Long.bitCount(failures & some);
  }

  /** The last that had it. */
  public int last() {
    return Long.SIZE - 1 - Long.numberOfLeadingZeros(runs);
  }

  /** Whether a run had it. */
  public boolean had(int run) {
    return (runs >>> run & 1) == 1;
  }

  /**
   * A slow-down that stays.
   *
   * @param since the first run of it
   * @param before how long it took before, in milliseconds
   */
  public record Slower(int since, double before) {}
}
