package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where the duration of a test changed for good. Durations are compared as logarithms by their
 * medians, so that a slow run now and then is no change; a run of results is cut in two where that
 * explains most of the distances from the median, as long as it explains enough (binary
 * segmentation; see A. J. Scott and M. Knott, "A cluster analysis method for grouping means in the
 * analysis of variance", 1974).
 */
public final class Durations {
  /** So many on each side at least. */
  private static final int LEAST = 5;

  /** A smaller factor is none that anybody waits for. */
  private static final double FACTOR = 1.25;

  /** Milliseconds that are added: below that, clocks tell nothing. */
  private static final double FLOOR = 2;

  /** How much of the distances a cut has to explain, and how many times what chance would. */
  private static final double EXPLAINED = 0.2;

  private Durations() {}

  /**
   * A stretch in which it took about as long.
   *
   * @param from its first result
   * @param to the one after its last
   * @param millis the median
   */
  public record Stretch(int from, int to, double millis) {}

  /**
   * @param millis in the order of time
   */
  public static List<Stretch> of(double[] millis) {
    double[] logs = Arrays.stream(millis).map(one -> Math.log(one + FLOOR)).toArray();
    List<Integer> cuts = new ArrayList<>();
    cut(logs, 0, logs.length, cuts);
    cuts.sort(null);
    List<Stretch> stretches = new ArrayList<>();
    int from = 0;
    for (int cut : cuts) {
      stretches.add(new Stretch(from, cut, median(millis, from, cut)));
      from = cut;
    }
    if (logs.length > 0) {
      stretches.add(new Stretch(from, logs.length, median(millis, from, logs.length)));
    }
    return stretches;
  }

  private static void cut(double[] logs, int from, int to, List<Integer> cuts) {
    double whole = distance(logs, from, to);
    int best = -1;
    double least = whole;
    for (int at = from + LEAST; at <= to - LEAST; at++) {
      double both = distance(logs, from, at) + distance(logs, at, to);
      if (both < least) {
        least = both;
        best = at;
      }
    }
    if (best < 0) {
      return;
    }
    double step = Math.abs(median(logs, from, best) - median(logs, best, to));
    double noise = least / (to - from);
    boolean isReal =
        step > Math.log(FACTOR) && step > 1.5 * noise && whole - least > EXPLAINED * whole;
    if (isReal) {
      cuts.add(best);
      cut(logs, from, best, cuts);
      cut(logs, best, to, cuts);
    }
  }

  private static double distance(double[] all, int from, int to) {
    double median = median(all, from, to);
    double sum = 0;
    for (int i = from; i < to; i++) {
      sum += Math.abs(all[i] - median);
    }
    return sum;
  }

  private static double median(double[] all, int from, int to) {
    double[] sorted = Arrays.copyOfRange(all, from, to);
    Arrays.sort(sorted);
    int half = sorted.length / 2;
    return sorted.length % 2 == 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
  }
}
