package org.vinecellar.store.trust.ranks;

import java.util.List;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.results.SuitePaths;
import org.vinecellar.store.sql.Sql;

/** Tests by their figures, in PostgreSQL. Thread-safe. */
public final class PgRankStore implements RankStore {
  /** So many suites are split. */
  private static final int SUITES = 20_000;

  private final Sql sql;
  private final Looks looks;

  /**
   * @param looks whoever asks by a filter is one of them
   */
  public PgRankStore(Sql sql, Looks looks) {
    this.sql = sql;
    this.looks = looks;
  }

  @Override
  public List<Ranked> ranked(int projectId, Question question) {
    return looks.wide(question.filter(), dsl -> new RankQueries(dsl, projectId).ranked(question));
  }

  @Override
  public List<SlowStream> slowStreams(int projectId) {
    return sql.with(
        dsl ->
            dsl.fetch(
                    "select m.name, r.number, l.slower_factor from stream_learning l"
                        + " join stream m on m.project_id = l.project_id and m.id = l.stream_id"
                        + " join run r on r.project_id = l.project_id and r.id = l.slower_run_id"
                        + " where l.project_id = ? and m.deleted_at is null order by m.name",
                    projectId)
                .map(
                    row ->
                        new SlowStream(
                            row.get(0, String.class),
                            row.get(1, Integer.class),
                            row.get(2, Double.class))));
  }

  @Override
  public List<SlowSuite> slowSuites(int projectId, @Nullable String stream, int limit) {
    return sql.with(
        dsl -> {
          List<Record> rows =
              List.copyOf(
                  dsl.fetch(
                      "select m.name, s.suite_id::bigint, s.tests, s.millis, s.before_millis,"
                          + " r.number, s.weekly from suite_figures s join stream m"
                          + " on m.project_id = s.project_id and m.id = s.stream_id join run r"
                          + " on r.project_id = s.project_id and r.id = s.slower_run_id"
                          + " and r.number is not null where s.project_id = ?"
                          + " and m.deleted_at is null and (?::text is null or m.name = ?)"
                          + " and exists (select 1 from test_figures f join test t"
                          + " on t.project_id = f.project_id and t.id = f.test_id"
                          + " where f.project_id = s.project_id and f.stream_id = s.stream_id"
                          + " and f.missing < 3 and t.suite_id = s.suite_id)"
                          + " and not exists (select 1 from test_figures f join test t"
                          + " on t.project_id = f.project_id and t.id = f.test_id"
                          + " where f.project_id = s.project_id and f.stream_id = s.stream_id"
                          + " and f.slower_run_id is not null and t.suite_id = s.suite_id"
                          + " and (f.millis - f.before_millis) > 0.8 * (s.millis - s.before_millis))"
                          + " order by (s.millis - s.before_millis) * s.weekly desc, s.suite_id"
                          + " limit ?",
                      projectId,
                      stream,
                      stream,
                      limit));
          SuitePaths paths =
              new SuitePaths(
                  dsl,
                  projectId,
                  rows.stream().map(row -> row.get(1, Long.class)).distinct().toList());
          return rows.stream()
              .map(
                  row ->
                      new SlowSuite(
                          row.get(0, String.class),
                          paths.of(row.get(1, Long.class)),
                          row.get(2, Integer.class),
                          row.get(3, Double.class),
                          row.get(4, Double.class),
                          row.get(5, Integer.class),
                          row.get(6, Double.class)))
              .toList();
        });
  }

  @Override
  public List<Load> loads(int projectId, String stream) {
    return loads(
        projectId,
        stream,
        "select coalesce(s.name, '') as name, sum(coalesce(f.millis, 0))::float8, count(*)::int"
            + " from stream m join test_figures f on f.project_id = m.project_id"
            + " and f.stream_id = m.id join test t on t.project_id = f.project_id"
            + " and t.id = f.test_id left join suite s on s.project_id = t.project_id"
            + " and s.id = t.suite_id where m.project_id = ? and m.name = ?"
            + " and m.deleted_at is null and f.missing = 0 group by 1 order by 1 limit "
            + SUITES);
  }

  @Override
  public List<Load> partsNow(int projectId, String stream) {
    return loads(
        projectId,
        stream,
        "select coalesce(nullif(p.name, ''), 'part ' || p.part_no) as name,"
            + " (select coalesce(sum(r.duration_us), 0) / 1e3 from result r where r.run_id = p.run_id"
            + " and r.part_no = p.part_no and not r.superseded)::float8,"
            + " (select count(*) from result r where r.run_id = p.run_id and r.part_no = p.part_no"
            + " and not r.superseded)::int from part p where p.run_id = (select x.id from stream m"
            + " join run x on x.project_id = m.project_id and x.stream_id = m.id"
            + " where m.project_id = ? and m.name = ? and m.deleted_at is null"
            + " and x.number is not null and x.closed_at is not null"
            + " order by x.started_at desc, x.number desc limit 1) order by p.part_no limit 1000");
  }

  private List<Load> loads(int projectId, @Nullable String stream, String query) {
    return sql.with(
        dsl ->
            dsl.fetch(query, projectId, stream)
                .map(
                    row ->
                        new Load(
                            row.get(0, String.class),
                            row.get(1, Double.class),
                            row.get(2, Integer.class))));
  }
}
