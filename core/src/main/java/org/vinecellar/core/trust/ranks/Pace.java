package org.vinecellar.core.trust.ranks;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.history.Durations;

/**
 * By how much each of some runs was slower than the others for most tests, whatever the cause: the
 * machine, or something that all tests go through.
 */
public final class Pace {
  private final double[] logs;

  /**
   * @param logs of the runs, the oldest first
   */
  Pace(double[] logs) {
    this.logs = logs;
  }

  /** As a natural logarithm; 0 as usual. */
  double log(int run) {
    return logs[run];
  }

  /**
   * All tests together, as if they took a second in the end.
   *
   * @param slower since when, and how long it was before; null when they are not
   */
  public record Whole(double millis, Figures.@Nullable Slower slower) {
    /** By how much longer they take than before; 1 when they do not. */
    public double factor() {
      return slower == null ? 1 : millis / slower.before();
    }
  }

  /** Whether all tests became slower together. */
  public Whole whole() {
    double[] millis = new double[logs.length];
    for (int run = 0; run < millis.length; run++) {
      millis[run] = 1_000 * Math.exp(logs[run]);
    }
    List<Durations.Stretch> stretches = Durations.of(millis);
    return new Whole(
        stretches.isEmpty() ? 0 : stretches.get(stretches.size() - 1).millis(),
        Tally.slower(stretches, null));
  }
}
