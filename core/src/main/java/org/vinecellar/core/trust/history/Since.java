package org.vinecellar.core.trust.history;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Since when a test fails: it does in every run from one on.
 *
 * @param firstBad the first of them
 * @param lastGood the last run before it in which it passed: what broke it came between; null when
 *     none is known
 * @param runs in how many it failed since
 */
public record Since(PastResult firstBad, @Nullable PastResult lastGood, int runs) {
  /**
   * @param results of one stream and branch, the latest first
   * @return null when it passed the last time, or never ran
   */
  public static @Nullable Since of(List<PastResult> results) {
    PastResult first = null;
    int runs = 0;
    for (PastResult one : results) {
      if (one.passed()) {
        return first == null ? null : new Since(first, one, runs);
      }
      if (one.failed()) {
        first = one;
        runs++;
      }
    }
    return first == null ? null : new Since(first, null, runs);
  }
}
