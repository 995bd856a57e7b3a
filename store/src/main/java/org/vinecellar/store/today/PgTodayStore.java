package org.vinecellar.store.today;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.quarantine.Standing;
import org.vinecellar.core.today.Today;
import org.vinecellar.core.today.TodayStore;
import org.vinecellar.core.triage.desk.DeskStore.Question;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.store.quarantine.QuarantineQueries;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.DeskQueries;
import org.vinecellar.store.triage.GroupInRunQueries;
import org.vinecellar.store.trust.TrustQueries;
import org.vinecellar.store.trust.ranks.RankQueries;

/** What needs somebody, in PostgreSQL. Thread-safe. */
public final class PgTodayStore implements TodayStore {
  private static final int GROUPS = 8;

  private static final int TESTS = 20;

  /** Of so many quarantines those are told that need a word. */
  private static final int LOOKED_OVER = 200;

  /** What came back, or is somebody's, is told this long. */
  private static final Duration LATELY = Duration.ofDays(30);

  /** Of the latest run of each stream: its sums, and its widest group. */
  private static final String STREAMS =
      "select m.name, r.number, r.explained, r.passed + r.failed + r.errored + r.not_reached as ran,"
          + " n.results, n.open, n.fresh, w.results as widest, g.id as group_id, g.kind, g.sentence,"
          + " g.template from stream m join lateral (select x.* from run x"
          + " where x.project_id = m.project_id and x.stream_id = m.id and x.number is not null"
          + " order by x.started_at desc, x.number desc limit 1) r on true"
          + " join lateral (select coalesce(sum(gr.results), 0)::int as results,"
          + " coalesce(sum(gr.open), 0)::int as open, count(*) filter (where g.made_at > ?::timestamptz"
          + " and gr.open > 0)::int as fresh from group_run gr join failure_group g"
          + " on g.project_id = gr.project_id and g.id = gr.group_id"
          + " where gr.project_id = m.project_id and gr.run_id = r.id) n on true"
          + " left join lateral (select gr.group_id, gr.results from group_run gr"
          + " where gr.project_id = m.project_id and gr.run_id = r.id"
          + " order by gr.results desc, gr.group_id limit 1) w on true"
          + " left join failure_group g on g.project_id = m.project_id and g.id = w.group_id"
          + " where m.project_id = ? and m.deleted_at is null order by m.name";

  private final Sql sql;

  /** On that database. */
  public PgTodayStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public @Nullable Instant look(int projectId, String who, Instant now) {
    OffsetDateTime before =
        sql.with(
            dsl ->
                dsl.fetchSingle(
                        "insert into look as l (project_id, who, since_at, looked_at)"
                            + " values (?, ?, null, ?::timestamptz) on conflict (project_id, who) do update"
                            + " set since_at = case when l.looked_at < ?::timestamptz then l.looked_at"
                            + " else l.since_at end, looked_at = greatest(l.looked_at, excluded.looked_at)"
                            + " returning since_at",
                        projectId,
                        who,
                        Sql.utc(now),
                        Sql.utc(now.minus(ONE_LOOK)))
                    .get(0, OffsetDateTime.class));
    return before == null ? null : before.toInstant();
  }

  @Override
  public Today today(int projectId, String who, Instant since, Instant now) {
    return sql.with(
        dsl -> {
          DeskQueries desk = new DeskQueries(dsl, projectId);
          return new Today(
              since,
              some(desk, question(Show.UNSORTED, null, who, now), since),
              some(desk, question(Show.RETURNED, now.minus(LATELY), who, now), null),
              some(desk, question(Show.MINE, now.minus(LATELY), who, now), null),
              trust(dsl, projectId, since, LocalDate.ofInstant(now, ZoneOffset.UTC)),
              streams(dsl, projectId, since));
        });
  }

  private static Question question(Show show, @Nullable Instant seen, String who, Instant now) {
    return new Question(show, seen, Criterion.EVERYTHING, who, now, 0, GROUPS);
  }

  private static Today.Some some(DeskQueries desk, Question question, @Nullable Instant made) {
    return new Today.Some(desk.lines(question, made), desk.count(question, made));
  }

  private static Today.Trust trust(DSLContext dsl, int projectId, Instant since, LocalDate today) {
    RankQueries ranks = new RankQueries(dsl, projectId);
    return new Today.Trust(
        new TrustQueries(dsl, projectId).taken(Verdict.FLAKY, since, today, TESTS),
        ranks.slowerSince(since, today, TESTS),
        ranks.goneSince(since, today, TESTS),
        new QuarantineQueries(dsl, projectId)
            .open(null, 0, LOOKED_OVER).stream()
                .filter(one -> one.standing(today) != Standing.HOLDS)
                .limit(TESTS)
                .toList());
  }

  private static List<Today.OfStream> streams(DSLContext dsl, int projectId, Instant since) {
    return dsl.fetch(STREAMS, Sql.utc(since), projectId).map(PgTodayStore::stream);
  }

  private static Today.OfStream stream(Record row) {
    return new Today.OfStream(
        row.get("name", String.class),
        row.get("number", Integer.class),
        row.get("results", Integer.class),
        row.get("open", Integer.class),
        row.get("fresh", Integer.class),
        row.get("explained", Boolean.class),
        GroupInRunQueries.outage(row));
  }
}
