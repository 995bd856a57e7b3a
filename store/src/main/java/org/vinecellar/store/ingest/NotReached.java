package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.RESULT;

import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.store.results.Packed;

/**
 * Tests that a failed set-up kept from running and that the file says nothing of: those that the
 * previous run had in that very suite and this run has not.
 */
final class NotReached {
  private final DSLContext dsl;
  private final Reservation place;

  NotReached(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.place = place;
  }

  /**
   * Adds a row for each.
   *
   * @param firstOrdinal the first that this part has not used
   * @return whether there were any
   */
  boolean add(long previousRun, int firstOrdinal) {
    return anySetUpFailed()
        && dsl.execute(
                "with stopped as (select t.suite_id, max(r.first_line) as line from result r"
                    + " join test t on t.project_id = ? and t.id = r.test_id"
                    + " where r.run_id = ? and r.place between ? and ?"
                    + " and r.outcome <> 0 and r.outcome in (1, 2) and r.kind = ? group by 1),"
                    + " missed as (select r.test_id, max(s.line) as line from result r"
                    + " join test t on t.project_id = ? and t.id = r.test_id"
                    + " join stopped s on s.suite_id = t.suite_id"
                    + " where r.run_id = ? and r.kind = ? and not r.superseded"
                    + " and not exists (select 1 from result n where n.run_id = ?"
                    + " and n.test_id = r.test_id) group by 1)"
                    + " insert into result_row (run_id, place, test_id, state, first_line)"
                    + " select ?, cast(? as int) + row_number() over (order by test_id) - 1, test_id, ?,"
                    + " 'set-up failed: ' || line from missed",
                place.projectId(),
                place.runId(),
                Packed.first(place.partNo()),
                Packed.last(place.partNo()),
                ResultKind.SETUP.code(),
                place.projectId(),
                previousRun,
                ResultKind.TEST.code(),
                place.runId(),
                place.runId(),
                Packed.place(place.partNo(), firstOrdinal),
                Packed.state(Outcome.NOT_REACHED, ResultKind.TEST, 0, false, 0))
            > 0;
  }

  /** Mostly not: then nothing needs to be looked at but what did not pass. */
  private boolean anySetUpFailed() {
    return dsl.fetchExists(
        RESULT,
        RESULT.RUN_ID.eq(place.runId()),
        RESULT.PLACE.between(Packed.first(place.partNo()), Packed.last(place.partNo())),
        RESULT.OUTCOME.ne(DSL.inline(0)),
        RESULT.KIND.eq(ResultKind.SETUP.code()));
  }
}
