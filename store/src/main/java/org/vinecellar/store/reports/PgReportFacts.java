package org.vinecellar.store.reports;

import static org.vinecellar.store.generated.Tables.EARLIER_NAME;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Select;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Lengths;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.reports.PersonTold;
import org.vinecellar.core.reports.ReportFacts;
import org.vinecellar.core.reports.TestTold;
import org.vinecellar.core.reports.TypeTold;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.store.boards.PgBoardFacts;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.results.NowNames;
import org.vinecellar.store.sql.Ids;

/** Counts results for reports. Thread-safe. */
public final class PgReportFacts implements ReportFacts {
  private static final Field<Double[]> LENGTHS =
      DSL.field(
          "percentile_cont(array[0.5, 0.9, 0.95]) within group (order by {0})",
          Double[].class, RESULT.DURATION_US);

  private final Looks looks;

  /** Through these. */
  public PgReportFacts(Looks looks) {
    this.looks = looks;
  }

  private static Condition fitting(int projectId, Criterion runs, Period period) {
    return PgBoardFacts.inPeriod(projectId, period).and(Conditions.ofRuns(projectId, runs));
  }

  private static Select<?> picked(int projectId, Criterion runs, Period period) {
    return DSL.select(RUN.ID, RUN.STREAM_ID, RUN.SHARED)
        .from(RUN)
        .where(fitting(projectId, runs, period));
  }

  private static Condition isStanding() {
    return RESULT.SUPERSEDED.isFalse().and(RESULT.KIND.eq(DSL.inline(ResultKind.TEST.code())));
  }

  @Override
  public List<TestTold> tests(int projectId, Criterion runs, Period period, int limit) {
    return looks.thorough(
        dsl -> {
          Condition fitting = fitting(projectId, runs, period);
          Field<Integer> failing = count(Outcome.FAILED).plus(count(Outcome.ERRORED));
          Field<Long> time = DSL.coalesce(DSL.sum(RESULT.DURATION_US).cast(Long.class), 0L);
          Field<Long> now = NowNames.of(RESULT.TEST_ID);
          List<? extends Record> rows =
              dsl.select(
                      now.as("test"),
                      count(Outcome.PASSED),
                      count(Outcome.FAILED),
                      count(Outcome.ERRORED),
                      count(Outcome.SKIPPED),
                      count(Outcome.NOT_REACHED),
                      DSL.count().filterWhere(RESULT.ATTEMPTS.gt(DSL.inline(1))),
                      time)
                  .from(RUN)
                  .join(RESULT)
                  .on(RESULT.RUN_ID.eq(RUN.ID))
                  .leftJoin(EARLIER_NAME)
                  .on(NowNames.joined(projectId, RESULT.TEST_ID))
                  .where(fitting, isStanding())
                  .groupBy(now)
                  .orderBy(failing.desc(), time.desc(), now)
                  .limit(limit)
                  .fetch();
          List<Long> ids = rows.stream().map(row -> row.get(0, Long.class)).toList();
          Map<Long, Lengths> lengths = lengths(dsl, projectId, fitting, ids);
          Map<Long, KeptTest> kept = KeptTests.byNumber(dsl, projectId, ids);
          List<TestTold> tests = new ArrayList<>();
          for (Record row : rows) {
            KeptTest test = kept.get(row.get(0, Long.class));
            if (test != null) {
              tests.add(
                  new TestTold(
                      test,
                      row.get(1, Long.class),
                      row.get(2, Long.class),
                      row.get(3, Long.class),
                      row.get(4, Long.class),
                      row.get(5, Long.class),
                      row.get(6, Long.class),
                      row.get(7, Long.class),
                      lengths.get(test.id())));
            }
          }
          return tests;
        });
  }

  private static Field<Integer> count(Outcome outcome) {
    return DSL.count().filterWhere(RESULT.OUTCOME.eq(DSL.inline(outcome.code())));
  }

  private static Map<Long, Lengths> lengths(
      DSLContext dsl, int projectId, Condition fitting, List<Long> tests) {
    Field<Long> now = NowNames.of(RESULT.TEST_ID);
    Map<Long, Lengths> lengths = new HashMap<>();
    if (!tests.isEmpty()) {
      dsl.select(now, LENGTHS)
          .from(RUN)
          .join(RESULT)
          .on(RESULT.RUN_ID.eq(RUN.ID))
          .leftJoin(EARLIER_NAME)
          .on(NowNames.joined(projectId, RESULT.TEST_ID))
          .where(fitting, isStanding())
          .and(
              RESULT.OUTCOME.in(
                  DSL.inline(Outcome.PASSED.code()),
                  DSL.inline(Outcome.FAILED.code()),
                  DSL.inline(Outcome.ERRORED.code())))
          .and(RESULT.DURATION_US.isNotNull())
          .and(NowNames.maybe(projectId, RESULT.TEST_ID, tests))
          .groupBy(now)
          .forEach(row -> lengths.put(row.value1(), of(row.value2())));
    }
    return lengths;
  }

