package org.vinecellar.store.trust.ranks;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.store.filters.Looks;
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
