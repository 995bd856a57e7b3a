package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.PriorityQueue;

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
  public static final double FACTOR = 1.25;

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
    if (millis.length == 0) {
      return List.of();
    }
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
    stretches.add(new Stretch(from, logs.length, median(millis, from, logs.length)));
    return stretches;
  }

  private static void cut(double[] logs, int from, int to, List<Integer> cuts) {
    if (to - from < 2 * LEAST || range(logs, from, to) <= Math.log(FACTOR)) {
      return;
    }
    double[] before = distances(logs, from, to, 1);
    double[] behind = distances(logs, to - 1, from - 1, -1);
    double whole = before[to - from - 1];
    int best = -1;
    double least = whole;
    for (int at = from + LEAST; at <= to - LEAST; at++) {
      double both = before[at - from - 1] + behind[to - at - 1];
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

  /** No step is higher. */
  private static double range(double[] all, int from, int to) {
    double least = all[from];
    double most = all[from];
    for (int i = from + 1; i < to; i++) {
      least = Math.min(least, all[i]);
      most = Math.max(most, all[i]);
    }
    return most - least;
  }

  /**
   * The sums of the distances from their median of the first one, of the first two and so on. Half
   * of the numbers are kept apart from the other half, which tells both: the sum of the distances
   * is that of the higher half less that of the lower.
   */
  private static double[] distances(double[] all, int from, int end, int step) {
    double[] distances = new double[Math.abs(end - from)];
    PriorityQueue<Double> low = new PriorityQueue<>(Comparator.reverseOrder());
    PriorityQueue<Double> high = new PriorityQueue<>();
    double less = 0;
    double more = 0;
    for (int i = from, n = 0; i != end; i += step, n++) {
      double one = all[i];
      Double middle = low.peek();
      if (middle == null || one <= middle) {
        low.add(one);
        less += one;
      } else {
        high.add(one);
        more += one;
      }
      if (low.size() > high.size() + 1) {
        double moved = Objects.requireNonNull(low.poll());
        high.add(moved);
        less -= moved;
        more += moved;
      } else if (high.size() > low.size()) {
        double moved = Objects.requireNonNull(high.poll());
        low.add(moved);
        more -= moved;
        less += moved;
      }
      // Of an odd number, the one in the middle is as far from both halves.
      double odd = low.size() > high.size() ? Objects.requireNonNull(low.peek()) : 0;
      distances[n] = Math.max(0, more - less + odd);
    }
    return distances;
  }

  private static double median(double[] all, int from, int to) {
    double[] sorted = Arrays.copyOfRange(all, from, to);
    Arrays.sort(sorted);
    int half = sorted.length / 2;
    return sorted.length % 2 == 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
  }
}
