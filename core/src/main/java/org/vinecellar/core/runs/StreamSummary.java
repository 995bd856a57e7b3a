package org.vinecellar.core.runs;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A stream with its latest runs.
 *
 * @param runCount all its runs
 * @param strip its last runs, the newest last
 * @param habit when its next run is due; null when nothing tells
 * @param trend all its runs, the oldest first, thinned evenly when there are very many; null in
 *     lists of all streams, where nobody looks at it
 */
public record StreamSummary(
    String name,
    int runCount,
    RunSummary latest,
    List<RunPoint> strip,
    @Nullable Habit habit,
    @Nullable List<RunPoint> trend) {
  /** Copies the lists. */
  public StreamSummary {
    strip = List.copyOf(strip);
    trend = trend == null ? null : List.copyOf(trend);
  }
}
