package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;

import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Counts;

/** What is provisional of a run. The caller has locked the run. */
final class LiveRows {
  /** Begins the content hash of a part that has no content of its own yet. */
  static final String HASH = "live:";

  private final DSLContext dsl;
  private final Reservation place;

  LiveRows(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.place = place;
  }

  /** Whether a part of the run is still being sent. */
  boolean any() {
    return dsl.fetchExists(
        PART,
        PART.PROJECT_ID.eq(place.projectId()),
        PART.RUN_ID.eq(place.runId()),
        PART.LIVE_BATCH.isNotNull());
  }

  /** Takes a provisional part out of the run, as if it had never come. Others are left alone. */
  void remove(int partNo) {
    Record part =
        dsl.selectFrom(PART)
            .where(
                PART.PROJECT_ID.eq(place.projectId()),
                PART.RUN_ID.eq(place.runId()),
                PART.PART_NO.eq(partNo),
                PART.CONTENT_HASH.startsWith(HASH))
            .fetchOne();
    if (part == null) {
      return;
    }
    new SuiteRows(dsl, place).subtract(partNo);
    for (String table :
        new String[] {"result", "attempt", "result_note", "attachment", "part_file", "part"}) {
      dsl.execute(
          "delete from " + table + " where project_id = ? and run_id = ? and part_no = ?",
          place.projectId(),
          place.runId(),
          partNo);
    }
    Record run =
        dsl.selectFrom(RUN)
            .where(RUN.PROJECT_ID.eq(place.projectId()), RUN.ID.eq(place.runId()))
            .fetchSingle();
    Counts left = RunRows.counts(run).plus(RunRows.partCounts(part).negated());
    dsl.update(RUN)
        .set(RunRows.ofRun(left))
        .set(RUN.DURATION_US, RUN.DURATION_US.minus(part.get(PART.DURATION_US)))
        .where(RUN.PROJECT_ID.eq(place.projectId()), RUN.ID.eq(place.runId()))
        .execute();
  }

  /** Parts that will not come to an end any more, since their run is closed. */
  static void breakOff(DSLContext dsl, int projectId, long runId) {
    dsl.update(PART)
        .set(PART.BROKEN_OFF, true)
        .setNull(PART.LIVE_BATCH)
        .setNull(PART.RUNNING)
        .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId), PART.LIVE_BATCH.isNotNull())
        .execute();
  }
}
