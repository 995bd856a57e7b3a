package org.vinecellar.store.trust;

import java.math.BigDecimal;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.evidence.Environments;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;

/** The runs of a stream in the order in which they began. */
final class Nights {
  /** Of a test so many runs are looked back at. */
  static final int LOOKED_BACK = 1_000;

  private static final String SELECT =
      "select r.id, r.number, r.started_at, r.changed_at, r.commit_id, r.branch,"
          + " r.passed + r.failed + r.errored as tests, r.failed + r.errored as failing,"
          + " r.stumbled,"
          + " coalesce((select jsonb_object_agg(l.key, l.value) from run_label l"
          + " where l.run_id = r.id and l.key in ("
          + inList(Environments.LABELS)
          + ")), '{}')::text as labels from ";

  private static final String READY =
      " r.number is not null and r.deleted_at is null and r.explained";

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final @Nullable String main;

  Nights(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.main = main();
  }

  private static String inList(List<String> words) {
    return "'" + String.join("', '", words) + "'";
  }

  /** A run with its place among the others. */
  record Known(Night night, OffsetDateTime started, OffsetDateTime changed) {}

  /**
   * The branch on which tests are expected to pass. Where none is known to be that, it is the one
   * of the first run.
   *
   * @return null when no run tells a branch
   */
  @Nullable String mainBranch() {
    return main;
  }

  private @Nullable String main() {
    return dsl.fetchSingle(
            "select coalesce((select main_branch from stream where project_id = ? and id = ?),"
                + " (select m.name from (values ('main', 1), ('master', 2), ('trunk', 3))"
                + " as m (name, nr) where exists (select 1 from run r where r.project_id = ?"
                + " and r.stream_id = ? and r.branch = m.name and r.number is not null)"
                + " order by nr limit 1),"
                + " (select r.branch from run r where r.project_id = ? and r.stream_id = ?"
                + " and r.number is not null order by r.started_at, r.number limit 1))",
            projectId,
            streamId,
            projectId,
            streamId,
            projectId,
            streamId)
        .get(0, String.class);
  }

  /** Those after a place that can be learned from, in order. */
  List<Known> after(@Nullable OffsetDateTime started, int number, int limit) {
    return known(
        dsl.fetch(
            SELECT
                + "run r where r.project_id = ? and r.stream_id = ? and"
                + READY
                + " and (r.started_at, r.number) > (coalesce(?::timestamptz, '-infinity'), ?)"
                + " order by r.started_at, r.number limit ?",
            projectId,
            streamId,
            started,
            number,
            limit));
  }

  /** The latest that are settled, in order. */
  List<Known> settled(int limit) {
    List<Known> latest =
        known(
            dsl.fetch(
                SELECT
                    + "(select l.run_id from run_learned l join stream_learning s"
                    + " on s.project_id = l.project_id and s.stream_id = l.stream_id"
                    + " where l.project_id = ? and l.stream_id = ?"
                    + " and (l.started_at, l.number) <= (s.settled_at, s.settled_number)"
                    + " order by l.started_at desc, l.number desc limit ?) n"
                    + " join run r on r.project_id = ? and r.id = n.run_id"
                    + " order by r.started_at desc, r.number desc",
                projectId,
                streamId,
                limit,
                projectId));
    Collections.reverse(latest);
    return latest;
  }

  /** How many after a place are known, even if they are gone or elsewhere now. */
  int learnedAfter(@Nullable OffsetDateTime started, int number) {
    return dsl.fetchSingle(
            "select count(*)::int from run_learned where project_id = ? and stream_id = ?"
                + " and (started_at, number) > (coalesce(?::timestamptz, '-infinity'), ?)",
            projectId,
            streamId,
            started,
            number)
        .get(0, Integer.class);
  }

  /**
   * Notes that none after a place is known.
   *
   * @return those that were
   */
  List<Long> forgetAfter(OffsetDateTime started, int number) {
    return dsl.fetch(
            "delete from run_learned where project_id = ? and stream_id = ?"
                + " and (started_at, number) > (?::timestamptz, ?) returning run_id",
            projectId,
            streamId,
            started,
            number)
        .getValues(0, Long.class);
  }

  /**
   * Notes that they are known as they are now.
   *
   * @param sums over the tests of each; of one that is known already it may be missing
   */
  void learn(List<Known> nights, Map<Long, BigDecimal> sums) {
    if (nights.isEmpty()) {
      return;
    }
    dsl.execute(
        "insert into run_learned (project_id, stream_id, run_id, started_at, number, changed_at,"
            + " tests) select ?, ?, x.run_id, x.started_at, x.number, x.changed_at,"
            + " coalesce(x.tests, (select k.tests from run_learned k where k.run_id = x.run_id), 0)"
            + " from unnest(?::int[], ?::timestamptz[], ?::int[], ?::timestamptz[], ?::numeric[])"
            + " as x (run_id, started_at, number, changed_at, tests) on conflict (run_id) do update"
            + " set started_at = excluded.started_at, number = excluded.number,"
            + " changed_at = excluded.changed_at, tests = excluded.tests",
        projectId,
        streamId,
        nights.stream().map(one -> (int) one.night().run()).toArray(Integer[]::new),
        nights.stream().map(Known::started).toArray(OffsetDateTime[]::new),
        nights.stream().map(one -> one.night().number()).toArray(Integer[]::new),
        nights.stream().map(Known::changed).toArray(OffsetDateTime[]::new),
        nights.stream().map(one -> sums.get(one.night().run())).toArray(BigDecimal[]::new));
  }

  /** Whether any of some runs was learned from, even as it was before it changed. */
  boolean anyLearned(Collection<Long> runs) {
    return dsl.fetchOne("select 1 from run_learned where run_id = any(?) limit 1", Ids.of(runs))
        != null;
  }

  /** Which of some runs are known as they are now. */
  Set<Long> areKnown(List<Night> some) {
    return new HashSet<>(
        dsl.fetch(
                "select r.id from run r join run_learned l on l.run_id = r.id"
                    + " and l.changed_at = r.changed_at where r.project_id = ? and r.id = any(?)",
                projectId,
                Ids.of(some.stream().map(Night::run).toList()))
            .getValues(0, Long.class));
  }

  private List<Known> known(List<? extends Record> rows) {
    return new ArrayList<>(rows.stream().map(this::known).toList());
  }

  private Known known(Record row) {
    Map<String, String> labels = Json.map(JSONB.valueOf(row.get("labels", String.class)));
    String branch = row.get("branch", String.class);
    return new Known(
        new Night(
            row.get("id", Long.class),
            row.get("number", Integer.class),
            row.get("commit_id", String.class),
            branch == null || branch.equals(main) ? null : branch,
            Environments.of(labels),
            row.get("tests", Integer.class),
            row.get("failing", Integer.class),
            row.get("stumbled", Integer.class)),
        row.get("started_at", OffsetDateTime.class),
        row.get("changed_at", OffsetDateTime.class));
  }
}
