package org.vinecellar.store.trust;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.SUCCESSION;
import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_BELIEF;
import static org.vinecellar.store.generated.Tables.TEST_IN_STREAM;

import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.OrderField;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.TrustStore.InStream;
import org.vinecellar.core.trust.TrustStore.Order;
import org.vinecellar.core.trust.TrustStore.Question;
import org.vinecellar.core.trust.TrustStore.TestLine;
import org.vinecellar.core.trust.flaky.Belief;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.store.quarantine.Reach;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;

/** Tests with what is believed of them. */
public final class TrustQueries {
  /** What failed in so many runs is broken, whatever else was. */
  private static final int LATEST = 3;

  private static final int VARIANTS = 100;

  private final DSLContext dsl;
  private final int projectId;

  /** On a connection. */
  public TrustQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<TestLine> tests(String stream, long after, int limit) {
    Long id = idOf(stream);
    return id == null ? List.of() : lines(id, TEST_IN_STREAM.TEST_ID.gt(after), limit);
  }

  List<TestLine> named(String stream, String test) {
    Long id = idOf(stream);
    if (id == null) {
      return List.of();
    }
    Lineage lineage = Lineage.of(dsl, projectId, id);
    Set<Integer> found = new HashSet<>();
    for (Record row :
        dsl.fetch(
            "select t.id from test_in_stream x join test t on t.project_id = x.project_id"
                + " and t.id = x.test_id left join suite s on s.project_id = t.project_id"
                + " and s.id = t.suite_id where x.project_id = ? and x.stream_id = ?"
                + " and coalesce(s.name, '') || '#' || t.name || coalesce(t.parameters, '') = ?"
                + " limit ?",
            projectId,
            id,
            test,
            VARIANTS)) {
      found.add(lineage.latest(row.get(0, Integer.class)));
    }
    return found.isEmpty()
        ? List.of()
        : lines(
            id, DSL.condition("{0} = any({1})", TEST_IN_STREAM.TEST_ID, Ids.of(found)), VARIANTS);
  }

