package org.vinecellar.store.quarantine;

import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_FACTS;

import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.quarantine.Lately;
import org.vinecellar.core.quarantine.Quarantine;
import org.vinecellar.core.quarantine.Terms;
import org.vinecellar.core.quarantine.runners.NamedTest;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.sql.Ids;

/** Quarantines with what their tests did meanwhile. */
public final class QuarantineQueries {
  /** So many runs of a stream tell of it. */
  private static final int LATEST = 100;

  private static final String SELECT =
      "select q.id, q.version, q.test_id, q.owner, q.reason, q.ticket, q.until_on, q.since_at,"
          + " q.made_by, q.ended_at, q.ended_by, m.name as stream from quarantine q"
          + " left join stream m on m.project_id = q.project_id and m.id = q.stream_id"
          + " where q.project_id = ? and ";

  private final DSLContext dsl;
  private final int projectId;

  /** On a connection. */
  public QuarantineQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /**
   * Those that nobody has ended, the one that ends first first.
   *
   * @param stream those that hold in it; null for all
   */
  public List<Quarantine> open(@Nullable String stream, int after, int limit) {
    return some("q.ended_at is null", "q.until_on, q.id", stream, after, limit);
  }

  List<Quarantine> ended(@Nullable String stream, int after, int limit) {
    return some("q.ended_at is not null", "q.ended_at desc, q.id", stream, after, limit);
  }

  private List<Quarantine> some(
      String which, String order, @Nullable String stream, int after, int limit) {
    return quarantines(
        List.copyOf(
            dsl.fetch(
                SELECT
                    + which
                    + " and (?::text is null or q.stream_id is null or m.name = ?) order by "
                    + order
                    + " limit ? offset ?",
                projectId,
                stream,
                stream,
                limit,
                after)));
  }

  /** Of a test and of what it was before. */
  List<Quarantine> of(long test) {
    return quarantines(
        List.copyOf(
            dsl.fetch(
                "with recursive back (id) as (select ?::integer union select s.old_test_id from back b"
                    + " join succession s on s.project_id = ? and s.new_test_id = b.id"
                    + " and s.state in (1, 3)) "
                    + SELECT
                    + "q.test_id in (select id from back) order by q.ended_at desc nulls first, q.id desc"
                    + " limit 100",
                test,
                projectId,
                projectId)));
  }

  @Nullable Quarantine one(long id) {
    List<Quarantine> found =
        quarantines(List.copyOf(dsl.fetch(SELECT + "q.id = ?", projectId, id)));
    return found.isEmpty() ? null : found.get(0);
  }

  private List<Quarantine> quarantines(List<Record> rows) {
    if (rows.isEmpty()) {
      return List.of();
    }
    Set<Long> ids = new HashSet<>();
    Set<Long> wanted = new HashSet<>();
    for (Record row : rows) {
      ids.add(row.get("id", Long.class));
      wanted.add(row.get("test_id", Long.class));
    }
    Map<Long, KeptTest> tests = KeptTests.byNumber(dsl, projectId, wanted);
    Map<Long, Lately> lately = lately(ids);
    List<Quarantine> all = new ArrayList<>();
    for (Record row : rows) {
      long id = row.get("id", Long.class);
      KeptTest test = tests.get(row.get("test_id", Long.class));
      if (test != null) {
        all.add(quarantine(row, test, lately.getOrDefault(id, Lately.of(List.of(), null))));
      }
    }
    return all;
  }

  private static Quarantine quarantine(Record row, KeptTest test, Lately lately) {
    OffsetDateTime ended = row.get("ended_at", OffsetDateTime.class);
    return new Quarantine(
        row.get("id", Long.class),
        row.get("version", Integer.class),
        test,
        row.get("stream", String.class),
        new Terms(
            row.get("owner", String.class),
            row.get("reason", String.class),
            row.get("ticket", String.class),
            row.get("until_on", LocalDate.class)),
        row.get("since_at", OffsetDateTime.class).toInstant(),
        row.get("made_by", String.class),
        ended == null ? null : ended.toInstant(),
        row.get("ended_by", String.class),
        lately);
  }

