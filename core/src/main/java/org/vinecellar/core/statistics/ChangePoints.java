package org.vinecellar.core.statistics;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.PriorityQueue;

/**
 * Where numbers changed for good. They are compared by their medians, so that one that is out of
 * line now and then is no change; a row of numbers is cut in two where that explains most of the
 * distances from the median, as long as it explains enough (binary segmentation; see A. J. Scott
 * and M. Knott, "A cluster analysis method for grouping means in the analysis of variance", 1974).
 *
 * @param least how many numbers there are on each side at least
 * @param step what a change is higher than
 * @param noise how many times the mean distance from the medians it is higher than
 * @param explained which part of all distances it explains at least, from 0 to 1
 */
public record ChangePoints(int least, double step, double noise, double explained) {

  /**
   * The places of the first numbers after each change, in order.
   *
   * @param all in the order of time
   */
  public List<Integer> in(double[] all) {
    List<Integer> cuts = new ArrayList<>();
    cut(all, 0, all.length, cuts);
    cuts.sort(null);
    return cuts;
  }

  private void cut(double[] all, int from, int to, List<Integer> cuts) {
    if (to - from < 2 * least || range(all, from, to) <= step) {
      return;
    }
    double[] before = distances(all, from, to, 1);
    double[] behind = distances(all, to - 1, from - 1, -1);
    double whole = before[to - from - 1];
    int best = -1;
    double fewest = whole;
    for (int at = from + least; at <= to - least; at++) {
      double both = before[at - from - 1] + behind[to - at - 1];
      if (both < fewest) {
        fewest = both;
        best = at;
      }
    }
    if (best < 0) {
      return;
    }
    double high = Math.abs(median(all, from, best) - median(all, best, to));
    boolean isReal =
        high > step && high > noise * (fewest / (to - from)) && whole - fewest > explained * whole;
    if (isReal) {
      cuts.add(best);
      cut(all, from, best, cuts);
      cut(all, best, to, cuts);
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

  /** The number in the middle of those from one place up to before another; there has to be one. */
  public static double median(double[] all, int from, int to) {
    double[] sorted = Arrays.copyOfRange(all, from, to);
    Arrays.sort(sorted);
    int half = sorted.length / 2;
    return sorted.length % 2 == 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
  }
}
