package org.vinecellar.core.trust.grid;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.triage.desk.Title;

/**
 * What some tests did in some runs of a stream.
 *
 * @param runs the oldest first
 * @param rows those that failed in most of them first
 * @param groups what the failure groups that are named in it are called
 * @param more whether there are more such tests
 */
public record Grid(List<Run> runs, List<Row> rows, Map<Long, Title> groups, boolean more) {
  /** Copies the collections. */
  public Grid {
    runs = List.copyOf(runs);
    rows = List.copyOf(rows);
    groups = Map.copyOf(groups);
  }

  /** A column. */
  public record Run(
      long id, int number, Instant started, @Nullable String commit, @Nullable String branch) {}

  /**
   * A test.
   *
   * @param cells one sign for each run: {@code +} passed, {@code r} passed after a try that failed,
   *     {@code F} failed, {@code E} errored, {@code s} skipped, {@code n} not reached, a full stop
   *     where the run does not have it
   * @param groups of what failed or errored, in the order of the runs; 0 where it is not grouped
   */
  public record Row(KeptTest test, String cells, List<Long> groups) {
    /** Copies the list. */
    public Row {
      groups = List.copyOf(groups);
    }
  }
}
