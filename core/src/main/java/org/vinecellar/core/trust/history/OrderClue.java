package org.vinecellar.core.trust.history;

import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Whether a test fails when another one ran before it, or when that one did not. Told only where
 * chance hardly explains it: by Fisher's exact test (R. A. Fisher, "On the interpretation of χ²
 * from contingency tables, and the calculation of P", 1922), one-sided, times the number of tests
 * that were asked for (Bonferroni).
 *
 * @param other the test
 * @param whenBefore whether it fails when that one ran before it; else when it did not
 * @param with in how many runs that was so
 * @param failedWith in how many of those it failed
 * @param without in how many runs it was not so
 * @param failedWithout in how many of those it failed
 */
public record OrderClue(
    long other, boolean whenBefore, int with, int failedWith, int without, int failedWithout) {
  /** So often chance may mislead. */
  private static final double CHANCE = 0.02;

  /** By fewer failures nothing is told. */
  private static final int LEAST = 3;

  /**
   * What a test did in a run.
   *
   * @param before the tests that ran before it there
   */
  public record Turn(boolean failed, Set<Long> before) {
    /** Copies the set. */
    public Turn {
      before = Set.copyOf(before);
    }
  }

  /** The likeliest; empty when none is likely. */
  public static Optional<OrderClue> of(Collection<Turn> turns) {
    int failed = (int) turns.stream().filter(Turn::failed).count();
    int all = turns.size();
    if (failed < LEAST || all - failed < LEAST) {
      return Optional.empty();
    }
    Map<Long, int[]> counts = new HashMap<>();
    for (Turn turn : turns) {
      for (long other : turn.before) {
        int[] count = counts.computeIfAbsent(other, k -> new int[2]);
        count[0]++;
        count[1] += turn.failed ? 1 : 0;
      }
    }
    List<Told> told =
        counts.entrySet().stream()
            // What is always before it tells nothing.
            .filter(one -> one.getValue()[0] < all)
            .map(one -> told(one.getKey(), one.getValue(), all, failed))
            .toList();
    return told.stream()
        .min(Comparator.comparingDouble(Told::chance).thenComparing(one -> one.clue.other))
        .filter(one -> one.chance * told.size() * 2 <= CHANCE)
        .map(Told::clue);
  }

  private record Told(OrderClue clue, double chance) {}

  private static Told told(long other, int[] count, int all, int failed) {
    OrderClue before =
        new OrderClue(other, true, count[0], count[1], all - count[0], failed - count[1]);
    OrderClue not =
        new OrderClue(other, false, all - count[0], failed - count[1], count[0], count[1]);
    double chance = before.chance();
    double otherwise = not.chance();
    return chance <= otherwise ? new Told(before, chance) : new Told(not, otherwise);
  }

  /** How likely it fails at least as often with it, were it all the same. */
  private double chance() {
    int all = with + without;
    int failed = failedWith + failedWithout;
    double sum = 0;
    for (int k = failedWith; k <= Math.min(with, failed); k++) {
      sum += Math.exp(ways(with, k) + ways(without, failed - k) - ways(all, failed));
    }
    return sum;
  }

  /** The logarithm of how many ways there are to take some of all. */
  private static double ways(int all, int some) {
    if (some < 0 || some > all) {
      return Double.NEGATIVE_INFINITY;
    }
    double sum = 0;
    for (int i = 1; i <= some; i++) {
      sum += Math.log((all - some + i) / (double) i);
    }
    return sum;
  }
}
