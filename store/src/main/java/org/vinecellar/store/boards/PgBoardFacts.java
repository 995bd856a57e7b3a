package org.vinecellar.store.boards;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_LABEL;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.CauseCell;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunCell;
import org.vinecellar.core.boards.RunSum;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.boards.TestFailures;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.filters.PossibleOutcomes;
import org.vinecellar.store.generated.tables.RunLabel;
import org.vinecellar.store.results.KeptTests;

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
          sum(RUN.GONE),
          DSL.count()
              .filterWhere(RUN.FAILED.plus(RUN.ERRORED).plus(RUN.SET_UPS).gt(0))
              .cast(Long.class));

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
    if (dimensions.size() > MOST_DIMENSIONS) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "runs are told apart by "
              + dimensions.size()
              + " things; there can be "
              + MOST_DIMENSIONS);
    }
    return looks.sums(dsl -> cells(dsl, projectId, runs, period, step, dimensions));
  }

  private static List<RunCell> cells(
      DSLContext dsl,
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions) {
    Table<?> from = RUN;
    List<Field<?>> by = new ArrayList<>();
    by.add(step == null ? DSL.inline((Object) null) : begin(step));
    for (Dimension dimension : dimensions) {
      switch (dimension.way()) {
        case STREAM -> {
          from = from.join(STREAM).on(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(RUN.STREAM_ID));
          by.add(STREAM.NAME);
        }
        case BRANCH -> by.add(RUN.BRANCH);
        case LABEL -> {
          RunLabel label = RUN_LABEL.as("dimension" + by.size());
          from = from.leftJoin(label).on(label.RUN_ID.eq(RUN.ID), label.KEY.eq(dimension.key()));
          by.add(label.VALUE);
        }
      }
    }
    List<Field<?>> all = new ArrayList<>(by);
    all.addAll(SUMS);
    List<Integer> places = new ArrayList<>();
    for (int place = 1; place <= by.size(); place++) {
      places.add(place);
    }
    List<? extends Record> rows =
        dsl.select(all)
            .from(from)
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
    return rows.stream().map(row -> cell(row, period, dimensions.size())).toList();
  }

  @Override
  public List<TestFailures> failing(int projectId, Criterion runs, Period period, int limit) {
    return looks.sums(
        dsl -> {
          Field<Integer> failed = of(Outcome.FAILED);
          Field<Integer> errored = of(Outcome.ERRORED);
          Field<Integer> in = DSL.countDistinct(RESULT.RUN_ID);
          List<? extends Record> rows =
              dsl.select(RESULT.TEST_ID, failed, errored, in)
                  .from(RUN)
                  .join(RESULT)
                  .on(RESULT.RUN_ID.eq(RUN.ID))
                  .where(inPeriod(projectId, period), Conditions.ofRuns(projectId, runs))
                  .and(isFailing())
                  .groupBy(RESULT.TEST_ID)
                  .orderBy(DSL.count().desc(), RESULT.TEST_ID)
                  .limit(limit)
                  .fetch();
          Map<Long, KeptTest> tests =
              KeptTests.byNumber(
                  dsl, projectId, rows.stream().map(row -> row.get(RESULT.TEST_ID)).toList());
          List<TestFailures> failing = new ArrayList<>();
          for (Record row : rows) {
            KeptTest test = tests.get(row.get(RESULT.TEST_ID));
            if (test != null) {
              failing.add(new TestFailures(test, row.get(failed), row.get(errored), row.get(in)));
            }
          }
          return failing;
        });
  }

  private static Field<Integer> of(Outcome outcome) {
    return DSL.count().filterWhere(RESULT.OUTCOME.eq(DSL.inline(outcome.code())));
  }

  /** Results of tests that stand and fail, said so that the index of what did not pass is seen. */
  private static Condition isFailing() {
    return RESULT
        .SUPERSEDED
        .isFalse()
        .and(RESULT.KIND.eq(DSL.inline(ResultKind.TEST.code())))
        .and(PossibleOutcomes.condition(RESULT, EnumSet.of(Outcome.FAILED, Outcome.ERRORED)));
  }

  @Override
  public List<CauseCell> causes(int projectId, Criterion runs, Period period, Step step) {
    return looks.sums(
        dsl ->
            dsl.select(begin(step), CATEGORY.NAME, DSL.count())
                .from(RUN)
                .join(RESULT)
                .on(RESULT.RUN_ID.eq(RUN.ID))
                .leftJoin(FAILURE)
                .on(FAILURE.RUN_ID.eq(RESULT.RUN_ID), FAILURE.PLACE.eq(RESULT.PLACE))
                .leftJoin(DECISION)
                .on(DECISION.PROJECT_ID.eq(projectId), DECISION.ID.eq(FAILURE.DECISION_ID))
                .leftJoin(CATEGORY)
                .on(CATEGORY.PROJECT_ID.eq(projectId), CATEGORY.ID.eq(DECISION.CATEGORY_ID))
                .where(inPeriod(projectId, period), Conditions.ofRuns(projectId, runs))
                .and(isFailing())
                .groupBy(DSL.inline(1), DSL.inline(2))
                .fetch(
                    row ->
                        new CauseCell(
                            row.get(0, OffsetDateTime.class).toInstant(),
                            row.get(CATEGORY.NAME),
                            row.get(2, Long.class))));
  }

  static Condition inPeriod(int projectId, Period period) {
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
    OffsetDateTime at = row.get(0, OffsetDateTime.class);
    List<@Nullable String> by = new ArrayList<>();
    for (int i = 1; i <= dimensions; i++) {
      by.add(row.get(i, String.class));
    }
    long[] sums = new long[SUMS.size()];
    for (int i = 0; i < sums.length; i++) {
      sums[i] = row.get(1 + dimensions + i, Long.class);
    }
    return new RunCell(at == null ? period.from() : at.toInstant(), by, of(sums));
  }

  private static RunSum of(long[] s) {
    return new RunSum(
        s[0], s[1], s[2], s[3], s[4], s[5], s[6], s[7], s[8], s[9], s[10], s[11], s[12], s[13]);
  }
}
