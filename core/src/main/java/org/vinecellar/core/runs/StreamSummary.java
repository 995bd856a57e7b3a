package org.vinecellar.core.runs;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A stream with its latest runs.
 *
 * @param silence after so long without news its open runs are closed; null for what the service is
 *     set to
 * @param runCount all its runs
 * @param strip its last runs, the newest last
 * @param trend all its runs, the oldest first, thinned evenly when there are very many
 */
public record StreamSummary(
    String name,
    @Nullable Duration silence,
    int runCount,
    RunSummary latest,
    List<RunPoint> strip,
    List<RunPoint> trend) {
  /** Copies the lists. */
  public StreamSummary {
    strip = List.copyOf(strip);
    trend = List.copyOf(trend);
  }
}