  /** Those that are there on that day, by suite and name. */
  List<NamedTest> names(@Nullable String stream, LocalDate today, boolean latest) {
    Set<Long> ids =
        new HashSet<>(
            dsl.fetch(
                    Reach.with("q.ended_at is null and q.until_on >= ?::date")
                        + "select distinct c.test_id from reach c where (?::text is null"
                        + " or c.stream_id is null or c.stream_id = (select m.id from stream m"
                        + " where m.project_id = ? and m.name = ?))"
                        + (latest
                            ? " and not exists (select 1 from succession s where s.project_id = ?"
                                + " and s.old_test_id = c.test_id and s.state in (1, 3)"
                                + " and (c.stream_id is null or s.stream_id = c.stream_id))"
                            : " and ?::int is not null"),
                    projectId,
                    today,
                    projectId,
                    stream,
                    projectId,
                    stream,
                    projectId)
                .getValues(0, Long.class));
    Map<Long, String> files = new HashMap<>();
    dsl.select(TEST.ID, TEST_FACTS.SOURCE_FILE)
        .from(TEST)
        .join(TEST_FACTS)
        .on(TEST_FACTS.TEST_ID.eq(TEST.ID), TEST_FACTS.VERSION.eq(TEST.FACTS))
        .where(TEST.PROJECT_ID.eq(projectId), DSL.condition("{0} = any({1})", TEST.ID, Ids.of(ids)))
        .forEach(
            row -> {
              if (row.value2() != null) {
                files.put(row.value1(), row.value2());
              }
            });
    return KeptTests.byNumber(dsl, projectId, ids).values().stream()
        .map(test -> new NamedTest(test, files.get(test.id())))
        .sorted(
            Comparator.comparing((NamedTest one) -> String.join("\n", one.test().suite()))
                .thenComparing(one -> one.test().name())
                .thenComparing(one -> one.test().id()))
        .toList();
  }

  /** By the runs of each stream that began since then and were learned from. */
  private Map<Long, Lately> lately(Set<Long> ids) {
    Map<Long, Lately> all = new HashMap<>();
    for (Record row :
        dsl.fetch(
            Reach.with("q.id = any(?)")
                + ", placed as (select distinct c.quarantine_id, x.stream_id, x.test_id from reach c"
                + " join test_in_stream x on x.project_id = ? and x.test_id = c.test_id"
                + " and (c.stream_id is null or x.stream_id = c.stream_id)),"
                + " streamed as (select quarantine_id, stream_id, array_agg(test_id) as tests from placed"
                + " group by quarantine_id, stream_id)"
                + " select s.quarantine_id, (select array_agg(case when d.bad then 1 when d.told then 0"
                + " else 2 end order by l.started_at desc, l.number desc) from (select * from run_learned l"
                + " where l.project_id = q.project_id and l.stream_id = s.stream_id"
                + " and l.started_at >= q.since_at and (q.ended_at is null or l.started_at < q.ended_at)"
                + " order by l.started_at desc, l.number desc limit ?) l cross join lateral ("
                + "select coalesce(bool_or(r.outcome in (1, 2) or r.stumbled), false) as bad,"
                + " coalesce(bool_or(r.outcome = 0), false) as told from result r"
                + " where r.run_id = l.run_id and r.test_id = any(s.tests) and not r.superseded) d) as seen,"
                + " (select array_agg(distinct b.verdict) from test_belief b"
                + " where b.project_id = q.project_id and b.stream_id = s.stream_id"
                + " and b.test_id = any(s.tests)) as verdicts"
                + " from streamed s join quarantine q on q.project_id = ? and q.id = s.quarantine_id",
            projectId,
            Ids.of(ids),
            projectId,
            projectId,
            LATEST,
            projectId)) {
      Integer[] seen = row.get(1, Integer[].class);
      Lately one =
          Lately.of(
              seen == null ? List.of() : Arrays.asList(seen), worst(row.get(2, Short[].class)));
      all.merge(row.get(0, Long.class), one, Lately::and);
    }
    return all;
  }

  private static @Nullable Verdict worst(Short @Nullable [] codes) {
    Lately all = Lately.of(List.of(), null);
    for (Short code : codes == null ? new Short[0] : codes) {
      all = all.and(Lately.of(List.of(), Verdict.ofCode(Objects.requireNonNull(code))));
    }
    return all.verdict();
  }
}
