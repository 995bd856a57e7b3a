package org.vinecellar.store.boards;

import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.EARLIER_NAME;
import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.GROUP_RUN;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.TEST_BELIEF;

import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Select;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.ExplainedCell;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.boards.FlakyTest;
import org.vinecellar.core.boards.GroupReach;
import org.vinecellar.core.boards.MendedCell;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.PersonCell;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.boards.TicketReach;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.desk.Title;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.results.NowNames;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.triage.tickets.GroupTickets;

/** Failures, their groups and what was said of them, summed up for boards. Thread-safe. */
public final class PgFailureFacts implements FailureFacts {
  /** A chain of failures that goes on for longer is told by so many runs of it. */
  private static final int LONGEST_CHAIN = 5_000;

  private final Looks looks;

  /** Through these. */
  public PgFailureFacts(Looks looks) {
    this.looks = looks;
  }

  private static Condition fitting(int projectId, Criterion runs, Period period) {
    return PgBoardFacts.inPeriod(projectId, period).and(Conditions.ofRuns(projectId, runs));
  }

  @Override
  public List<FlakyTest> flaky(int projectId, Criterion runs, Period period, int limit) {
    return looks.sums(dsl -> flaky(dsl, projectId, fitting(projectId, runs, period), limit));
  }

  private static List<FlakyTest> flaky(
      DSLContext dsl, int projectId, Condition fitting, int limit) {
    List<? extends Record> beliefs =
        dsl.select(
                TEST_BELIEF.STREAM_ID,
                TEST_BELIEF.TEST_ID,
                STREAM.NAME,
                TEST_BELIEF.RATE,
                TEST_BELIEF.LOW,
                TEST_BELIEF.HIGH)
            .from(TEST_BELIEF)
            .join(STREAM)
            .on(
                STREAM.PROJECT_ID.eq(TEST_BELIEF.PROJECT_ID),
                STREAM.ID.eq(TEST_BELIEF.STREAM_ID),
                STREAM.DELETED_AT.isNull())
            .where(
                TEST_BELIEF.PROJECT_ID.eq(projectId),
                TEST_BELIEF.VERDICT.eq((short) Verdict.FLAKY.code()),
                TEST_BELIEF.STREAM_ID.in(DSL.select(RUN.STREAM_ID).from(RUN).where(fitting)))
            .orderBy(TEST_BELIEF.SCORE.desc(), TEST_BELIEF.TEST_ID, TEST_BELIEF.STREAM_ID)
            .limit(limit)
            .fetch();
    Set<Long> tests = new HashSet<>();
    Set<Long> streams = new HashSet<>();
    for (Record row : beliefs) {
      tests.add(row.get(TEST_BELIEF.TEST_ID));
      streams.add(row.get(TEST_BELIEF.STREAM_ID));
    }
    Map<Long, KeptTest> kept = KeptTests.byNumber(dsl, projectId, List.copyOf(tests));
    Map<List<Long>, Did> did = did(dsl, projectId, fitting, streams, tests);
    List<FlakyTest> flaky = new ArrayList<>();
    for (Record row : beliefs) {
      KeptTest test = kept.get(row.get(TEST_BELIEF.TEST_ID));
      Did here =
          did.getOrDefault(
              List.of(row.get(TEST_BELIEF.STREAM_ID), row.get(TEST_BELIEF.TEST_ID)), new Did(0, 0));
      if (test != null) {
        flaky.add(
            new FlakyTest(
                test,
                row.get(STREAM.NAME),
                wide(row.get(TEST_BELIEF.RATE)),
                wide(row.get(TEST_BELIEF.LOW)),
                wide(row.get(TEST_BELIEF.HIGH)),
                here.failing,
                here.retried));
      }
    }
    return flaky;
  }

  private static @Nullable Double wide(@Nullable Float number) {
    return number == null ? null : Double.valueOf(Float.toString(number));
  }

  private record Did(int failing, int retried) {}

