package org.vinecellar.store.boards;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_CAUSE;
import static org.vinecellar.store.generated.Tables.RUN_CHANGE;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record2;
import org.jooq.Record3;
import org.jooq.Select;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.CauseCell;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.LengthCell;
import org.vinecellar.core.boards.Lengths;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunCell;
import org.vinecellar.core.boards.RunSum;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.boards.TestFailures;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.filters.PossibleOutcomes;

/** Sums over the rows of runs, which hold the sums of their results already. Thread-safe. */
public final class PgBoardFacts implements BoardFacts {
  /** In the order of {@link RunSum}. */
  private static final List<Field<Long>> SUMS =
      List.of(
          DSL.count().cast(Long.class),
          sum(RUN.PASSED),
          sum(RUN.FAILED),
          sum(RUN.ERRORED),
          sum(RUN.SKIPPED),
          sum(RUN.NOT_REACHED),
          sum(RUN.RETRIED),
          sum(RUN.OVERRULED),
          sum(RUN.DURATION_US),
          sum(RUN.NEW_FAILING),
          sum(RUN.FIXED),
          sum(RUN.ADDED),
          sum(RUN.RENAMED),
          DSL.count()
              .filterWhere(RUN.FAILED.plus(RUN.ERRORED).plus(RUN.SET_UPS).gt(0))
              .cast(Long.class),
          sum(RUN.FAILING_US),
          sum(RUN.AGAIN_US));

  private static final Field<Double[]> LENGTHS =
      DSL.field(
          "percentile_cont(array[0.5, 0.9, 0.95]) within group (order by {0})",
          Double[].class, RUN.DURATION_US);

  private final Looks looks;

  /** Through these. */
  public PgBoardFacts(Looks looks) {
    this.looks = looks;
  }

  private static Field<Long> sum(Field<? extends Number> of) {
    return DSL.sum(of).cast(Long.class);
  }

  @Override
  public List<RunCell> cells(
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions) {
    return looks.sums(dsl -> cells(dsl, projectId, runs, period, step, dimensions));
  }

  private static List<RunCell> cells(
      DSLContext dsl,
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions) {
    return sums(dsl, projectId, runs, period, step, dimensions, SUMS).stream()
        .map(row -> cell(row, period, dimensions.size()))
        .toList();
  }

  @Override
  public List<LengthCell> lengths(
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions) {
    return looks
        .sums(dsl -> sums(dsl, projectId, runs, period, step, dimensions, List.of(LENGTHS)))
        .stream()
        .map(
            row -> {
              Double[] all = row.get(1 + dimensions.size(), Double[].class);
              return new LengthCell(
                  at(row, period),
                  by(row, dimensions.size()),
                  new Lengths(
                      Objects.requireNonNull(all[0]),
                      Objects.requireNonNull(all[1]),
                      Objects.requireNonNull(all[2])));
            })
        .toList();
  }

  /** When, then a value for each dimension, then what is asked for. */
  private static List<? extends Record> sums(
      DSLContext dsl,
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions,
      List<? extends Field<?>> what) {
    RunsApart apart = RunsApart.by(projectId, dimensions);
    List<Field<?>> by = new ArrayList<>();
    by.add(step == null ? DSL.inline((Object) null) : begin(step));
    by.addAll(apart.by());
    List<Field<?>> all = new ArrayList<>(by);
    all.addAll(what);
    List<Integer> places = new ArrayList<>();
    for (int place = 1; place <= by.size(); place++) {
      places.add(place);
    }
    List<? extends Record> rows =
        dsl.select(all)
            .from(apart.runs())
            .where(inPeriod(projectId, period), Conditions.ofRuns(projectId, runs))
            .groupBy(places.stream().map(place -> DSL.inline((int) place)).toList())
            .limit(MOST_CELLS + 1)
            .fetch();
    if (rows.size() > MOST_CELLS) {
      throw new CellarException(
          ProblemCode.TOO_MUCH_TO_SEARCH,
          "more than "
              + MOST_CELLS
              + " sums would be told; ask for a shorter period, longer steps, or tell runs apart by"
              + " less");
    }
    return rows;
  }

  @Override
  public List<TestFailures> failing(int projectId, Criterion runs, Period period, int limit) {
    Condition fitting = inPeriod(projectId, period).and(Conditions.ofRuns(projectId, runs));
    return looks.sums(dsl -> new FailingSums(dsl, projectId, fitting).most(limit));
  }

  /** Results of tests that stand and fail, said so that the index of what did not pass is seen. */
  public static Condition isFailing() {
    return RESULT
        .SUPERSEDED
        .isFalse()
        .and(RESULT.KIND.eq(DSL.inline(ResultKind.TEST.code())))
        .and(PossibleOutcomes.condition(RESULT, EnumSet.of(Outcome.FAILED, Outcome.ERRORED)));
  }

  @Override
  public Map<Instant, Long> gone(int projectId, Criterion runs, Period period, Step step) {
    return looks.sums(
        dsl ->
            dsl
                .select(begin(step), DSL.countDistinct(RUN_CHANGE.TEST_ID).cast(Long.class))
                .from(RUN)
                .join(RUN_CHANGE)
                .on(
                    RUN_CHANGE.RUN_ID.eq(RUN.ID),
                    RUN_CHANGE.CHANGE.eq(DSL.inline(Change.GONE.code())))
                .where(
                    inPeriod(projectId, period),
                    RUN.GONE.gt(DSL.inline(0)),
                    Conditions.ofRuns(projectId, runs))
                .groupBy(DSL.inline(1))
                .stream()
                .collect(Collectors.toMap(row -> row.value1().toInstant(), Record2::value2)));
  }

