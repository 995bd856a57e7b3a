package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;

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
    // Before anything is marked: the rows tell what they have added.
    Counts gone = counts("r.part_no = ? and not r.superseded", partNo);
    List<Record> hidden = hiddenBy(partNo);
    Integer[] parts = hidden.stream().map(row -> row.get(0, Integer.class)).toArray(Integer[]::new);
    Integer[] ordinals =
        hidden.stream().map(row -> row.get(1, Integer.class)).toArray(Integer[]::new);
    Counts back =
        counts(
            "(r.part_no, r.ordinal) in (select * from unnest(?::int[], ?::int[]))",
            parts,
            ordinals);
    SuiteRows suites = new SuiteRows(dsl, place);
    suites.addAgain(parts, ordinals);
    suites.subtract(partNo);
    dsl.execute(
        "update result r set superseded = false from unnest(?::int[], ?::int[]) as o(part, ordinal)"
            + " where r.project_id = ? and r.run_id = ? and r.part_no = o.part"
            + " and r.ordinal = o.ordinal",
        parts,
        ordinals,
        place.projectId(),
        place.runId());
    int overruled = 0;
    for (String table :
        new String[] {
          "overruling", "result", "attempt", "result_note", "attachment", "part_file", "part"
        }) {
      int rows =
          dsl.execute(
              "delete from " + table + " where project_id = ? and run_id = ? and part_no = ?",
              place.projectId(),
              place.runId(),
              partNo);
      overruled += table.equals("overruling") ? rows : 0;
    }
    Record run =
        dsl.selectFrom(RUN)
            .where(RUN.PROJECT_ID.eq(place.projectId()), RUN.ID.eq(place.runId()))
            .fetchSingle();
    dsl.update(RUN)
        .set(RunRows.ofRun(RunRows.counts(run).plus(gone.negated()).plus(back)))
        .set(RUN.OVERRULED, RUN.OVERRULED.minus(overruled))
        .set(RUN.DURATION_US, RUN.DURATION_US.minus(part.get(PART.DURATION_US)))
        .where(RUN.PROJECT_ID.eq(place.projectId()), RUN.ID.eq(place.runId()))
        .execute();
  }

  /** Of each test that a part tried again, the try before: it will stand again. */
  private List<Record> hiddenBy(int partNo) {
    return new ArrayList<>(
        dsl.fetch(
            "select distinct on (o.test_id) o.part_no, o.ordinal from result n"
                + " join result o on o.project_id = n.project_id and o.run_id = n.run_id"
                + " and o.test_id = n.test_id and o.part_no <> n.part_no and o.superseded"
                + " where n.project_id = ? and n.run_id = ? and n.part_no = ?"
                + " and not n.superseded order by o.test_id, o.part_no desc, o.ordinal desc",
            place.projectId(),
            place.runId(),
            partNo));
  }

  private Counts counts(String which, Object... values) {
    List<Object> bindings = new ArrayList<>(List.of(place.projectId(), place.runId()));
    bindings.addAll(List.of(values));
    Counts counts = Counts.NONE;
    for (Record row :
        dsl.fetch(
            "select r.kind, r.outcome, count(*), count(*) filter (where r.attempts > 1)"
                + " from result r where r.project_id = ? and r.run_id = ? and "
                + which
                + " group by 1, 2",
            bindings.toArray())) {
      ResultKind kind = ResultKind.ofCode(row.get(0, Integer.class));
      counts =
          counts
              .add(kind, Outcome.ofCode(row.get(1, Integer.class)), row.get(2, Integer.class))
              .addRetried(kind == ResultKind.TEST ? row.get(3, Integer.class) : 0);
    }
    return counts;
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
