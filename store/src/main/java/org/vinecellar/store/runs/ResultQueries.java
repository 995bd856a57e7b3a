package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN_CHANGE;
import static org.vinecellar.store.generated.Tables.TEST;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectOnConditionStep;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.triage.decisions.Cause;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.PossibleOutcomes;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.triage.CauseQueries;

/**
 * Results of a run as pages. Two queries make a page: the failing ones through the index of those
 * that did not pass, then the others along the primary key; neither sorts.
 */
final class ResultQueries {
  /** What a row of a list tells. */
  private static final List<Field<?>> LISTED =
      List.of(
          RESULT.RUN_ID,
          RESULT.PLACE,
          RESULT.TEST_ID,
          RESULT.KIND,
          RESULT.OUTCOME,
          RESULT.ATTEMPTS,
          RESULT.DURATION_US,
          RESULT.FIRST_LINE);

  private final DSLContext dsl;
  private final int projectId;

  ResultQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<ResultRow> page(long runId, ResultQuery query) {
    List<Record> rows = new ArrayList<>();
    ResultCursor after = query.after().orElse(null);
    PossibleOutcomes possible = PossibleOutcomes.of(query.filter());
    Set<Outcome> failing = possible.failing(true);
    Set<Outcome> others = possible.failing(false);
    if ((after == null || after.failing()) && !failing.isEmpty()) {
      rows.addAll(half(runId, query, failing, after, query.limit()));
    }
    if (rows.size() < query.limit() && !others.isEmpty()) {
      ResultCursor from = after == null || after.failing() ? null : after;
      rows.addAll(half(runId, query, others, from, query.limit() - rows.size()));
    }
    return rows(rows);
  }

  private List<Record> half(
      long runId,
      ResultQuery query,
      Set<Outcome> outcomes,
      @Nullable ResultCursor after,
      int limit) {
    Condition page = after == null ? DSL.noCondition() : RESULT.PLACE.gt(Packed.place(after.id()));
    return new ArrayList<>(
        select(LISTED)
            .where(RESULT.RUN_ID.eq(runId))
            .and(RESULT.SUPERSEDED.isFalse())
            .and(PossibleOutcomes.condition(RESULT, outcomes))
            .and(page)
            .and(inside(query.suiteId()))
            .and(Conditions.ofResults(projectId, runId, query.filter()))
            .orderBy(RESULT.PLACE)
            .limit(limit)
            .fetch());
  }

  private static Condition inside(@Nullable Long suite) {
    if (suite == null) {
      return DSL.noCondition();
    }
    return suite == ResultQuery.NO_SUITE ? TEST.SUITE_ID.isNull() : TEST.SUITE_ID.eq(suite);
  }

  /** Results with all that is kept of them. */
  SelectOnConditionStep<Record> select() {
    return select(List.of(RESULT.fields()));
  }

  private SelectOnConditionStep<Record> select(List<Field<?>> fields) {
    return dsl.select(fields)
        .select(KeptTests.FIELDS)
        .select(RUN_CHANGE.CHANGE, OVERRULING.REPORTED)
        .from(RESULT)
        .join(TEST)
        .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
        .leftJoin(RUN_CHANGE)
        .on(RUN_CHANGE.RUN_ID.eq(RESULT.RUN_ID), RUN_CHANGE.TEST_ID.eq(RESULT.TEST_ID))
        .leftJoin(OVERRULING)
        .on(OVERRULING.RUN_ID.eq(RESULT.RUN_ID), OVERRULING.PLACE.eq(RESULT.PLACE));
  }

  /** Rows as values, with their tests looked up together. */
  List<ResultRow> rows(List<Record> rows) {
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    Map<Integer, Cause> causes = causes(rows);
    return rows.stream()
        .map(row -> row(row, tests.of(row), causes.get(row.get(RESULT.PLACE))))
        .toList();
  }

  /** Of the failing ones; all are of one run. */
  private Map<Integer, Cause> causes(List<Record> rows) {
    List<Integer> failing =
        rows.stream()
            .filter(row -> Outcome.ofCode(row.get(RESULT.OUTCOME)).isFailing())
            .map(row -> row.get(RESULT.PLACE))
            .toList();
    return failing.isEmpty()
        ? Map.of()
        : CauseQueries.of(dsl, projectId, rows.get(0).get(RESULT.RUN_ID), failing);
  }

  private static ResultRow row(Record row, KeptTest test, @Nullable Cause cause) {
    Integer change = row.get(RUN_CHANGE.CHANGE);
    Integer reported = row.get(OVERRULING.REPORTED);
    return new ResultRow(
        Packed.id(row.get(RESULT.PLACE)),
        test,
        ResultKind.ofCode(row.get(RESULT.KIND)),
        Outcome.ofCode(row.get(RESULT.OUTCOME)),
        reported == null ? null : Outcome.ofCode(reported),
        row.get(RESULT.ATTEMPTS),
        row.get(RESULT.DURATION_US),
        row.get(RESULT.FIRST_LINE),
        change == null ? null : ofThis(Change.ofCode(change), row.get(RESULT.OUTCOME)),
        cause);
  }

  /** What changed is told of the test; of several results, it is not told of those that differ. */
  private static @Nullable Change ofThis(Change change, int outcome) {
    return change.isFailing() == Outcome.ofCode(outcome).isFailing() ? change : null;
  }

  List<KeptTest> gone(long runId, Criterion filter, int limit) {
    List<Record> rows =
        new ArrayList<>(
            dsl.select(KeptTests.FIELDS)
                .from(RUN_CHANGE)
                .join(TEST)
                .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RUN_CHANGE.TEST_ID))
                .where(
                    RUN_CHANGE.RUN_ID.eq(runId),
                    RUN_CHANGE.CHANGE.eq(Change.GONE.code()),
                    Conditions.ofTests(projectId, filter))
                .orderBy(TEST.NAME, TEST.ID)
                .limit(limit)
                .fetch());
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    return rows.stream().map(tests::of).toList();
  }
}
