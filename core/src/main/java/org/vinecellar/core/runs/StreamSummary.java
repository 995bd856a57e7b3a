package org.vinecellar.core.runs;

import java.util.List;

/**
 * A stream with its latest runs.
 *
 * @param runCount all its runs
 * @param strip its last runs, the newest last
 * @param trend all its runs, the oldest first, thinned evenly when there are very many
 */
public record StreamSummary(
    String name, int runCount, RunSummary latest, List<RunPoint> strip, List<RunPoint> trend) {
  /** Copies the lists. */
  public StreamSummary {
    strip = List.copyOf(strip);
    trend = List.copyOf(trend);
  }
}
