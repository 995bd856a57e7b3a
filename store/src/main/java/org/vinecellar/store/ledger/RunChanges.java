package org.vinecellar.store.ledger;

import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.CopyBuffer;

/** What changed against the run before, kept with the run so that looking at it costs nothing. */
final class RunChanges {
  private static final int BATCH = 5000;

  private final DSLContext dsl;
  private final long runId;
  private final @Nullable Long previous;

  /**
   * @param runId of a run that the caller has locked
   * @param previous the run to compare it with; null for none
   */
  RunChanges(DSLContext dsl, long runId, @Nullable Long previous) {
    this.dsl = dsl;
    this.runId = runId;
    this.previous = previous;
  }

  /**
   * Compares the whole of it.
   *
   * @param tellGone false while the run is open: a test that has not come yet may still come
   */
  ChangeCounts compare(boolean tellGone) {
    dsl.execute("delete from run_change where run_id = ?", runId);
    // Right after a large upload PostgreSQL knows nothing of its rows, takes them for few, and
    // would go through the whole run for each of them.
    dsl.execute("set local enable_nestloop = off");
    try (Cursor<Record> rows = candidates()) {
      return write(tellGone, rows, ChangeCounts.NONE);
    } finally {
      dsl.execute("set local enable_nestloop = on");
    }
  }

  /**
   * The same, when nothing but the results of one part came to an open run.
   *
   * @param before what was told without it
   */
  ChangeCounts addPart(int part, ChangeCounts before) {
    ChangeCounts counts = before;
    dsl.execute("set local enable_nestloop = off");
    for (Record gone :
        dsl.fetch(
            "with gone as (delete from run_change c using result n where c.run_id = ?"
                + " and n.run_id = ? and n.place between ? and ? and n.test_id = c.test_id"
                + " returning c.change)"
                + " select change, count(*) from gone group by 1",
            runId,
            runId,
            Packed.first(part),
            Packed.last(part))) {
      counts = counts.add(Change.ofCode(gone.get(0, Integer.class)), -gone.get(1, Integer.class));
    }
    try (Cursor<Record> rows = candidatesOfPart(part)) {
      return write(false, rows, counts);
    } finally {
      dsl.execute("set local enable_nestloop = on");
    }
  }

  private ChangeCounts write(boolean tellGone, Cursor<Record> rows, ChangeCounts before) {
    ChangeCounts counts = before;
    CopyBuffer copy = new CopyBuffer("run_change (run_id, test_id, change)", 3);
    while (rows.hasNext()) {
      Record row = java.util.Objects.requireNonNull(rows.fetchNext());
      Change change = change(row);
      if (change == null || (change == Change.GONE && !tellGone)) {
        continue;
      }
      counts = counts.add(change, 1);
      copy.row();
      copy.int4(Math.toIntExact(runId));
      copy.int4(row.get(0, Integer.class));
      copy.int4(change.code());
    }
    dsl.connection(connection -> copy.send(connection.unwrap(PGConnection.class).getCopyAPI()));
    return counts;
  }

  private @Nullable Change change(Record row) {
    Change change = Change.between(outcome(row, 1), outcome(row, 2), row.get(3, Integer.class) > 1);
    return change == Change.ADDED && previous == null ? null : change;
  }

  private static @Nullable Outcome outcome(Record row, int column) {
    Integer code = row.get(column, Integer.class);
    return code == null ? null : Outcome.ofCode(code);
  }

  /** Only tests of which something may be told: test, outcome before, outcome now, attempts. */
  private Cursor<Record> candidates() {
    if (previous == null) {
      return dsl.resultQuery(
              "select test_id, null::int, outcome, attempts from result"
                  + " where run_id = ? and not superseded and (outcome in (1, 2) or attempts > 1)",
              runId)
          .fetchSize(BATCH)
          .fetchLazy();
    }
    return dsl.resultQuery(
            "select coalesce(n.test_id, p.test_id), p.outcome, n.outcome, coalesce(n.attempts, 1)"
                + " from (select test_id, outcome, attempts from result"
                + " where run_id = ? and not superseded) n"
                + " full outer join (select test_id, outcome, kind from result"
                + " where run_id = ? and not superseded) p"
                + " on p.test_id = n.test_id"
                + " where (n.test_id is null or p.test_id is null or n.outcome in (1, 2)"
                + " or p.outcome in (1, 2) or n.attempts > 1)"
                // A failed set-up that is not there any more is not a test that is gone.
                + " and (n.test_id is not null or p.kind = 0)",
            runId,
            previous)
        .fetchSize(BATCH)
        .fetchLazy();
  }

  private Cursor<Record> candidatesOfPart(int part) {
    return dsl.resultQuery(
            "select n.test_id, p.outcome, n.outcome, n.attempts from result n"
                + " left join result p on p.test_id = n.test_id"
                + " and p.run_id = ? and not p.superseded"
                + " where n.run_id = ? and n.place between ? and ? and not n.superseded"
                + " and (p.test_id is null or n.outcome in (1, 2) or p.outcome in (1, 2)"
                + " or n.attempts > 1)",
            previous == null ? 0L : previous,
            runId,
            Packed.first(part),
            Packed.last(part))
        .fetchSize(BATCH)
        .fetchLazy();
  }
}