  /** By stream and test. */
  private static Map<List<Long>, Did> did(
      DSLContext dsl, int projectId, Condition fitting, Set<Long> streams, Set<Long> tests) {
    Field<Integer> failing =
        DSL.count()
            .filterWhere(
                RESULT.OUTCOME.in(
                    DSL.inline(Outcome.FAILED.code()), DSL.inline(Outcome.ERRORED.code())));
    Field<Integer> retried =
        DSL.count()
            .filterWhere(
                RESULT.OUTCOME.eq(DSL.inline(Outcome.PASSED.code())),
                RESULT.ATTEMPTS.gt(DSL.inline(1)));
    Map<List<Long>, Did> did = new HashMap<>();
    if (tests.isEmpty()) {
      return did;
    }
    Field<Long> test = NowNames.of(RESULT.TEST_ID);
    dsl.select(RUN.STREAM_ID, test, failing, retried)
        .from(RUN)
        .join(RESULT)
        .on(RESULT.RUN_ID.eq(RUN.ID))
        .leftJoin(EARLIER_NAME)
        .on(NowNames.joined(projectId, RESULT.TEST_ID))
        .where(fitting)
        .and(DSL.condition("{0} = any({1})", RUN.STREAM_ID, Ids.of(streams)))
        .and(NowNames.maybe(projectId, RESULT.TEST_ID, tests))
        .and(RESULT.SUPERSEDED.isFalse())
        .and(RESULT.KIND.eq(DSL.inline(ResultKind.TEST.code())))
        .groupBy(RUN.STREAM_ID, test)
        .forEach(
            row ->
                did.put(List.of(row.value1(), row.value2()), new Did(row.value3(), row.value4())));
    return did;
  }

  @Override
  public List<GroupReach> groups(int projectId, Criterion runs, Period period, int limit) {
    return looks.sums(dsl -> groups(dsl, projectId, fitting(projectId, runs, period), limit));
  }

  private static List<GroupReach> groups(
      DSLContext dsl, int projectId, Condition fitting, int limit) {
    Field<Integer> results = DSL.sum(GROUP_RUN.RESULTS).cast(Integer.class);
    Field<Integer> open = DSL.sum(GROUP_RUN.OPEN).cast(Integer.class);
    Field<Integer> in = DSL.count();
    Field<Integer> streams = DSL.countDistinct(RUN.STREAM_ID);
    List<? extends Record> rows =
        dsl.select(GROUP_RUN.GROUP_ID, results, open, in, streams)
            .from(RUN)
            .join(GROUP_RUN)
            .on(GROUP_RUN.PROJECT_ID.eq(projectId), GROUP_RUN.RUN_ID.eq(RUN.ID))
            .where(fitting, GROUP_RUN.RESULTS.gt(0))
            .groupBy(GROUP_RUN.GROUP_ID)
            .orderBy(DSL.sum(GROUP_RUN.RESULTS).desc(), GROUP_RUN.GROUP_ID)
            .limit(limit)
            .fetch();
    List<Long> ids = rows.stream().map(row -> row.get(GROUP_RUN.GROUP_ID)).toList();
    Map<Long, List<Ticket>> tickets = GroupTickets.of(dsl, projectId, ids);
    Map<Long, Title> titles = titles(dsl, projectId, ids);
    List<GroupReach> groups = new ArrayList<>();
    for (Record row : rows) {
      long group = row.get(GROUP_RUN.GROUP_ID);
      Title title = titles.get(group);
      if (title != null) {
        groups.add(
            new GroupReach(
                group,
                title,
                row.get(results),
                row.get(open),
                row.get(in),
                row.get(streams),
                tickets.getOrDefault(group, List.of())));
      }
    }
    return groups;
  }

  private static Map<Long, Title> titles(DSLContext dsl, int projectId, List<Long> groups) {
    return dsl.select(
            FAILURE_GROUP.ID, FAILURE_GROUP.KIND, FAILURE_GROUP.SENTENCE, FAILURE_GROUP.TEMPLATE)
        .from(FAILURE_GROUP)
        .where(
            FAILURE_GROUP.PROJECT_ID.eq(projectId),
            DSL.condition("{0} = any({1})", FAILURE_GROUP.ID, Ids.of(groups)))
        .fetchMap(
            row -> row.value1(),
            row -> Title.of(KeyKind.ofCode(row.value2()), row.value3(), row.value4()));
  }

  @Override
  public List<TicketReach> tickets(int projectId, Criterion runs, Period period, int limit) {
    return looks.sums(
        dsl -> {
          Condition fitting = fitting(projectId, runs, period);
          Map<Long, OfTicket> by = new HashMap<>();
          Condition canHave = fitting.and(GroupTickets.canHave(projectId, GROUP_RUN.GROUP_ID));
          for (GroupReach group : groups(dsl, projectId, canHave, Integer.MAX_VALUE)) {
            for (Ticket ticket : group.tickets()) {
              by.computeIfAbsent(ticket.id(), id -> new OfTicket(ticket, new ArrayList<>()))
                  .groups
                  .add(group);
            }
          }
          return by.values().stream()
              .sorted(
                  Comparator.comparingInt(OfTicket::results)
                      .reversed()
                      .thenComparing(one -> one.ticket.id()))
              .limit(limit)
              .map(
                  one ->
                      new TicketReach(
                          one.ticket,
                          one.groups.size(),
                          one.results(),
                          runs(dsl, projectId, fitting, one)))
              .toList();
        });
  }

