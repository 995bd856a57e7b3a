package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;

/**
 * A run as a list shows it.
 *
 * @param version goes up with every change of the run
 * @param startedAt earliest time that its files tell; when they tell none, its arrival
 * @param durationMicros all results together: time spent testing, not time on the clock
 * @param closedBy how it came to be closed: {@code upload} for a run of one upload, {@code parts}
 *     when those it expected were there, {@code hand}, or {@code silence}; null while it is open
 * @param commit null when not told
 * @param branch null when not told
 * @param buildUrl null when not told
 * @param description Markdown that somebody wrote; null for none
 * @param labels all that hold, by upload or by hand
 * @param tags that somebody gave it
 * @param overruled how many of its results have an outcome that somebody set
 * @param previousNumber of the run that it is compared with; null for the first of its stream
 * @param nextNumber of the run that is compared with it; null for the last of its stream
 */
public record RunSummary(
    long id,
    String stream,
    int number,
    boolean open,
    int version,
    Instant createdAt,
    Instant startedAt,
    Instant changedAt,
    @Nullable Instant closedAt,
    @Nullable String closedBy,
    @Nullable String commit,
    @Nullable String branch,
    @Nullable String buildUrl,
    @Nullable String description,
    Map<String, String> labels,
    List<String> tags,
    Counts counts,
    int overruled,
    long durationMicros,
    @Nullable Integer previousNumber,
    @Nullable Integer nextNumber,
    ChangeCounts changes) {
  /** Copies the collections. */
  public RunSummary {
    labels = Map.copyOf(labels);
    tags = List.copyOf(tags);
  }
}
