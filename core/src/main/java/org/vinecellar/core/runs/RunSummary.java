package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Origin;

/**
 * A run as a list shows it.
 *
 * @param version goes up with every change of the run
 * @param overruled how many of its results have an outcome that somebody set
 * @param durationMicros all results together: time spent testing, not time on the clock
 * @param explained whether all its failures are grouped, and explained as far as they can be
 * @param learned whether what it tells of its tests is known of them
 */
public record RunSummary(
    long id,
    String stream,
    int number,
    int version,
    Times times,
    Origin origin,
    Words words,
    Counts counts,
    int overruled,
    long durationMicros,
    Neighbours neighbours,
    ChangeCounts changes,
    boolean explained,
    boolean learned) {

  /**
   * When what happened.
   *
   * @param started earliest time that its files tell; when they tell none, its arrival
   * @param closed null while it is open
   * @param closedBy how it came to be closed: {@code upload} for a run of one upload, {@code parts}
   *     when those it expected were there, {@code hand}, or {@code silence}; null while it is open
   */
  public record Times(
      Instant created,
      Instant started,
      Instant changed,
      @Nullable Instant closed,
      @Nullable String closedBy) {}

  /**
   * What is said of it.
   *
   * @param description Markdown that somebody wrote; null for none
   * @param labels all that hold, by upload or by hand
   * @param tags that somebody gave it
   */
  public record Words(@Nullable String description, Map<String, String> labels, List<String> tags) {
    /** Copies the collections. */
    public Words {
      labels = Map.copyOf(labels);
      tags = List.copyOf(tags);
    }
  }

  /**
   * The runs beside it, by number.
   *
   * @param previous that it is compared with; null when there is none to compare with
   * @param previousBranch of that one; null when it told none
   * @param next that is compared with it; null for the last of its stream
   */
  public record Neighbours(
      @Nullable Integer previous, @Nullable String previousBranch, @Nullable Integer next) {}

  /** Whether results may still come. */
  public boolean open() {
    return times.closed() == null;
  }
}