  private record OfTicket(Ticket ticket, List<GroupReach> groups) {
    int results() {
      return groups.stream().mapToInt(GroupReach::results).sum();
    }
  }

  private static int runs(DSLContext dsl, int projectId, Condition fitting, OfTicket of) {
    List<Long> groups = of.groups.stream().map(GroupReach::group).toList();
    return dsl.select(DSL.countDistinct(RUN.ID))
        .from(RUN)
        .join(GROUP_RUN)
        .on(GROUP_RUN.PROJECT_ID.eq(projectId), GROUP_RUN.RUN_ID.eq(RUN.ID))
        .where(fitting, GROUP_RUN.RESULTS.gt(0))
        .and(DSL.condition("{0} = any({1})", GROUP_RUN.GROUP_ID, Ids.of(groups)))
        .fetchSingle(0, int.class);
  }

  @Override
  public List<ExplainedCell> explaining(
      int projectId, Criterion runs, Period period, @Nullable Step step) {
    return looks.sums(
        dsl -> {
          Field<OffsetDateTime> at = RunsApart.begin(step, period, FAILURE_GROUP.MADE_AT);
          Field<OffsetDateTime> explained =
              DSL.field(
                  DSL.select(DSL.min(DECISION.MADE_AT))
                      .from(DECISION)
                      .where(
                          DECISION.PROJECT_ID.eq(FAILURE_GROUP.PROJECT_ID),
                          DECISION.GROUP_ID.eq(FAILURE_GROUP.ID),
                          DECISION.UNDONE_AT.isNull()));
          Field<Double> took =
              DSL.field(
                  "case when {0} > {1} then extract(epoch from {0} - {1})::float8"
                      + " when {0} <= {1} then 0 end",
                  Double.class, explained, FAILURE_GROUP.MADE_AT);
          var found =
              dsl.select(at.as("at"), took.as("took"))
                  .from(FAILURE_GROUP)
                  .where(
                      FAILURE_GROUP.PROJECT_ID.eq(projectId),
                      FAILURE_GROUP.MADE_AT.ge(period.from().atOffset(ZoneOffset.UTC)),
                      FAILURE_GROUP.MADE_AT.lt(period.to().atOffset(ZoneOffset.UTC)),
                      FAILURE_GROUP.RESULTS.gt(0))
                  .and(
                      runs.equals(Criterion.EVERYTHING)
                          ? DSL.noCondition()
                          : DSL.exists(
                              DSL.selectOne()
                                  .from(GROUP_RUN)
                                  .join(RUN)
                                  .on(
                                      RUN.PROJECT_ID.eq(GROUP_RUN.PROJECT_ID),
                                      RUN.ID.eq(GROUP_RUN.RUN_ID),
                                      RUN.NUMBER.isNotNull())
                                  .where(
                                      GROUP_RUN.PROJECT_ID.eq(projectId),
                                      GROUP_RUN.GROUP_ID.eq(FAILURE_GROUP.ID),
                                      GROUP_RUN.RESULTS.gt(0),
                                      Conditions.ofRuns(projectId, runs))))
                  .asTable("found");
          return dsl.resultQuery(
                  "select at, count(*)::int, count(took)::int, percentile_cont(0.5) within group"
                      + " (order by took), avg(took) from ({0}) found group by at",
                  DSL.select(DSL.asterisk()).from(found))
              .fetch(
                  row ->
                      new ExplainedCell(
                          row.get(0, OffsetDateTime.class).toInstant(),
                          row.get(1, Integer.class),
                          row.get(2, Integer.class),
                          row.get(3, Double.class),
                          row.get(4, Double.class)));
        });
  }

