package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.RUN;

import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Outcome;

/** What changed from run to run, kept with the run so that looking at it costs nothing. */
public final class RunChanges {
  private static final int BATCH = 5000;

  private final DSLContext dsl;
  private final int projectId;

  /** Within the caller's transaction. */
  public RunChanges(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /**
   * Compares a run that the caller has locked with the one before it, and the one after it with it.
   *
   * @return the changes of the run itself
   */
  public ChangeCounts recompute(long runId) {
    Record run = lock(runId);
    ChangeCounts changes = compare(run);
    compareNext(run);
    return changes;
  }

  /**
   * The same, when nothing but the results of one part came to an open run.
   *
   * @return the changes of the run itself
   */
  ChangeCounts addPart(long runId, int partNo) {
    Record run = lock(runId);
    ChangeCounts counts = RunRows.changes(run);
    // Right after a large upload PostgreSQL knows nothing of its rows, takes them for few, and
    // would go
    // through the whole run for each of them.
    dsl.execute("set local enable_nestloop = off");
    for (Record gone :
        dsl.fetch(
            "with gone as (delete from run_change c using result n"
                + " where c.project_id = ? and c.run_id = ? and n.project_id = c.project_id"
                + " and n.run_id = c.run_id and n.part_no = ? and n.test_id = c.test_id"
                + " returning c.change)"
                + " select change, count(*) from gone group by 1",
            projectId,
            runId,
            partNo)) {
      counts = counts.add(Change.ofCode(gone.get(0, Integer.class)), -gone.get(1, Integer.class));
    }
    Long previous = run.get(RUN.PREVIOUS_ID);
    try (Cursor<Record> rows = candidatesOfPart(runId, partNo, previous)) {
      counts = write(runId, previous, false, rows, counts);
    }
    dsl.execute("set local enable_nestloop = on");
    compareNext(run);
    return counts;
  }

  private void compareNext(Record run) {
    Long next =
        dsl.select(RUN.ID)
            .from(RUN)
            .where(
                RUN.PROJECT_ID.eq(projectId),
                RUN.STREAM_ID.eq(run.get(RUN.STREAM_ID)),
                RUN.PREVIOUS_ID.eq(run.get(RUN.ID)))
            .limit(1)
            .fetchOne(RUN.ID);
    if (next != null) {
      compare(lock(next));
    }
  }

  private Record lock(long runId) {
    return dsl.selectFrom(RUN)
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .forUpdate()
        .fetchSingle();
  }

  private ChangeCounts compare(Record run) {
    long runId = run.get(RUN.ID);
    Long previous = run.get(RUN.PREVIOUS_ID);
    // A test that has not come yet may still come while the run is open.
    boolean tellGone = !run.get(RUN.IS_OPEN);
    dsl.execute("delete from run_change where project_id = ? and run_id = ?", projectId, runId);
    try (Cursor<Record> rows = candidates(runId, previous)) {
      return write(runId, previous, tellGone, rows, ChangeCounts.NONE);
    }
  }

  private ChangeCounts write(
      long runId,
      @Nullable Long previous,
      boolean tellGone,
      Cursor<Record> rows,
      ChangeCounts before) {
    ChangeCounts counts = before;
    CopyBuffer copy = new CopyBuffer("run_change (project_id, run_id, test_id, change)", 4);
    while (rows.hasNext()) {
      Record row = java.util.Objects.requireNonNull(rows.fetchNext());
      Change change = change(row, previous);
      if (change == null || (change == Change.GONE && !tellGone)) {
        continue;
      }
      counts = counts.add(change, 1);
      copy.row();
      copy.int4(projectId);
      copy.int8(runId);
      copy.int8(row.get(0, Long.class));
      copy.int2(change.code());
    }
    send(copy);
    keep(runId, counts);
    return counts;
  }

  private static @Nullable Change change(Record row, @Nullable Long previous) {
    Change change = Change.between(outcome(row, 1), outcome(row, 2), row.get(3, Integer.class) > 1);
    return change == Change.ADDED && previous == null ? null : change;
  }

  private static @Nullable Outcome outcome(Record row, int column) {
    Integer code = row.get(column, Integer.class);
    return code == null ? null : Outcome.ofCode(code);
  }

  /** Only tests of which something may be told: test, outcome before, outcome now, attempts. */
  private Cursor<Record> candidates(long runId, @Nullable Long previous) {
    if (previous == null) {
      return dsl.resultQuery(
              "select test_id, null::smallint, outcome, attempts from result"
                  + " where project_id = ? and run_id = ? and not superseded"
                  + " and (outcome in (1, 2) or attempts > 1)",
              projectId,
              runId)
          .fetchSize(BATCH)
          .fetchLazy();
    }
    return dsl.resultQuery(
            "select coalesce(n.test_id, p.test_id), p.outcome, n.outcome, coalesce(n.attempts, 1)"
                + " from (select test_id, outcome, attempts from result"
                + " where project_id = ? and run_id = ? and not superseded) n"
                + " full outer join (select test_id, outcome, kind from result"
                + " where project_id = ? and run_id = ? and not superseded) p"
                + " on p.test_id = n.test_id"
                + " where (n.test_id is null or p.test_id is null or n.outcome in (1, 2)"
                + " or p.outcome in (1, 2) or n.attempts > 1)"
                // A failed set-up that is not there any more is not a test that is gone.
                + " and (n.test_id is not null or p.kind = 0)",
            projectId,
            runId,
            projectId,
            previous)
        .fetchSize(BATCH)
        .fetchLazy();
  }

  private Cursor<Record> candidatesOfPart(long runId, int partNo, @Nullable Long previous) {
    return dsl.resultQuery(
            "select n.test_id, p.outcome, n.outcome, n.attempts from result n"
                + " left join result p on p.project_id = n.project_id and p.test_id = n.test_id"
                + " and p.run_id = ? and not p.superseded"
                + " where n.project_id = ? and n.run_id = ? and n.part_no = ? and not n.superseded"
                + " and (p.test_id is null or n.outcome in (1, 2) or p.outcome in (1, 2)"
                + " or n.attempts > 1)",
            previous == null ? 0L : previous,
            projectId,
            runId,
            partNo)
        .fetchSize(BATCH)
        .fetchLazy();
  }

  private void send(CopyBuffer rows) {
    dsl.connection(connection -> rows.send(connection.unwrap(PGConnection.class).getCopyAPI()));
  }

  private void keep(long runId, ChangeCounts counts) {
    dsl.update(RUN)
        .set(RUN.VERSION, RUN.VERSION.plus(1))
        .set(RUN.NEW_FAILING, counts.newFailing())
        .set(RUN.STILL_FAILING, counts.stillFailing())
        .set(RUN.FIXED, counts.fixed())
        .set(RUN.PASSED_ON_RETRY, counts.passedOnRetry())
        .set(RUN.ADDED, counts.added())
        .set(RUN.GONE, counts.gone())
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
  }
}
