package org.vinecellar.store.trust;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.history.Moment;
import org.vinecellar.core.trust.history.Moment.Kind;
import org.vinecellar.core.trust.history.Stretches;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;

/**
 * What happened to a test in a stream, and what people said of it anywhere, under all its names.
 */
final class MomentQueries {
  /** Of each kind so many at most, the latest. */
  private static final int SOME = 100;

  /** What it did is looked at in so many runs. */
  private static final int RUNS = 500;

  private final DSLContext dsl;
  private final int projectId;
  private final List<Moment> all = new ArrayList<>();

  MomentQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /**
   * @param stream by its name
   * @param now what was to end later has not ended
   * @return the latest first
   */
  List<Moment> of(int test, String stream, Instant now, int limit) {
    Record row =
        dsl.fetchOne(
            "select id from stream where project_id = ? and name = ? and deleted_at is null",
            projectId,
            stream);
    Set<Integer> names = Set.of(test);
    if (row != null) {
      long id = row.get(0, Long.class);
      names = Lineage.of(dsl, projectId, id).withEarlier(names);
      all.addAll(Stretches.of(new PastQueries(dsl, projectId).of(test, stream, null, RUNS)));
      came(id, names);
      taken(id, test);
      renamed(id, names);
    }
    Field<Integer[]> ids = Ids.of(names);
    explained(ids, now);
    noted(ids);
    overruled(ids);
    quarantined(ids, now);
    all.sort(Comparator.comparing(Moment::at).reversed().thenComparing(Moment::kind));
    return all.size() > limit ? List.copyOf(all.subList(0, limit)) : all;
  }

  private void came(long stream, Set<Integer> names) {
    dsl.fetch(
            "select r.started_at, m.name, r.number from test_in_stream t"
                + " join run r on r.project_id = t.project_id and r.id = t.first_run_id"
                + " join stream m on m.project_id = r.project_id and m.id = r.stream_id"
                + " where t.project_id = ? and t.stream_id = ? and t.test_id = any(?)"
                + " and r.number is not null order by r.started_at, r.number limit 1",
            projectId,
            stream,
            Ids.of(names))
        .forEach(row -> add(at(row, 0), Kind.CAME, null, where(row, 1), null, null, null, null));
  }

  private void taken(long stream, int test) {
    dsl.fetch(
            "select r.started_at, m.name, r.number, b.verdict from test_belief b"
                + " join run r on r.project_id = b.project_id and r.id = b.taken_run_id"
                + " join stream m on m.project_id = r.project_id and m.id = r.stream_id"
                + " where b.project_id = ? and b.stream_id = ? and b.test_id = ? and b.verdict <> ?",
            projectId,
            stream,
            test,
            Verdict.UNSURE.code())
        .forEach(
            row ->
                add(
                    at(row, 0),
                    Kind.TAKEN,
                    null,
                    where(row, 1),
                    Verdict.ofCode(row.get(3, Integer.class)).word(),
                    null,
                    null,
                    null));
  }

  private void renamed(long stream, Set<Integer> names) {
    for (Record row :
        dsl.fetch(
            "select s.made_at, s.state, s.made_by, r.started_at, m.name, r.number,"
                + " coalesce(o.name, '') || coalesce(o.parameters, '') as old,"
                + " coalesce(n.name, '') || coalesce(n.parameters, '') as new from succession s"
                + " join stream m on m.project_id = s.project_id and m.id = s.stream_id"
                + " join test o on o.project_id = s.project_id and o.id = s.old_test_id"
                + " join test n on n.project_id = s.project_id and n.id = s.new_test_id"
                + " left join run r on r.project_id = s.project_id and r.id = s.run_id"
                + " where s.project_id = ? and s.stream_id = ? and s.state <> 2"
                + " and s.reasons <> 'FOLDED'"
                + " and s.new_test_id = any(?) order by s.made_at desc limit ?",
            projectId,
            stream,
            Ids.of(names),
            SOME)) {
      boolean isApart = row.get("state", Integer.class) == 4;
      boolean isSeen = row.get("number") != null && row.get("made_by") == null;
      add(
          isSeen ? at(row, 3) : at(row, 0),
          isApart ? Kind.KEPT_APART : Kind.RENAMED,
          row.get("made_by", String.class),
          isSeen ? where(row, 4) : null,
          null,
          row.get("old", String.class),
          isApart ? null : row.get("new", String.class),
          null);
    }
  }

