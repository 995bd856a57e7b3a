package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN_CHANGE;
import static org.vinecellar.store.generated.Tables.SUITE;
import static org.vinecellar.store.generated.Tables.TEST;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectFromStep;
import org.jooq.SelectOnConditionStep;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultFilter;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunStore.GoneTest;
import org.vinecellar.store.results.Packed;

/**
 * Results of a run as pages. Two queries make a page: the failing ones through the index of those
 * that did not pass, then the others along the primary key; neither sorts.
 */
final class ResultQueries {
  private static final int FAILED = Outcome.FAILED.code();
  private static final int ERRORED = Outcome.ERRORED.code();

  private final DSLContext dsl;
  private final int projectId;

  ResultQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<ResultRow> page(long runId, ResultQuery query) {
    List<Record> rows = new ArrayList<>();
    ResultCursor after = query.after().orElse(null);
    Set<Outcome> outcomes = query.filter().outcomes();
    Set<Outcome> wanted = outcomes.isEmpty() ? Set.of(Outcome.values()) : outcomes;
    if ((after == null || after.failing()) && wanted.stream().anyMatch(Outcome::isFailing)) {
      rows.addAll(half(runId, query, wanted, true, after));
    }
    if (rows.size() < query.limit() && !wanted.stream().allMatch(Outcome::isFailing)) {
      ResultCursor from = after == null || after.failing() ? null : after;
      rows.addAll(
          half(runId, query, wanted, false, from).stream()
              .limit(query.limit() - rows.size())
              .toList());
    }
    return rows(rows);
  }

  private List<Record> half(
      long runId,
      ResultQuery query,
      Set<Outcome> wanted,
      boolean failing,
      @Nullable ResultCursor after) {
    List<Integer> codes =
        wanted.stream().filter(o -> o.isFailing() == failing).map(Outcome::code).toList();
    Condition outcome =
        failing
            // Said twice so that the planner sees that the partial index covers it.
            ? RESULT.OUTCOME.ne(DSL.inline(0)).and(RESULT.OUTCOME.in(codes))
            : codes.size() == 3
                ? RESULT.OUTCOME.notIn(FAILED, ERRORED)
                : codes.contains(0)
                    ? RESULT.OUTCOME.in(codes)
                    : RESULT.OUTCOME.ne(DSL.inline(0)).and(RESULT.OUTCOME.in(codes));
    Condition page = after == null ? DSL.noCondition() : RESULT.PLACE.gt(Packed.place(after.id()));
    return new ArrayList<>(
        select()
            .where(RESULT.RUN_ID.eq(runId))
            .and(RESULT.SUPERSEDED.isFalse())
            .and(outcome)
            .and(page)
            .and(filters(query))
            .orderBy(RESULT.PLACE)
            .limit(query.limit())
            .fetch());
  }

  private static Condition filters(ResultQuery query) {
    Condition rest = of(query.filter());
    Long suite = query.suiteId();
    if (suite == null) {
      return rest;
    }
    return rest.and(
        suite == ResultQuery.NO_SUITE ? TEST.SUITE_ID.isNull() : TEST.SUITE_ID.eq(suite));
  }

  static Condition of(Set<Outcome> outcomes) {
    List<Integer> codes = outcomes.stream().map(Outcome::code).toList();
    return outcomes.isEmpty() ? DSL.noCondition() : RESULT.OUTCOME.in(codes);
  }

  /** All that a filter asks but the outcomes. */
  static Condition of(ResultFilter filter) {
    Change change = filter.change();
    String text = filter.text();
    Condition all = filter.overruled() ? OVERRULING.REPORTED.isNotNull() : DSL.noCondition();
    if (filter.setUps() || !filter.outcomes().isEmpty()) {
      ResultKind kind = filter.setUps() ? ResultKind.SETUP : ResultKind.TEST;
      all = all.and(RESULT.KIND.eq(kind.code()));
    }
    if (change != null) {
      all = all.and(RUN_CHANGE.CHANGE.eq(change.code()));
    }
    if (text != null) {
      all =
          all.and(
              TEST.NAME
                  .containsIgnoreCase(text)
                  .or(TEST.PARAMETERS.containsIgnoreCase(text))
                  .or(SUITE.NAME.containsIgnoreCase(text))
                  .or(RESULT.FIRST_LINE.containsIgnoreCase(text)));
    }
    return all;
  }

