package org.vinecellar.store.edits;

import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;

import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Edit;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.edits.Overruling;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.store.ingest.RunChanges;
import org.vinecellar.store.sql.Sql;

/** Sets the outcome of one result; the counts of its run, part and suites follow. */
final class Overrule {
  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final ResultId id;

  Overrule(DSLContext dsl, int projectId, long runId, ResultId id) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
    this.id = id;
  }

  void set(Outcome seen, @Nullable Outcome wanted, String reason, Hand hand) {
    lockRun();
    Outcome now = Outcome.ofCode(result().get(RESULT.OUTCOME));
    if (now != seen) {
      throw EditRows.meanwhile("somebody");
    }
    Overruling before = OverrulingRows.find(dsl, projectId, runId, id);
    Outcome reported = before == null ? now : before.reported();
    Outcome next = wanted == null ? reported : wanted;
    if (next == now) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          before == null && wanted == null
              ? "the result stands as it was reported; there is nothing to take back"
              : "the outcome is “" + now.word() + "” already; nothing was changed");
    }
    keep(before != null, reported, next, reason, hand);
    count(now, next);
    new EditRows(dsl, projectId, Subject.run(runId), hand)
        .add(new Edit.Difference("outcome", now.word(), next.word()), id, reason);
    new RunChanges(dsl, projectId).recompute(runId);
    PgEditStore.changed(dsl, projectId, runId);
  }

  private void lockRun() {
    dsl.select(RUN.ID)
        .from(RUN)
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId), RUN.NUMBER.isNotNull())
        .forUpdate()
        .fetchOptional()
        .orElseThrow(() -> notFound("run " + runId));
  }

  private Record result() {
    Record row =
        dsl.select(RESULT.OUTCOME, RESULT.KIND, RESULT.SUPERSEDED, PART.LIVE_BATCH)
            .from(RESULT)
            .join(PART)
            .on(
                PART.PROJECT_ID.eq(RESULT.PROJECT_ID),
                PART.RUN_ID.eq(RESULT.RUN_ID),
                PART.PART_NO.eq(RESULT.PART_NO))
            .where(
                RESULT.PROJECT_ID.eq(projectId),
                RESULT.RUN_ID.eq(runId),
                RESULT.PART_NO.eq(id.part()),
                RESULT.ORDINAL.eq(id.ordinal()))
            .fetchOne();
    if (row == null) {
      throw notFound("result " + id);
    }
    if (row.get(RESULT.KIND) != ResultKind.TEST.code()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a set-up is not counted as a test; overrule the tests that it kept from running");
    }
    if (row.get(RESULT.SUPERSEDED)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a later part of the run tried this test again; overrule that result");
    }
    if (row.get(PART.LIVE_BATCH) != null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the part of this result is still coming, and what is there of it is provisional;"
              + " overrule it when the part has ended");
    }
    return row;
  }

  private void keep(boolean was, Outcome reported, Outcome next, String reason, Hand hand) {
    dsl.update(RESULT)
        .set(RESULT.OUTCOME, (short) next.code())
        .where(
            RESULT.PROJECT_ID.eq(projectId),
            RESULT.RUN_ID.eq(runId),
            RESULT.PART_NO.eq(id.part()),
            RESULT.ORDINAL.eq(id.ordinal()))
        .execute();
    dsl.deleteFrom(OVERRULING).where(OverrulingRows.is(projectId, runId, id)).execute();
    boolean is = next != reported;
    if (is) {
      dsl.insertInto(OVERRULING)
          .set(OVERRULING.PROJECT_ID, projectId)
          .set(OVERRULING.RUN_ID, runId)
          .set(OVERRULING.PART_NO, id.part())
          .set(OVERRULING.ORDINAL, id.ordinal())
          .set(OVERRULING.REPORTED, (short) reported.code())
          .set(OVERRULING.REASON, reason)
          .set(OVERRULING.MADE_AT, Sql.utc(hand.now()))
          .set(OVERRULING.MADE_BY, hand.name())
          .execute();
    }
    dsl.update(RUN)
        .set(RUN.OVERRULED, RUN.OVERRULED.plus((is ? 1 : 0) - (was ? 1 : 0)))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
  }

  /** One less of what it was, one more of what it is. */
  private void count(Outcome was, Outcome is) {
    String set = " set " + column(was) + " = " + column(was) + " - 1, ";
    set += column(is) + " = " + column(is) + " + 1";
    dsl.execute("update run" + set + " where project_id = ? and id = ?", projectId, runId);
    dsl.execute(
        "update part" + set + " where project_id = ? and run_id = ? and part_no = ?",
        projectId,
        runId,
        id.part());
    dsl.execute(
        "with recursive up (id) as (select t.suite_id from result r"
            + " join test t on t.project_id = r.project_id and t.id = r.test_id"
            + " where r.project_id = ? and r.run_id = ? and r.part_no = ? and r.ordinal = ?"
            + " union all select s.parent_id from up u"
            + " join suite s on s.project_id = ? and s.id = u.id)"
            + " update run_suite"
            + set
            + " where project_id = ? and run_id = ? and suite_id in (select id from up)",
        projectId,
        runId,
        id.part(),
        id.ordinal(),
        projectId,
        projectId,
        runId);
  }

  private static String column(Outcome outcome) {
    return outcome.word().replace(' ', '_');
  }

  private static CellarException notFound(String what) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no " + what);
  }
}
