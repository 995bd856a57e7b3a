package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.TEST;

import org.jooq.Condition;
import org.jooq.impl.DSL;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.store.generated.tables.FailureGroup;

/**
 * Filters as conditions on tables that stand in a query under their own names. Whatever somebody
 * wrote is bound as a value, never part of a statement's text.
 */
public final class Conditions {
  private Conditions() {}

  /** On {@code run}. */
  public static Condition ofRuns(int projectId, Criterion criterion) {
    return new RunTerms(projectId, 0, RUN).of(criterion);
  }

  /** On {@code test}. */
  public static Condition ofTests(int projectId, Criterion criterion) {
    return new TestTerms(projectId, 0, TEST).of(criterion);
  }

  /** On failure groups under that name. */
  public static Condition ofGroups(int projectId, FailureGroup group, Criterion criterion) {
    return new GroupTerms(projectId, 0, group).of(criterion);
  }

  /** On {@code result} and {@code test}, of one run. */
  public static Condition ofResults(int projectId, long runId, Criterion criterion) {
    return new ResultTerms(projectId, 0, RESULT, TEST, DSL.val(runId)).of(criterion);
  }
}
