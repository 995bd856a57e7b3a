package org.vinecellar.store.removal;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.STREAM_NAME_BEFORE;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.core.removal.RemovalStore;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Takes runs and streams out of sight, and leaves the rest as work. Thread-safe. */
public final class PgRemovalStore implements RemovalStore {
  /** Runs of a stream that go at once. */
  private static final int RUNS = 50;

  private final Sql sql;

  /** On that database. */
  public PgRemovalStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public boolean removeRun(int projectId, long runId, Instant now) {
    return sql.transaction(
        dsl -> {
          RunLedger ledger = RunLedger.open(dsl, projectId, runId);
          if (ledger == null || ledger.run().get(RUN.NUMBER) == null) {
            return false;
          }
          ledger.remove(now);
          return true;
        });
  }

  @Override
  public boolean removeStream(int projectId, String stream, Instant now) {
    return sql.transaction(
        dsl -> {
          Long id =
              dsl.select(STREAM.ID)
                  .from(STREAM)
                  .where(STREAM.PROJECT_ID.eq(projectId), STREAM.NAME.eq(stream))
                  .forUpdate()
                  .fetchOne(STREAM.ID);
          if (id == null) {
            return false;
          }
          dsl.update(STREAM)
              .set(STREAM.NAME, RunLedger.REMOVED + id)
              .set(STREAM.DELETED_AT, Sql.utc(now))
              .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(id))
              .execute();
          dsl.deleteFrom(STREAM_NAME_BEFORE)
              .where(
                  STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId), STREAM_NAME_BEFORE.STREAM_ID.eq(id))
              .execute();
          WorkRows.ask(dsl, WorkKind.REMOVE_STREAM, projectId, id, now);
          return true;
        });
  }

  /** Work: takes some of the runs of a stream out of sight; at last the stream itself. */
  public static void removeRuns(DSLContext dsl, int projectId, long stream, Instant now) {
    List<Long> runs =
        dsl.select(RUN.ID)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(stream), RUN.DELETED_AT.isNull())
            .orderBy(RUN.ID)
            .limit(RUNS)
            .fetch(RUN.ID);
    RunLedger.hold(dsl, projectId, runs);
    for (long run : runs) {
      RunLedger ledger = RunLedger.open(dsl, projectId, run);
      if (ledger != null) {
        ledger.remove(now);
      }
    }
    // Who was about to begin a run in it is waited for, and seen.
    dsl.select(STREAM.ID)
        .from(STREAM)
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream))
        .forUpdate()
        .fetch();
    boolean left = dsl.fetchExists(RUN, RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(stream));
    if (left) {
      // Behind what was just asked for: the rows of these runs.
      WorkRows.ask(
          dsl,
          WorkKind.REMOVE_STREAM,
          projectId,
          stream,
          runs.isEmpty() ? now.plusSeconds(5) : now);
    } else {
      dsl.deleteFrom(STREAM).where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream)).execute();
    }
  }
}