  @Override
  public List<CauseCell> causes(int projectId, Criterion runs, Period period, Step step) {
    return looks.sums(
        dsl -> {
          Condition fitting = inPeriod(projectId, period).and(Conditions.ofRuns(projectId, runs));
          List<CauseCell> cells = new ArrayList<>();
          Map<Instant, Long> failing = new HashMap<>();
          Field<Long> waiting = DSL.count().filterWhere(RUN.EXPLAINED.isFalse()).cast(Long.class);
          boolean[] waits = new boolean[1];
          dsl.select(
                  begin(step),
                  DSL.coalesce(
                          DSL.sum(RUN.FAILED.plus(RUN.ERRORED)).filterWhere(RUN.EXPLAINED.isTrue()),
                          DSL.inline(BigDecimal.ZERO))
                      .cast(Long.class),
                  waiting)
              .from(RUN)
              .where(fitting)
              .groupBy(DSL.inline(1))
              .forEach(
                  row -> {
                    failing.put(row.value1().toInstant(), row.value2());
                    waits[0] |= row.value3() > 0;
                  });
          dsl.select(begin(step), CATEGORY.NAME, sum(RUN_CAUSE.RESULTS))
              .from(RUN)
              .join(RUN_CAUSE)
              .on(RUN_CAUSE.RUN_ID.eq(RUN.ID), RUN_CAUSE.RESULTS.gt(0))
              .join(CATEGORY)
              .on(CATEGORY.PROJECT_ID.eq(projectId), CATEGORY.ID.eq(RUN_CAUSE.CATEGORY_ID))
              .where(fitting, RUN.EXPLAINED.isTrue())
              .groupBy(DSL.inline(1), DSL.inline(2))
              .forEach(row -> cells.add(cause(row)));
          cells.forEach(cell -> failing.merge(cell.at(), -cell.results(), Long::sum));
          failing.forEach(
              (at, left) -> {
                if (left != 0) {
                  cells.add(new CauseCell(at, null, left));
                }
              });
          if (waits[0]) {
            waiting(dsl, projectId, fitting, step).forEach(row -> cells.add(cause(row)));
          }
          return cells;
        });
  }

  /** Of runs whose failures wait to be grouped, by the results themselves. */
  private static Select<Record3<OffsetDateTime, String, Long>> waiting(
      DSLContext dsl, int projectId, Condition fitting, Step step) {
    return dsl.select(begin(step), CATEGORY.NAME, DSL.count().cast(Long.class))
        .from(RUN)
        .join(RESULT)
        .on(RESULT.RUN_ID.eq(RUN.ID))
        .leftJoin(FAILURE)
        .on(FAILURE.RUN_ID.eq(RESULT.RUN_ID), FAILURE.PLACE.eq(RESULT.PLACE))
        .leftJoin(DECISION)
        .on(DECISION.PROJECT_ID.eq(projectId), DECISION.ID.eq(FAILURE.DECISION_ID))
        .leftJoin(CATEGORY)
        .on(CATEGORY.PROJECT_ID.eq(projectId), CATEGORY.ID.eq(DECISION.CATEGORY_ID))
        .where(fitting, RUN.EXPLAINED.isFalse(), isFailing())
        .groupBy(DSL.inline(1), DSL.inline(2));
  }

  private static CauseCell cause(Record3<OffsetDateTime, String, Long> row) {
    return new CauseCell(row.value1().toInstant(), row.value2(), row.value3());
  }

  /** Runs that began in it, and are there. */
  public static Condition inPeriod(int projectId, Period period) {
    return RUN.PROJECT_ID
        .eq(projectId)
        .and(RUN.NUMBER.isNotNull())
        .and(RUN.DELETED_AT.isNull())
        .and(RUN.STARTED_AT.ge(period.from().atOffset(ZoneOffset.UTC)))
        .and(RUN.STARTED_AT.lt(period.to().atOffset(ZoneOffset.UTC)));
  }

  private static Field<OffsetDateTime> begin(Step step) {
    return DSL.field(
        "date_trunc({0}, {1}, 'UTC')",
        OffsetDateTime.class, DSL.inline(step.word()), RUN.STARTED_AT);
  }

  private static RunCell cell(Record row, Period period, int dimensions) {
    long[] sums = new long[SUMS.size()];
    for (int i = 0; i < sums.length; i++) {
      sums[i] = row.get(1 + dimensions + i, Long.class);
    }
    return new RunCell(at(row, period), by(row, dimensions), of(sums));
  }

  private static Instant at(Record row, Period period) {
    OffsetDateTime at = row.get(0, OffsetDateTime.class);
    return at == null ? period.from() : at.toInstant();
  }

  private static List<@Nullable String> by(Record row, int dimensions) {
    List<@Nullable String> by = new ArrayList<>();
    for (int i = 1; i <= dimensions; i++) {
      by.add(row.get(i, String.class));
    }
    return by;
  }

  private static RunSum of(long[] s) {
    return new RunSum(
        s[0], s[1], s[2], s[3], s[4], s[5], s[6], s[7], s[8], s[9], s[10], s[11], s[12], s[13],
        s[14], s[15]);
  }
}