  SelectOnConditionStep<Record> select() {
    return joined(
        projectId,
        dsl.select(RESULT.asterisk(), TEST.NAME, TEST.PARAMETERS, TEST.SUITE_ID)
            .select(RUN_CHANGE.CHANGE, OVERRULING.REPORTED));
  }

  /** Results with all that a filter may ask about. */
  static <R extends Record> SelectOnConditionStep<R> joined(
      int projectId, SelectFromStep<R> select) {
    return select
        .from(RESULT)
        .join(TEST)
        .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
        .leftJoin(SUITE)
        .on(SUITE.PROJECT_ID.eq(TEST.PROJECT_ID), SUITE.ID.eq(TEST.SUITE_ID))
        .leftJoin(RUN_CHANGE)
        .on(RUN_CHANGE.RUN_ID.eq(RESULT.RUN_ID), RUN_CHANGE.TEST_ID.eq(RESULT.TEST_ID))
        .leftJoin(OVERRULING)
        .on(OVERRULING.RUN_ID.eq(RESULT.RUN_ID), OVERRULING.PLACE.eq(RESULT.PLACE));
  }

  /** Rows as values, with the paths of their suites looked up together. */
  List<ResultRow> rows(List<Record> rows) {
    Set<Long> suiteIds = new HashSet<>();
    for (Record row : rows) {
      Long suite = row.get(TEST.SUITE_ID);
      if (suite != null) {
        suiteIds.add(suite);
      }
    }
    SuitePaths paths = new SuitePaths(dsl, projectId, suiteIds);
    return rows.stream().map(row -> row(row, paths)).toList();
  }

  private static ResultRow row(Record row, SuitePaths paths) {
    Integer change = row.get(RUN_CHANGE.CHANGE);
    Integer reported = row.get(OVERRULING.REPORTED);
    return new ResultRow(
        Packed.id(row.get(RESULT.PLACE)),
        row.get(RESULT.TEST_ID),
        paths.of(row.get(TEST.SUITE_ID)),
        row.get(TEST.NAME),
        row.get(TEST.PARAMETERS),
        ResultKind.ofCode(row.get(RESULT.KIND)),
        Outcome.ofCode(row.get(RESULT.OUTCOME)),
        reported == null ? null : Outcome.ofCode(reported),
        row.get(RESULT.ATTEMPTS),
        row.get(RESULT.DURATION_US),
        row.get(RESULT.FIRST_LINE),
        change == null ? null : Change.ofCode(change));
  }

  List<GoneTest> gone(long runId, int limit) {
    List<Record> rows =
        new ArrayList<>(
            dsl.select(TEST.ID, TEST.NAME, TEST.PARAMETERS, TEST.SUITE_ID)
                .from(RUN_CHANGE)
                .join(TEST)
                .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RUN_CHANGE.TEST_ID))
                .where(RUN_CHANGE.RUN_ID.eq(runId), RUN_CHANGE.CHANGE.eq(Change.GONE.code()))
                .orderBy(TEST.NAME, TEST.ID)
                .limit(limit)
                .fetch());
    Set<Long> suiteIds = new HashSet<>();
    rows.forEach(
        row -> {
          Long suite = row.get(TEST.SUITE_ID);
          if (suite != null) {
            suiteIds.add(suite);
          }
        });
    SuitePaths paths = new SuitePaths(dsl, projectId, suiteIds);
    return rows.stream()
        .map(
            row ->
                new GoneTest(
                    row.get(TEST.ID),
                    paths.of(row.get(TEST.SUITE_ID)),
                    row.get(TEST.NAME),
                    row.get(TEST.PARAMETERS)))
        .toList();
  }
}
