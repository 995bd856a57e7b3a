package org.vinecellar.service.today;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.today.Today;
import org.vinecellar.service.quarantine.QuarantineBody;
import org.vinecellar.service.triage.DeskBody.GroupLineBody;
import org.vinecellar.service.triage.OutageBody;
import org.vinecellar.service.trust.TakenBody;
import org.vinecellar.service.trust.ranks.RankedBody;

/**
 * What needs a person.
 *
 * @param since what is new is told since then
 * @param fresh unexplained groups that were made since then
 * @param returned groups that fail again after they were mended
 * @param mine groups that were given to who asks
 * @param flaky tests that were taken for flaky since then and are in no quarantine; at most 20
 * @param slower tests that were seen to have become slower since then, the dearest first; at most
 *     20
 * @param gone tests that were seen to have vanished since then; at most 20
 * @param quarantine tests in quarantine that need a word: over, ending, clean or gone; at most 20
 * @param streams the latest run of each, by the name of the stream
 */
@Schema(name = "Today")
public record TodayBody(
    Instant since,
    SomeGroupsBody fresh,
    SomeGroupsBody returned,
    SomeGroupsBody mine,
    List<TakenBody> flaky,
    List<RankedBody> slower,
    List<RankedBody> gone,
    List<QuarantineBody> quarantine,
    List<StreamTodayBody> streams) {

  /**
   * @param day which it is, in UTC
   */
  static TodayBody of(Today today, LocalDate day) {
    return new TodayBody(
        today.since(),
        SomeGroupsBody.of(today.fresh()),
        SomeGroupsBody.of(today.returned()),
        SomeGroupsBody.of(today.mine()),
        today.trust().flaky().stream().map(TakenBody::of).toList(),
        today.trust().slower().stream().map(RankedBody::of).toList(),
        today.trust().gone().stream().map(RankedBody::of).toList(),
        today.trust().quarantine().stream().map(one -> QuarantineBody.of(one, day)).toList(),
        today.streams().stream().map(StreamTodayBody::of).toList());
  }

  /**
   * Some failure groups.
   *
   * @param first the widest and latest; at most 8
   * @param total how many there are
   */
  @Schema(name = "SomeGroups")
  public record SomeGroupsBody(List<GroupLineBody> first, int total) {
    static SomeGroupsBody of(Today.Some some) {
      return new SomeGroupsBody(
          some.first().stream().map(GroupLineBody::of).toList(), some.total());
    }
  }

  /**
   * The latest run of a stream.
   *
   * @param failures of it that are grouped
   * @param open those of them that nobody explained
   * @param fresh groups of it with unexplained results that were made since then
   * @param explained whether all of it is grouped
   * @param outage null for none
   */
  @Schema(name = "StreamToday")
  public record StreamTodayBody(
      String stream,
      int run,
      int failures,
      int open,
      int fresh,
      boolean explained,
      @Schema(nullable = true) @Nullable OutageBody outage) {
    static StreamTodayBody of(Today.OfStream one) {
      return new StreamTodayBody(
          one.stream(),
          one.run(),
          one.failures(),
          one.open(),
          one.fresh(),
          one.explained(),
          OutageBody.of(one.outage()));
    }
  }
}
