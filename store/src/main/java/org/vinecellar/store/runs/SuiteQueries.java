package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN_SUITE;
import static org.vinecellar.store.generated.Tables.SUITE;
import static org.vinecellar.store.generated.Tables.TEST;

import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.SuiteNode;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.PossibleOutcomes;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.results.SuitePaths;

/** Suites of a run: as they were added up when it arrived, or added up now behind a filter. */
final class SuiteQueries {
  private static final int MOST = 5000;
  private static final Comparator<SuiteNode> ORDER =
      Comparator.<SuiteNode, Boolean>comparing(node -> !node.counts().needsALook())
          .thenComparing(SuiteNode::name);

  private final DSLContext dsl;
  private final int projectId;

  SuiteQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<SuiteNode> inside(long runId, @Nullable Long parentId, Criterion filter) {
    return filter.equals(Criterion.EVERYTHING)
        ? kept(runId, parentId)
        : filtered(runId, parentId, filter);
  }

  private List<SuiteNode> kept(long runId, @Nullable Long parentId) {
    return dsl.select(RUN_SUITE.asterisk(), SUITE.NAME)
        .from(RUN_SUITE)
        .join(SUITE)
        .on(SUITE.PROJECT_ID.eq(projectId), SUITE.ID.eq(RUN_SUITE.SUITE_ID))
        .where(RUN_SUITE.RUN_ID.eq(runId))
        .and(parentId == null ? RUN_SUITE.PARENT_ID.isNull() : RUN_SUITE.PARENT_ID.eq(parentId))
        .orderBy(
            RUN_SUITE.FAILED.plus(RUN_SUITE.ERRORED).plus(RUN_SUITE.SET_UPS).gt(0).desc(),
            SUITE.NAME)
        .limit(MOST)
        .fetch(SuiteQueries::node);
  }

  private static SuiteNode node(Record row) {
    Counts all = CountColumns.OF_SUITE.of(row);
    return new SuiteNode(
        row.get(RUN_SUITE.SUITE_ID),
        row.get(SUITE.NAME),
        all,
        !all.equals(CountColumns.OF_SUITE_ALONE.of(row)));
  }

  private List<SuiteNode> filtered(long runId, @Nullable Long parentId, Criterion filter) {
    Map<Long, Counts> own = counted(runId, filter);
    SuitePaths paths = new SuitePaths(dsl, projectId, own.keySet());
    Map<Long, Counts> sums = new HashMap<>();
    Set<Long> parents = new HashSet<>();
    own.forEach(
        (suite, counts) -> {
          List<Long> path = paths.ids(suite);
          int child = parentId == null ? 0 : path.indexOf(parentId) + 1;
          if (child < path.size() && (parentId == null || child > 0)) {
            sums.merge(path.get(child), counts, Counts::plus);
            if (child < path.size() - 1) {
              parents.add(path.get(child));
            }
          }
        });
    return sums.entrySet().stream()
        .map(
            sum ->
                new SuiteNode(
                    sum.getKey(),
                    paths.name(sum.getKey()),
                    sum.getValue(),
                    parents.contains(sum.getKey())))
        .sorted(ORDER)
        .limit(MOST)
        .toList();
  }

  /** What of each suite's own results the filter lets through. */
  private Map<Long, Counts> counted(long runId, Criterion filter) {
    Map<Long, Counts> own = new HashMap<>();
    dsl.select(TEST.SUITE_ID, RESULT.KIND, RESULT.OUTCOME, DSL.count())
        .select(DSL.count().filterWhere(RESULT.ATTEMPTS.gt(1).and(RESULT.KIND.eq(0))).as("retried"))
        .from(RESULT)
        .join(TEST)
        .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
        .where(RESULT.RUN_ID.eq(runId))
        .and(RESULT.SUPERSEDED.isFalse())
        .and(TEST.SUITE_ID.isNotNull())
        .and(PossibleOutcomes.of(filter).condition(RESULT))
        .and(Conditions.ofResults(projectId, runId, filter))
        .groupBy(TEST.SUITE_ID, RESULT.KIND, RESULT.OUTCOME)
        .forEach(
            row ->
                own.merge(
                    row.get(TEST.SUITE_ID),
                    Counts.NONE
                        .add(
                            ResultKind.ofCode(row.get(RESULT.KIND)),
                            Outcome.ofCode(row.get(RESULT.OUTCOME)),
                            row.get(DSL.count()))
                        .addRetried(row.get("retried", Integer.class)),
                    Counts::plus));
    return own;
  }
}