  private @Nullable Long idOf(String stream) {
    return dsl.select(STREAM.ID)
        .from(STREAM)
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.NAME.eq(stream))
        .fetchOne(STREAM.ID);
  }

  private List<TestLine> lines(long stream, Condition which, int limit) {
    List<Record> rows =
        List.copyOf(
            dsl.select(KeptTests.FIELDS)
                .select(TEST_BELIEF.asterisk())
                .from(TEST_IN_STREAM)
                .join(TEST)
                .on(
                    TEST.PROJECT_ID.eq(TEST_IN_STREAM.PROJECT_ID),
                    TEST.ID.eq(TEST_IN_STREAM.TEST_ID))
                .leftJoin(TEST_BELIEF)
                .on(
                    TEST_BELIEF.PROJECT_ID.eq(TEST_IN_STREAM.PROJECT_ID),
                    TEST_BELIEF.STREAM_ID.eq(TEST_IN_STREAM.STREAM_ID),
                    TEST_BELIEF.TEST_ID.eq(TEST_IN_STREAM.TEST_ID))
                .where(
                    TEST_IN_STREAM.PROJECT_ID.eq(projectId),
                    TEST_IN_STREAM.STREAM_ID.eq(stream),
                    which,
                    // What goes on under another name is told under that.
                    DSL.notExists(
                        DSL.selectOne()
                            .from(SUCCESSION)
                            .where(
                                SUCCESSION.PROJECT_ID.eq(TEST_IN_STREAM.PROJECT_ID),
                                SUCCESSION.STREAM_ID.eq(TEST_IN_STREAM.STREAM_ID),
                                SUCCESSION.OLD_TEST_ID.eq(TEST_IN_STREAM.TEST_ID),
                                SUCCESSION.STATE.in((short) 1, (short) 3))))
                .orderBy(TEST_IN_STREAM.TEST_ID)
                .limit(limit)
                .fetch());
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    Set<Long> all = new HashSet<>();
    Set<Long> sound = new HashSet<>();
    Set<Long> since = new HashSet<>();
    for (Record row : rows) {
      all.add(row.get(TEST.ID));
      if (row.get(TEST_BELIEF.VERDICT) == null) {
        sound.add(row.get(TEST.ID));
      } else if (row.get(TEST_BELIEF.SINCE_RUN_ID) != null) {
        since.add(row.get(TEST_BELIEF.SINCE_RUN_ID));
      }
    }
    Map<Long, Integer> runs = told(stream, sound);
    Set<Long> failing = failing(stream, all);
    Map<Long, Integer> numbers = numbers(since);
    return rows.stream()
        .map(
            row ->
                new TestLine(
                    tests.of(row),
                    told(row, runs).failing(failing.contains(row.get(TEST.ID))),
                    numbers.get(row.get(TEST_BELIEF.SINCE_RUN_ID))))
        .toList();
  }

  List<InStream> taken(Question asked) {
    return inStreams(
        TEST_BELIEF
            .VERDICT
            .eq((short) asked.verdict().code())
            .and(asked.stream() == null ? DSL.noCondition() : STREAM.NAME.eq(asked.stream()))
            .and(asked.free() ? isFree(asked.today()) : DSL.noCondition()),
        asked,
        false);
  }

  /** Those that are in no quarantine and were taken for it by runs that ended since then. */
  public List<InStream> taken(Verdict verdict, Instant since, LocalDate today, int limit) {
    return inStreams(
        TEST_BELIEF
            .VERDICT
            .eq((short) verdict.code())
            .and(isFree(today))
            .and(
                DSL.exists(
                    DSL.selectOne()
                        .from(RUN)
                        .where(
                            RUN.PROJECT_ID.eq(projectId),
                            RUN.ID.eq(TEST_BELIEF.TAKEN_RUN_ID),
                            DSL.coalesce(RUN.CLOSED_AT, RUN.CHANGED_AT).gt(Sql.utc(since))))),
        new Question(verdict, null, true, Order.LATEST, today, 0, limit),
        false);
  }

  private Condition isFree(LocalDate today) {
    return Reach.isHeld(projectId, TEST_BELIEF.TEST_ID, TEST_BELIEF.STREAM_ID, today).not();
  }

  /** Of a test, in all streams in which it failed by itself. */
  List<InStream> of(long test, LocalDate today) {
    return inStreams(
        TEST_BELIEF.TEST_ID.eq(test),
        new Question(Verdict.FLAKY, null, false, Order.CERTAIN, today, 0, 1_000),
        true);
  }

  private static OrderField<?> order(Order order) {
    return switch (order) {
      case CERTAIN -> TEST_BELIEF.SCORE.desc();
      case OFTEN -> TEST_BELIEF.STUMBLES.desc();
      case LATEST -> TEST_BELIEF.TAKEN_RUN_ID.desc().nullsLast();
    };
  }

  private List<InStream> inStreams(Condition which, Question asked, boolean lookingAhead) {
    List<Record> rows =
        List.copyOf(
            dsl.select(KeptTests.FIELDS)
                .select(TEST_BELIEF.asterisk())
                .select(STREAM.NAME)
                .from(TEST_BELIEF)
                .join(STREAM)
                .on(
                    STREAM.PROJECT_ID.eq(TEST_BELIEF.PROJECT_ID),
                    STREAM.ID.eq(TEST_BELIEF.STREAM_ID))
                .join(TEST)
                .on(TEST.PROJECT_ID.eq(TEST_BELIEF.PROJECT_ID), TEST.ID.eq(TEST_BELIEF.TEST_ID))
                .where(TEST_BELIEF.PROJECT_ID.eq(projectId), STREAM.DELETED_AT.isNull(), which)
                .orderBy(order(asked.order()), TEST_BELIEF.TEST_ID, TEST_BELIEF.STREAM_ID)
                .limit(asked.limit())
                .offset(asked.after())
                .fetch());
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    Set<Long> since = new HashSet<>();
    Set<Long> all = new HashSet<>();
    for (Record row : rows) {
      all.add(row.get(TEST.ID));
      if (row.get(TEST_BELIEF.SINCE_RUN_ID) != null) {
        since.add(row.get(TEST_BELIEF.SINCE_RUN_ID));
      }
    }
    Map<Long, Integer> numbers = numbers(since);
    List<Reach.Held> held = Reach.held(dsl, projectId, all, asked.today());
    return rows.stream()
        .map(
            row ->
                new InStream(
                    tests.of(row),
                    row.get(STREAM.NAME),
                    estimate(row),
                    numbers.get(row.get(TEST_BELIEF.SINCE_RUN_ID)),
                    lookingAhead ? Belief.of(row.get(TEST_BELIEF.BELIEF)).cleanRunsLeft() : 0,
                    Reach.until(held, row.get(TEST.ID), row.get(TEST_BELIEF.STREAM_ID))))
        .toList();
  }

  private static Estimate estimate(Record row) {
    return new Estimate(
        Verdict.ofCode(row.get(TEST_BELIEF.VERDICT)),
        row.get(TEST_BELIEF.SCORE),
        wide(row.get(TEST_BELIEF.RATE)),
        wide(row.get(TEST_BELIEF.LOW)),
        wide(row.get(TEST_BELIEF.HIGH)),
        row.get(TEST_BELIEF.RUNS),
        row.get(TEST_BELIEF.STUMBLES),
        row.get(TEST_BELIEF.ONLY_IN));
  }

  private static @Nullable Double wide(@Nullable Float number) {
    return number == null ? null : Double.valueOf(Float.toString(number));
  }

  private static Estimate told(Record row, Map<Long, Integer> runs) {
    return row.get(TEST_BELIEF.VERDICT) == null
        ? Estimate.ofPasses(runs.getOrDefault(row.get(TEST.ID), 0))
        : estimate(row);
  }

  /** Tests that failed in all of the latest runs, even if many others did for the same cause. */
  Set<Long> failing(long stream, Set<Long> tests) {
    return new HashSet<>(
        dsl.fetch(
                "with last as (select run_id from run_learned where project_id = ?"
                    + " and stream_id = ? order by started_at desc, number desc limit ?)"
                    + " select f.test_id from failure f where f.run_id = any(array("
                    + "select run_id from last)) and f.test_id = any(?) group by f.test_id"
                    + " having count(distinct f.run_id) = ?",
                projectId,
                stream,
                LATEST,
                Ids.of(tests),
                LATEST)
            .getValues(0, Long.class));
  }

  private static final String TOLD =
      " from result r where r.run_id = any("
          + "array(select run_id from run_learned where project_id = ? and stream_id = ?"
          + " order by started_at desc, number desc limit ?)) and r.test_id = any(?)"
          + " and not r.superseded and r.outcome <= 2 and r.kind = 0 group by ";

  /** In how many of the latest runs each test passed or failed. */
  Map<Long, Integer> told(long stream, Set<Long> tests) {
    Map<Long, Integer> told = new HashMap<>();
    if (tests.isEmpty()) {
      return told;
    }
    Lineage lineage = Lineage.of(dsl, projectId, stream);
    Set<Integer> alone = new HashSet<>();
    Set<Integer> renamed = new HashSet<>();
    for (Long test : tests) {
      Set<Integer> names = lineage.withEarlier(Set.of(test.intValue()));
      (names.size() == 1 ? alone : renamed).addAll(names);
    }
    told("select r.test_id, count(distinct r.run_id)::int" + TOLD + "1", stream, alone)
        .forEach(row -> told.put(row.get(0, Long.class), row.get(1, Integer.class)));
    // A run may have had a test under several names.
    Map<Long, Set<Integer>> runs = new HashMap<>();
    told("select r.test_id, r.run_id::int" + TOLD + "1, 2", stream, renamed)
        .forEach(
            row ->
                runs.computeIfAbsent(
                        (long) lineage.latest(row.get(0, Integer.class)), k -> new HashSet<>())
                    .add(row.get(1, Integer.class)));
    runs.forEach((test, all) -> told.put(test, all.size()));
    return told;
  }

  private List<Record> told(String query, long stream, Set<Integer> tests) {
    return tests.isEmpty()
        ? List.of()
        : List.copyOf(dsl.fetch(query, projectId, stream, Nights.LOOKED_BACK, Ids.of(tests)));
  }

  private Map<Long, Integer> numbers(Set<Long> runs) {
    Map<Long, Integer> numbers = new HashMap<>();
    if (!runs.isEmpty()) {
      dsl.fetch(
              "select id, number from run where project_id = ? and id = any(?)",
              projectId,
              Ids.of(runs))
          .forEach(row -> numbers.put(row.get(0, Long.class), row.get(1, Integer.class)));
    }
    return numbers;
  }
}
