package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.results.Tries;
import org.vinecellar.store.sql.Ids;

/** A part that is being sent while its tests run. The caller has the ledger of its run open. */
public final class ProvisionalPart {
  /** Begins the content hash of a part that has no content of its own yet. */
  public static final String HASH = "live:";

  private ProvisionalPart() {}

  /** Whether a part of the run is still being sent. */
  static boolean any(DSLContext dsl, Reservation place) {
    return dsl.fetchExists(
        PART,
        PART.PROJECT_ID.eq(place.projectId()),
        PART.RUN_ID.eq(place.runId()),
        PART.LIVE_BATCH.isNotNull(),
        PART.BROKEN_OFF.isFalse());
  }

  /** Takes a provisional part out of the run, as if it had never come. Others are left alone. */
  static void remove(DSLContext dsl, RunLedger ledger, int projectId, int partNo) {
    long runId = ledger.run().get(RUN.ID);
    boolean there =
        dsl.fetchExists(
            PART,
            PART.PROJECT_ID.eq(projectId),
            PART.RUN_ID.eq(runId),
            PART.PART_NO.eq(partNo),
            PART.CONTENT_HASH.startsWith(HASH));
    if (!there) {
      return;
    }
    ledger.partGoes(partNo);
    standAgain(dsl, projectId, runId, partNo);
    for (String table :
        List.of("overruling", "result_row", "attempt", "result_note", "attachment")) {
      dsl.execute(
          "delete from " + table + " where run_id = ? and place between ? and ?",
          runId,
          Packed.first(partNo),
          Packed.last(partNo));
    }
    for (String table : List.of("part_file", "part")) {
      dsl.execute(
          "delete from " + table + " where project_id = ? and run_id = ? and part_no = ?",
          projectId,
          runId,
          partNo);
    }
  }

  /** Of each test that the part tried again, the try before. */
  private static void standAgain(DSLContext dsl, int projectId, long runId, int partNo) {
    List<Integer> before = Tries.before(dsl, projectId, runId, partNo);
    dsl.execute(
        "with hidden as (select distinct on (o.test_id) o.place from result n"
            + " join result o on o.run_id = n.run_id and o.test_id = n.test_id"
            + " and (o.part_no = any(?) or (o.attempts = 0 and not o.place between ? and ?))"
            + " and o.superseded"
            + " where n.run_id = ? and n.place between ? and ?"
            + " and not n.superseded order by o.test_id,"
            + " o.attempts = 0, o.place desc)"
            + " update result_row r set state = r.state & ~cast(? as int) from hidden h"
            + " where r.run_id = ? and r.place = h.place",
        Ids.of(before),
        Packed.first(partNo),
        Packed.last(partNo),
        runId,
        Packed.first(partNo),
        Packed.last(partNo),
        Packed.SUPERSEDED,
        runId);
  }
}