  private static Lengths of(@Nullable Double[] all) {
    return new Lengths(
        Objects.requireNonNull(all[0]),
        Objects.requireNonNull(all[1]),
        Objects.requireNonNull(all[2]));
  }

  /**
   * What results threw that stand, once each: in tries of their own, and in those of other parts
   * that they took the place of, as a filter of tries finds them. {@code picked} are the runs. Each
   * of them is looked into for itself: how many there are PostgreSQL cannot know, and taken for few
   * it compared every try of all of them with each.
   */
  private static final String THREW =
      "threw as (select found.*, p.stream_id from picked p cross join lateral ("
          + " select r.run_id, r.place, r.test_id, r.outcome, t.type from attempt a"
          + " join result r on r.run_id = a.run_id and r.place = a.place"
          + " cross join lateral (select a.failure_type union select f #>> '{}'"
          + "   from jsonb_path_query(a.more_failures, 'lax $[*].type') f) t (type)"
          + " where a.run_id = p.id"
          + " and not r.superseded and r.kind = 0 and r.outcome <> {0} and t.type <> ''"
          + " offset 0) found"
          + " union select found.*, p.stream_id from picked p cross join lateral ("
          + " select s.run_id, s.place, s.test_id, s.outcome, t.type from attempt a"
          + " join result r on r.run_id = a.run_id and r.place = a.place"
          + " join result s on s.run_id = r.run_id and s.test_id = r.test_id"
          + " join part own on own.project_id = {1} and own.run_id = s.run_id"
          + "   and own.part_no = s.part_no"
          + " join part other on other.project_id = {1} and other.run_id = r.run_id"
          + "   and other.part_no = r.part_no and other.variant = own.variant"
          + "   and other.named = own.named and (other.name = own.name or not own.named)"
          + " cross join lateral (select a.failure_type union select f #>> '{}'"
          + "   from jsonb_path_query(a.more_failures, 'lax $[*].type') f) t (type)"
          + " where a.run_id = p.id and r.superseded and r.attempts > 0"
          + " and not s.superseded and s.kind = 0 and s.outcome <> {0} and t.type <> ''"
          + " offset 0) found where p.shared)";

  @Override
  public List<TypeTold> types(
      int projectId, Criterion runs, Period period, @Nullable List<Long> tests, int limit) {
    if (tests != null && tests.isEmpty()) {
      return List.of();
    }
    return looks.thorough(
        dsl -> {
          Field<?> of = tests == null ? DSL.inline((Object) null) : DSL.field("now");
          List<? extends Record> rows =
              dsl.resultQuery(
                      "with picked as materialized ({2}), "
                          + THREW
                          + ", named as (select t.*, coalesce(e.now_test_id, t.test_id) as now"
                          + " from threw t left join earlier_name e on e.project_id = {6}"
                          + " and e.stream_id = t.stream_id and e.test_id = t.test_id)"
                          + " select {3}, min(type), count(distinct (run_id, place))::int8,"
                          + " count(distinct test_id)::int, count(distinct run_id)::int"
                          + " from named where {4} group by 1, lower(type)"
                          + " order by 3 desc, lower(type), 1 limit {5}",
                      DSL.inline(Outcome.SKIPPED.code()),
                      DSL.inline(projectId),
                      picked(projectId, runs, period),
                      of,
                      tests == null
                          ? DSL.trueCondition()
                          : DSL.condition("now = any({0})", Ids.of(tests)),
                      DSL.inline(limit),
                      DSL.inline(projectId))
                  .fetch();
          Map<Long, KeptTest> kept =
              tests == null ? Map.of() : KeptTests.byNumber(dsl, projectId, tests);
          return rows.stream()
              .map(
                  row ->
                      new TypeTold(
                          tests == null ? null : kept.get(row.get(0, Long.class)),
                          row.get(1, String.class),
                          row.get(2, Long.class),
                          row.get(3, Integer.class),
                          row.get(4, Integer.class)))
              .toList();
        });
  }

  @Override
  public long untyped(int projectId, Criterion runs, Period period) {
    return looks.thorough(
        dsl ->
            dsl.resultQuery(
                    "with picked as materialized ({2}), "
                        + THREW
                        + " select (select count(*) from {3} join {4} on {5} where {6})"
                        + " - (select count(distinct (run_id, place)) from threw"
                        + "   where outcome in ({7}, {8}))",
                    DSL.inline(Outcome.SKIPPED.code()),
                    DSL.inline(projectId),
                    picked(projectId, runs, period),
                    RUN,
                    RESULT,
                    RESULT.RUN_ID.eq(RUN.ID),
                    fitting(projectId, runs, period).and(PgBoardFacts.isFailing()),
                    DSL.inline(Outcome.FAILED.code()),
                    DSL.inline(Outcome.ERRORED.code()))
                .fetchSingle(0, Long.class));
  }

  @Override
  public List<PersonTold> people(int projectId, Period period, int limit) {
    return looks.thorough(dsl -> new PeopleTold(dsl, projectId, period).told(limit));
  }
}
