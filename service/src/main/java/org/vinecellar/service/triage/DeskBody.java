package org.vinecellar.service.triage;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.service.triage.tickets.TicketBody;

/**
 * What there is to sort.
 *
 * @param groups the widest and latest first
 * @param sums over all of the time that was asked for
 */
@Schema(name = "Desk")
public record DeskBody(List<GroupLineBody> groups, DeskSumsBody sums) {
  static DeskBody of(List<GroupLine> lines, DeskStore.Sums sums) {
    return new DeskBody(
        lines.stream().map(GroupLineBody::of).toList(),
        new DeskSumsBody(
            sums.unsorted(),
            sums.returned(),
            sums.mine(),
            sums.older(),
            sums.open(),
            sums.results(),
            sums.decisions(),
            sums.byHand(),
            sums.rules(),
            sums.grouping()));
  }

  /**
   * How much there is.
   *
   * @param unsorted groups with results that nobody explained
   * @param returned those of them that had been explained before
   * @param mine groups that were given to who asks
   * @param older groups with unexplained results that were last seen before the time asked for
   * @param open results that nobody explained
   * @param results failing ones
   * @param decisions on groups that explain some of them
   * @param single decisions on one result alone
   * @param rules that explain some of them
   * @param grouping runs whose failures are not all grouped yet: what they hold is not counted
   */
  @Schema(name = "DeskSums")
  public record DeskSumsBody(
      int unsorted,
      int returned,
      int mine,
      int older,
      int open,
      int results,
      int decisions,
      int single,
      int rules,
      int grouping) {}

  /**
   * A failure group over all runs.
   *
   * @param group stays the same
   * @param title what people call it
   * @param keyKind what it is known by
   * @param sentence why its results are one group
   * @param template the error, with a hole for each value
   * @param results that belong to it
   * @param open those of them that nobody explained
   * @param result of the latest run; one that nobody explained if there is one
   * @param test what that one is called
   * @param said the latest decision on the group that stands; null for none
   * @param ends when that comes, or came, to its end; null for never
   * @param endedBy mended, date or ticket; null for never
   * @param untilClosed whether it comes to its end when the tickets are closed
   * @param returned whether it fails again after that
   * @param disputed whether two decisions on it stand that say different things: none of them is
   *     carried until one is taken back
   * @param assigned to whom it was given; null for nobody
   * @param tickets that it is linked to
   */
  @Schema(name = "Group")
  public record GroupLineBody(
      long group,
      TitleBody title,
      String keyKind,
      String sentence,
      String template,
      int results,
      int open,
      int tests,
      int streams,
      int runs,
      SeenInBody first,
      SeenInBody last,
      String result,
      String test,
      @Schema(nullable = true) @Nullable SaidBody said,
      @Schema(nullable = true) @Nullable Instant ends,
      @Schema(nullable = true) @Nullable String endedBy,
      boolean untilClosed,
      boolean returned,
      boolean disputed,
      @Schema(nullable = true) @Nullable String assigned,
      List<TicketBody> tickets) {
    /** As the API tells it. */
    public static GroupLineBody of(GroupLine line) {
      return new GroupLineBody(
          line.id(),
          TitleBody.of(line.kind(), line.sentence(), line.template()),
          line.kind().word(),
          line.sentence(),
          line.template(),
          line.results(),
          line.open(),
          line.tests(),
          line.streams(),
          line.runs(),
          SeenInBody.of(line.first()),
          SeenInBody.of(line.last()),
          line.shown().toString(),
          line.test(),
          SaidBody.of(line.said()),
          line.ends(),
          line.endedBy() == null ? null : line.endedBy().word(),
          line.untilClosed(),
          line.returned(),
          line.disputed(),
          line.assigned(),
          TicketBody.of(line.tickets()));
    }
  }

  /**
   * A run.
   *
   * @param run its ID
   * @param number in its stream
   * @param at when it began
   */
  @Schema(name = "SeenIn")
  public record SeenInBody(long run, String stream, int number, Instant at) {
    static SeenInBody of(GroupLine.SeenIn seen) {
      return new SeenInBody(seen.run(), seen.stream(), seen.number(), seen.at());
    }
  }
}
