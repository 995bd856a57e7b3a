package org.vinecellar.service.triage;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.GroupInRun;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.service.triage.tickets.TicketBody;

/**
 * The failure groups of a run.
 *
 * @param groups those with unexplained results first, then by how many they have; at most 1000
 * @param total how many there are
 * @param results failing ones that are grouped
 * @param open those of them that nobody explained
 * @param notCompared results that were grouped by their keys alone, since the run says too many
 *     different things
 * @param outage when one cause fails most of the run; null when none does
 */
@Schema(name = "GroupsInRun")
public record GroupsInRunBody(
    List<GroupInRunBody> groups,
    int total,
    int results,
    int open,
    int notCompared,
    @Schema(nullable = true) @Nullable OutageBody outage) {
  static GroupsInRunBody of(TriageStore.GroupsInRun found) {
    return new GroupsInRunBody(
        found.lines().stream().map(GroupInRunBody::of).toList(),
        found.total(),
        found.results(),
        found.open(),
        found.notCompared(),
        OutageBody.of(found.outage()));
  }

  /**
   * A failure group in a run.
   *
   * @param group stays the same over runs
   * @param title what people call it
   * @param keyKind what it is known by
   * @param sentence why its results are one group
   * @param template the error, with a hole for each value
   * @param results of the run
   * @param tests of the run
   * @param open results that nobody explained
   * @param kept tests that set-ups of it kept from running; they are no results of it
   * @param first its first result in the run
   * @param test what that one is called
   * @param said what explains most of its results; null when nothing does
   * @param returned whether it is unexplained and fails again after it was mended, or after the day
   *     up to which it was explained
   * @param seen where it was first seen; null when that run is gone
   * @param tickets that the group is linked to
   */
  @Schema(name = "GroupInRun")
  public record GroupInRunBody(
      long group,
      TitleBody title,
      String keyKind,
      String sentence,
      String template,
      int results,
      int tests,
      int open,
      int kept,
      String first,
      String test,
      @Schema(nullable = true) @Nullable SaidBody said,
      boolean returned,
      @Schema(nullable = true) @Nullable SeenBody seen,
      List<TicketBody> tickets) {
    static GroupInRunBody of(GroupInRun line) {
      return new GroupInRunBody(
          line.group(),
          TitleBody.of(line.kind(), line.sentence(), line.template()),
          line.kind().word(),
          line.sentence(),
          line.template(),
          line.results(),
          line.tests(),
          line.open(),
          line.kept(),
          line.first().toString(),
          line.test(),
          SaidBody.of(line.said()),
          line.returned(),
          SeenBody.of(line.seen()),
          TicketBody.of(line.tickets()));
    }
  }

  /**
   * Where a group was first seen.
   *
   * @param here whether that is this run
   */
  @Schema(name = "FirstSeen")
  public record SeenBody(String stream, int run, Instant at, boolean here) {
    static @Nullable SeenBody of(GroupInRun.@Nullable Seen seen) {
      return seen == null ? null : new SeenBody(seen.stream(), seen.run(), seen.at(), seen.here());
    }
  }
}
