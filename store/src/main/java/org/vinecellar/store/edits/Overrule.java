package org.vinecellar.store.edits;

import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.TEST;

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
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.results.Packed;
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
    RunLedger ledger = RunLedger.open(dsl, projectId, runId);
    if (ledger == null || ledger.run().get(RUN.NUMBER) == null) {
      throw notFound("run " + runId);
    }
    Record result = result();
    Outcome now = Outcome.ofCode(result.get(RESULT.OUTCOME));
    if (now != seen) {
      throw EditRows.meanwhile("somebody");
    }
    Overruling before = OverrulingRows.find(dsl, runId, id);
    Outcome reported = before == null ? now : before.reported();
    Outcome next = wanted == null ? reported : wanted;
    if (next == now) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          before == null && wanted == null
              ? "the result stands as it was reported; there is nothing to take back"
              : "the outcome is “" + now.word() + "” already; nothing was changed");
    }
    keep(reported, next, reason, hand);
    new EditRows(dsl, projectId, Subject.run(runId), hand)
        .add(new Edit.Difference("outcome", now.word(), next.word()), id, reason);
    ledger.resultChanged(Packed.place(id), result.get(TEST.SUITE_ID));
    RunLedger.Settled unused = ledger.settle(hand.now());
  }

  private Record result() {
    if (!Packed.isPlace(id)) {
      throw notFound("result " + id);
    }
    Record row =
        dsl.select(
                RESULT.OUTCOME,
                RESULT.KIND,
                RESULT.SUPERSEDED,
                PART.LIVE_BATCH,
                PART.BROKEN_OFF,
                TEST.SUITE_ID)
            .from(RESULT)
            .join(PART)
            .on(
                PART.PROJECT_ID.eq(projectId),
                PART.RUN_ID.eq(RESULT.RUN_ID),
                PART.PART_NO.eq(RESULT.PART_NO))
            .join(TEST)
            .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
            .where(RESULT.RUN_ID.eq(runId), RESULT.PLACE.eq(Packed.place(id)))
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
    if (row.get(PART.LIVE_BATCH) != null && !row.get(PART.BROKEN_OFF)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the part of this result is still coming, and what is there of it is provisional;"
              + " overrule it when the part has ended");
    }
    return row;
  }

  private void keep(Outcome reported, Outcome next, String reason, Hand hand) {
    dsl.execute(
        "update result_row set state = (state & ~63) | cast(? as int)"
            + " where run_id = ? and place = ?",
        next.code() | next.code() << 3,
        runId,
        Packed.place(id));
    dsl.deleteFrom(OVERRULING).where(OverrulingRows.is(runId, id)).execute();
    if (next != reported) {
      dsl.insertInto(OVERRULING)
          .set(OVERRULING.RUN_ID, runId)
          .set(OVERRULING.PLACE, Packed.place(id))
          .set(OVERRULING.REPORTED, reported.code())
          .set(OVERRULING.REASON, reason)
          .set(OVERRULING.MADE_AT, Sql.utc(hand.now()))
          .set(OVERRULING.MADE_BY, hand.name())
          .execute();
    }
  }

  private static CellarException notFound(String what) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no " + what);
  }
}
