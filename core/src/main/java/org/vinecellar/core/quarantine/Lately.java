package org.vinecellar.core.quarantine;

import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.flaky.Verdict;

/**
 * What a test did while it was in quarantine, in the latest hundred runs of each stream at most.
 *
 * @param ran in how many runs it passed or failed
 * @param failed in how many of them a try of it failed
 * @param clean how many passed since, with no try that failed
 * @param missing how many of the latest runs have not had it
 * @param verdict the worst that it is taken for, where it is quarantined; null when it never failed
 *     by itself
 */
public record Lately(int ran, int failed, int clean, int missing, @Nullable Verdict verdict) {
  /** What fewer runs tell is too little, whatever it was before. */
  static final int ENOUGH_CLEAN = 5;

  /** What so many runs in a row have not had is gone. */
  static final int ENOUGH_MISSING = 10;

  /**
   * From what a stream's runs since then had of it, the latest first.
   *
   * @param seen for each run 0 when it passed at once, 1 when a try failed, anything else when the
   *     run did not have it
   */
  public static Lately of(Iterable<Integer> seen, @Nullable Verdict verdict) {
    int ran = 0;
    int failed = 0;
    int clean = 0;
    int missing = 0;
    for (int one : seen) {
      if (one == 0 || one == 1) {
        ran++;
        failed += one;
        clean += failed == 0 ? 1 : 0;
      } else {
        missing += ran == 0 ? 1 : 0;
      }
    }
    return new Lately(ran, failed, clean, missing, verdict);
  }

  /** In two streams: clean and gone only if it is so in both. */
  public Lately and(Lately other) {
    return new Lately(
        ran + other.ran,
        failed + other.failed,
        Math.min(clean, other.clean),
        Math.min(missing, other.missing),
        verdict == null ? other.verdict : worse(other.verdict));
  }

  private @Nullable Verdict worse(@Nullable Verdict other) {
    return other == null || badness(other) < badness(Objects.requireNonNull(verdict))
        ? verdict
        : other;
  }

  private static int badness(Verdict verdict) {
    return switch (verdict) {
      case STEADY -> 0;
      case UNSURE -> 1;
      case FLAKY -> 2;
      case BROKEN -> 3;
    };
  }

  boolean isClean() {
    return clean >= ENOUGH_CLEAN && (verdict == null || verdict == Verdict.STEADY);
  }

  boolean isGone() {
    return missing >= ENOUGH_MISSING;
  }
}
