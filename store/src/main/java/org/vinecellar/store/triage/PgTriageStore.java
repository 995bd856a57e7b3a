package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.Category;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Groups and decisions in PostgreSQL. Thread-safe. */
public final class PgTriageStore implements TriageStore {
  private final Sql sql;

  /** On that database. */
  public PgTriageStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Category> categories(int projectId) {
    return sql.transaction(dsl -> Categories.of(dsl, projectId));
  }

  @Override
  public Optional<ResultId> failing(int projectId, long runId, String test) {
    return sql.with(dsl -> new FailureQueries(dsl, projectId).find(runId, test));
  }

  @Override
  public Decided decide(int projectId, long runId, ResultId result, Verdict verdict, Hand hand) {
    return sql.transaction(dsl -> decide(dsl, projectId, runId, result, verdict, hand));
  }

  private static Decided decide(
      DSLContext dsl, int projectId, long runId, ResultId result, Verdict verdict, Hand hand) {
    Record run =
        dsl.select(RUN.STARTED_AT)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId), RUN.NUMBER.isNotNull())
            .fetchOne();
    Record failure =
        run == null || !Packed.isPlace(result)
            ? null
            : dsl.selectFrom(FAILURE)
                .where(FAILURE.RUN_ID.eq(runId), FAILURE.PLACE.eq(Packed.place(result)))
                .forUpdate()
                .fetchOne();
    if (run == null || failure == null) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "result “"
              + result
              + "” of that run is not among its failures; perhaps it passes now, or its run is"
              + " still being grouped: try again in a moment");
    }
    Category category = Categories.named(dsl, projectId, verdict.category());
    long groupId = failure.get(FAILURE.GROUP_ID);
    Long before = failure.get(FAILURE.DECISION_ID);
    boolean own = before != null && failure.get(FAILURE.ORIGIN) == DecisionOrigin.HAND.code();
    if (own) {
      // Who decides again at the same result says it better now.
      undo(dsl, projectId, before, hand);
    }
    long id =
        dsl.insertInto(DECISION)
            .set(DECISION.PROJECT_ID, projectId)
            .set(DECISION.GROUP_ID, groupId)
            .set(DECISION.RUN_ID, runId)
            .set(DECISION.PLACE, Packed.place(result))
            .set(DECISION.TEST_ID, failure.get(FAILURE.TEST_ID))
            .set(DECISION.SINCE, run.get(RUN.STARTED_AT))
            .set(DECISION.SINGLE, verdict.single())
            .set(DECISION.CATEGORY_ID, category.id())
            .set(DECISION.COMMENT, verdict.comment())
            .set(DECISION.MADE_AT, Sql.utc(hand.now()))
            .set(DECISION.MADE_BY, hand.name())
            .returning(DECISION.ID)
            .fetchSingle(DECISION.ID);
    dsl.update(FAILURE)
        .set(FAILURE.DECISION_ID, id)
        .set(FAILURE.ORIGIN, DecisionOrigin.HAND.code())
        .where(FAILURE.RUN_ID.eq(runId), FAILURE.PLACE.eq(Packed.place(result)))
        .execute();
    int carried = 0;
    if (!verdict.single()) {
      carried = Carrying.toGroupInRun(dsl, projectId, groupId, runId);
      WorkRows.ask(dsl, WorkKind.CARRY_GROUP, projectId, groupId, hand.now());
    }
    return new Decided(id, groupId, carried);
  }

  @Override
  public void undo(int projectId, long decisionId, Hand hand) {
    boolean undone =
        sql.transaction(
            dsl -> {
              Long group = undo(dsl, projectId, decisionId, hand);
              if (group != null) {
                WorkRows.ask(dsl, WorkKind.CARRY_GROUP, projectId, group, hand.now());
              }
              return group != null;
            });
    if (!undone) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "there is no decision " + decisionId + ", or it was taken back before");
    }
  }

  /** The group that it was about; null when there is no such decision that stands. */
  private static @Nullable Long undo(DSLContext dsl, int projectId, long decision, Hand hand) {
    Long group =
        dsl.update(DECISION)
            .set(DECISION.UNDONE_AT, Sql.utc(hand.now()))
            .set(DECISION.UNDONE_BY, hand.name())
            .where(
                DECISION.PROJECT_ID.eq(projectId),
                DECISION.ID.eq(decision),
                DECISION.UNDONE_AT.isNull())
            .returning(DECISION.GROUP_ID)
            .fetchOne(DECISION.GROUP_ID);
    if (group != null) {
      dsl.update(FAILURE)
          .setNull(FAILURE.DECISION_ID)
          .setNull(FAILURE.ORIGIN)
          .where(FAILURE.GROUP_ID.eq(group), FAILURE.DECISION_ID.eq(decision))
          .execute();
    }
    return group;
  }

  @Override
  public GroupsInRun groups(int projectId, long runId, int limit) {
    return sql.with(dsl -> GroupInRunQueries.of(dsl, projectId, runId, limit));
  }

  @Override
  public List<FailureLine> failures(int projectId, Wanted wanted) {
    return sql.with(dsl -> new FailureQueries(dsl, projectId).lines(wanted));
  }
}
