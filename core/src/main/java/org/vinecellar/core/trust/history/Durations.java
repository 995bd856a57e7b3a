package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.vinecellar.core.statistics.ChangePoints;

/** Where the duration of a test changed for good; durations are compared as logarithms. */
public final class Durations {
  /** So many on each side at least. */
  private static final int LEAST = 5;

  /** A smaller factor is none that anybody waits for. */
  public static final double FACTOR = 1.25;

  /** Milliseconds that are added: below that, clocks tell nothing. */
  private static final double FLOOR = 2;

  /** How much of the distances a cut has to explain, and how many times what chance would. */
  private static final ChangePoints CHANGES = new ChangePoints(LEAST, Math.log(FACTOR), 1.5, 0.2);

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
    List<Stretch> stretches = new ArrayList<>();
    int from = 0;
    for (int cut : CHANGES.in(logs)) {
      stretches.add(new Stretch(from, cut, ChangePoints.median(millis, from, cut)));
      from = cut;
    }
    stretches.add(new Stretch(from, logs.length, ChangePoints.median(millis, from, logs.length)));
    return stretches;
  }
}