  @Override
  public List<MendedCell> mended(
      int projectId, Criterion runs, Period period, @Nullable Step step) {
    Field<OffsetDateTime> mended = DSL.field("mended", OffsetDateTime.class);
    return looks.sums(
        dsl ->
            dsl.resultQuery(
                    "with recursive picked as materialized ({0}),"
                        + " chain (run_id, test_id, now, stream_id, mended, at, depth) as ("
                        + " select p.id, c.test_id, coalesce(e.now_test_id, c.test_id),"
                        + " p.stream_id, p.started_at, p.previous_id, 1"
                        + " from picked p join run_change c on c.run_id = p.id and c.change = {1}"
                        + " left join earlier_name e on e.project_id = {3}"
                        + " and e.stream_id = p.stream_id and e.test_id = c.test_id"
                        + " union select h.run_id, h.test_id, h.now, h.stream_id, h.mended,"
                        + " r.previous_id, h.depth + 1"
                        + " from chain h cross join lateral (select h.test_id as id"
                        + " union select h.now union select e.test_id from earlier_name e"
                        + " where e.project_id = {3} and e.stream_id = h.stream_id"
                        + " and e.now_test_id = h.now and not e.made_up) any_name"
                        + " join run_change c on c.run_id = h.at"
                        + " and c.test_id = any_name.id and c.change = {2}"
                        + " join run r on r.project_id = {3} and r.id = h.at"
                        + " where h.depth < {4}),"
                        + " broken as (select distinct on (run_id, test_id) mended, at from chain"
                        + " order by run_id, test_id, depth desc),"
                        + " took as (select b.mended, greatest(0, extract(epoch from"
                        + " b.mended - r.started_at)::float8) as took from broken b"
                        + " join run r on r.project_id = {3} and r.id = b.at),"
                        + " fixed as (select {5} as step, count(*)::int8 as tests from broken group by 1),"
                        + " lengths as (select {5} as step, percentile_cont(0.5) within group"
                        + " (order by took) as median, avg(took) as mean from took group by 1)"
                        + " select f.step, f.tests, l.median, l.mean from fixed f"
                        + " left join lengths l on l.step = f.step",
                    picked(projectId, runs, period),
                    DSL.inline(Change.FIXED.code()),
                    DSL.inline(Change.FAILING_AS_BEFORE.code()),
                    DSL.inline(projectId),
                    DSL.inline(LONGEST_CHAIN),
                    RunsApart.begin(step, period, mended))
                .fetch(
                    row ->
                        new MendedCell(
                            row.get(0, OffsetDateTime.class).toInstant(),
                            row.get(1, Long.class),
                            row.get(2, Double.class),
                            row.get(3, Double.class))));
  }

  private static Select<?> picked(int projectId, Criterion runs, Period period) {
    return DSL.select(RUN.ID, RUN.STREAM_ID, RUN.STARTED_AT, RUN.PREVIOUS_ID)
        .from(RUN)
        .where(fitting(projectId, runs, period));
  }

  @Override
  public List<PersonCell> people(int projectId, Period period, int limit) {
    return looks.sums(
        dsl -> {
          Map<String, int[]> by = new HashMap<>();
          dsl.select(DECISION.MADE_BY, DSL.countDistinct(DECISION.GROUP_ID))
              .from(DECISION)
              .join(FAILURE_GROUP)
              .on(
                  FAILURE_GROUP.PROJECT_ID.eq(DECISION.PROJECT_ID),
                  FAILURE_GROUP.ID.eq(DECISION.GROUP_ID),
                  FAILURE_GROUP.RESULTS.gt(0))
              .where(
                  DECISION.PROJECT_ID.eq(projectId),
                  DECISION.UNDONE_AT.isNull(),
                  DECISION.MADE_AT.ge(period.from().atOffset(ZoneOffset.UTC)),
                  DECISION.MADE_AT.lt(period.to().atOffset(ZoneOffset.UTC)))
              .groupBy(DECISION.MADE_BY)
              .forEach(row -> cell(by, row.value1())[0] = row.value2());
          dsl.select(FAILURE_GROUP.ASSIGNED_TO, DSL.count())
              .from(FAILURE_GROUP)
              .where(
                  FAILURE_GROUP.PROJECT_ID.eq(projectId),
                  FAILURE_GROUP.ASSIGNED_TO.isNotNull(),
                  FAILURE_GROUP.OPEN.gt(0))
              .groupBy(FAILURE_GROUP.ASSIGNED_TO)
              .forEach(row -> cell(by, row.value1())[1] = row.value2());
          return by.entrySet().stream()
              .map(one -> new PersonCell(one.getKey(), one.getValue()[0], one.getValue()[1]))
              .sorted(
                  Comparator.comparingInt(PersonCell::explained)
                      .reversed()
                      .thenComparing(Comparator.comparingInt(PersonCell::assigned).reversed())
                      .thenComparing(PersonCell::who))
              .limit(limit)
              .toList();
        });
  }

  private static int[] cell(Map<String, int[]> by, String who) {
    return by.computeIfAbsent(who, name -> new int[2]);
  }
}