  private void explained(Field<Integer[]> names, Instant now) {
    for (Record row :
        dsl.fetch(
            "select d.made_at, m.name, r.number, d.place, d.test_id = any(?) as own, d.made_by,"
                + " x.name as rule, c.name as category, d.comment, d.undone_at, d.undone_by, d.ends_at"
                + " from (select d.* from decision d where d.project_id = ? and d.test_id = any(?)"
                + " union select d.* from decision d where d.project_id = ? and d.id in"
                + " (select f.decision_id from failure f where f.test_id = any(?)"
                + " and f.decision_id is not null)) d"
                + " join category c on c.project_id = d.project_id and c.id = d.category_id"
                + " left join rule x on x.project_id = d.project_id and x.id = d.rule_id"
                + " left join run r on r.project_id = d.project_id and r.id = d.run_id"
                + " and r.number is not null and r.deleted_at is null"
                + " left join stream m on m.project_id = r.project_id and m.id = r.stream_id"
                + " order by d.made_at desc limit ?",
            names,
            projectId,
            names,
            projectId,
            names,
            SOME)) {
      String category = row.get("category", String.class);
      String rule = row.get("rule", String.class);
      String by = rule == null ? row.get("made_by", String.class) : "rule “" + rule + "”";
      // Where another test failed, its result there is none of this one.
      boolean isOwn = row.get("own", Boolean.class);
      Moment.Where where =
          row.get("number") == null
              ? null
              : new Moment.Where(
                  row.get(1, String.class),
                  row.get(2, Integer.class),
                  isOwn ? Packed.id(row.get("place", Integer.class)) : null);
      String comment = row.get("comment", String.class);
      add(at(row, 0), Kind.EXPLAINED, by, where, category, null, null, comment);
      Instant undone = instant(row.get("undone_at", OffsetDateTime.class));
      Instant ends = instant(row.get("ends_at", OffsetDateTime.class));
      if (undone != null) {
        String who = row.get("undone_by", String.class);
        add(undone, Kind.TAKEN_BACK, who, null, category, null, null, null);
      } else if (ends != null && !ends.isAfter(now)) {
        add(ends, Kind.NO_LONGER, null, null, category, null, null, null);
      }
    }
  }

  private void noted(Field<Integer[]> names) {
    for (Record row :
        dsl.fetch(
            "select made_at, made_by, field, text_before, text_after, reason from edit"
                + " where project_id = ? and subject = 1 and subject_id = any(?)"
                + " order by id desc limit ?",
            projectId,
            names,
            SOME)) {
      add(
          at(row, 0),
          Kind.NOTED,
          row.get(1, String.class),
          null,
          row.get(2, String.class),
          row.get(3, String.class),
          row.get(4, String.class),
          row.get(5, String.class));
    }
  }

  private void overruled(Field<Integer[]> names) {
    for (Record row :
        dsl.fetch(
            "select e.made_at, m.name, r.number, e.place, e.made_by, e.text_before, e.text_after,"
                + " e.reason from edit e join result_row x on x.run_id = e.subject_id"
                + " and x.place = e.place join run r on r.project_id = e.project_id"
                + " and r.id = e.subject_id and r.deleted_at is null"
                + " join stream m on m.project_id = r.project_id and m.id = r.stream_id"
                + " where e.project_id = ? and e.subject = 0 and e.place is not null"
                + " and x.test_id = any(?) order by e.id desc limit ?",
            projectId,
            names,
            SOME)) {
      add(
          at(row, 0),
          Kind.OVERRULED,
          row.get(4, String.class),
          new Moment.Where(
              row.get(1, String.class),
              row.get(2, Integer.class),
              Packed.id(row.get(3, Integer.class))),
          null,
          row.get(5, String.class),
          row.get(6, String.class),
          row.get(7, String.class));
    }
  }

  private void quarantined(Field<Integer[]> names, Instant now) {
    for (Record row :
        dsl.fetch(
            "select q.since_at, q.made_by, q.owner, q.until_on::text, q.reason, q.ended_at,"
                + " q.ended_by, m.name from quarantine q left join stream m"
                + " on m.project_id = q.project_id and m.id = q.stream_id where q.project_id = ?"
                + " and q.test_id = any(?) order by q.since_at desc limit ?",
            projectId,
            names,
            SOME)) {
      String stream = row.get(7, String.class);
      add(
          at(row, 0),
          Kind.QUARANTINED,
          row.get(1, String.class),
          null,
          row.get(2, String.class),
          stream,
          row.get(3, String.class),
          row.get(4, String.class));
      Instant ended = instant(row.get("ended_at", OffsetDateTime.class));
      if (ended != null && !ended.isAfter(now)) {
        add(ended, Kind.RELEASED, row.get(6, String.class), null, null, stream, null, null);
      }
    }
  }

  private void add(
      Instant at,
      Kind kind,
      @Nullable String by,
      Moment.@Nullable Where where,
      @Nullable String what,
      @Nullable String before,
      @Nullable String after,
      @Nullable String why) {
    all.add(new Moment(at, kind, by, where, null, what, before, after, why));
  }

  private static Instant at(Record row, int column) {
    return row.get(column, OffsetDateTime.class).toInstant();
  }

  private static @Nullable Instant instant(@Nullable OffsetDateTime time) {
    return time == null ? null : time.toInstant();
  }

  private static Moment.Where where(Record row, int column) {
    return new Moment.Where(
        row.get(column, String.class), row.get(column + 1, Integer.class), null);
  }
}
