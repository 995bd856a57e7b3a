package org.vinecellar.service.trust.grid;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.grid.Grid;
import org.vinecellar.service.trust.TestWords;

/**
 * What some tests did in some runs of a stream.
 *
 * @param runs the oldest first
 * @param tests those that failed in most of them first
 * @param groups the failure groups that are named in it
 * @param more whether there are more such tests
 */
@Schema(name = "Grid")
public record GridBody(
    List<RunBody> runs, List<RowBody> tests, List<GroupBody> groups, boolean more) {
  /** A column. */
  @Schema(name = "GridRun")
  public record RunBody(
      long id,
      int number,
      Instant startedAt,
      @Schema(nullable = true) @Nullable String commit,
      @Schema(nullable = true) @Nullable String branch) {}

  /**
   * A row.
   *
   * @param id the number of the test
   * @param test the innermost suite's name, a hash and the test's name with its parameters
   * @param variant its words as key=value with commas between; empty for none
   * @param cells one sign for each run: + passed, r passed after a try that failed, F failed, E
   *     errored, s skipped, n not reached, a full stop where the run does not have it
   * @param groups of what failed or errored, in the order of the runs; 0 where it is not grouped
   */
  @Schema(name = "GridRow")
  public record RowBody(long id, String test, String variant, String cells, List<Long> groups) {}

  /** A failure group, and what it is called. */
  @Schema(name = "GridGroup")
  public record GroupBody(long group, String title) {}

  static GridBody of(Grid grid) {
    return new GridBody(
        grid.runs().stream()
            .map(
                run ->
                    new RunBody(run.id(), run.number(), run.started(), run.commit(), run.branch()))
            .toList(),
        grid.rows().stream()
            .map(
                row ->
                    new RowBody(
                        row.test().id(),
                        TestWords.shortly(row.test()),
                        TestWords.variant(row.test()),
                        row.cells(),
                        row.groups()))
            .toList(),
        grid.groups().entrySet().stream()
            .sorted(Map.Entry.comparingByKey())
            .map(group -> new GroupBody(group.getKey(), group.getValue().text()))
            .toList(),
        grid.more());
  }
}
