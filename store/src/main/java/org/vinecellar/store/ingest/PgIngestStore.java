package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.ingest.UploadWriter;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** Uploads in PostgreSQL. Thread-safe. */
public final class PgIngestStore implements IngestStore {
  /** Runs in one transaction, so that none holds locks for long. */
  private static final int CLOSED_AT_ONCE = 100;

  private final Sql sql;
  private final Executor background;

  /**
   * On that database.
   *
   * @param background runs one short task at a time for each upload that is under way
   */
  public PgIngestStore(Sql sql, Executor background) {
    this.sql = sql;
    this.background = background;
  }

  @Override
  public Reservation reserve(
      UploadRequest request, String runKey, String contentHash, Instant now) {
    return sql.transaction(
        dsl -> {
          long streamId = stream(dsl, request, now);
          long runId = run(dsl, request, streamId, runKey, now);
          Receipt duplicate = duplicate(dsl, request.projectId(), runId, contentHash);
          int partNo =
              duplicate != null
                  ? 0
                  : dsl.update(RUN)
                          .set(RUN.NEXT_PART, RUN.NEXT_PART.plus(1))
                          .where(RUN.PROJECT_ID.eq(request.projectId()), RUN.ID.eq(runId))
                          .returningResult(RUN.NEXT_PART)
                          .fetchSingle(RUN.NEXT_PART)
                      - 1;
          return new Reservation(
              request.projectId(), streamId, runId, partNo, contentHash, duplicate);
        });
  }

  private static long stream(DSLContext dsl, UploadRequest request, Instant now) {
    Long known = streamId(dsl, request);
    if (known != null) {
      return known;
    }
    dsl.insertInto(STREAM)
        .set(STREAM.PROJECT_ID, request.projectId())
        .set(STREAM.NAME, request.stream())
        .set(STREAM.CREATED_AT, Sql.utc(now))
        .set(STREAM.NEXT_RUN_NUMBER, 1)
        .onConflictDoNothing()
        .execute();
    Long made = streamId(dsl, request);
    if (made == null) {
      throw new IllegalStateException("a stream vanished right after it was made");
    }
    return made;
  }

  private static @Nullable Long streamId(DSLContext dsl, UploadRequest request) {
    return dsl.select(STREAM.ID)
        .from(STREAM)
        .where(STREAM.PROJECT_ID.eq(request.projectId()), STREAM.NAME.eq(request.stream()))
        .fetchOne(STREAM.ID);
  }

  private static long run(
      DSLContext dsl, UploadRequest request, long streamId, String runKey, Instant now) {
    dsl.insertInto(RUN)
        .set(RUN.PROJECT_ID, request.projectId())
        .set(RUN.STREAM_ID, streamId)
        .set(RUN.RUN_KEY, runKey)
        .set(RUN.IS_OPEN, true)
        .set(RUN.CREATED_AT, Sql.utc(now))
        .set(RUN.STARTED_AT, Sql.utc(now))
        .set(RUN.CHANGED_AT, Sql.utc(now))
        .set(RUN.LABELS, Json.of(Map.of()))
        .set(RUN.NEXT_PART, 1)
        .set(RUN.VERSION, 0)
        .set(
            Map.of(
                RUN.PASSED,
                0,
                RUN.FAILED,
                0,
                RUN.ERRORED,
                0,
                RUN.SKIPPED,
                0,
                RUN.NOT_REACHED,
                0,
                RUN.RETRIED,
                0,
                RUN.DURATION_US,
                0L))
        .set(
            Map.of(
                RUN.NEW_FAILING,
                0,
                RUN.STILL_FAILING,
                0,
                RUN.FIXED,
                0,
                RUN.PASSED_ON_RETRY,
                0,
                RUN.ADDED,
                0,
                RUN.GONE,
                0))
        .onConflictDoNothing()
        .execute();
    return dsl.select(RUN.ID)
        .from(RUN)
        .where(
            RUN.PROJECT_ID.eq(request.projectId()),
            RUN.STREAM_ID.eq(streamId),
            RUN.RUN_KEY.eq(runKey))
        .fetchSingle(RUN.ID);
  }

  /** The receipt of an upload that is already there; null when it is not. */
  static @Nullable Receipt duplicate(
      DSLContext dsl, int projectId, long runId, String contentHash) {
    Record row =
        dsl.select(PART.asterisk(), RUN.asterisk(), STREAM.NAME)
            .from(PART)
            .join(RUN)
            .on(RUN.PROJECT_ID.eq(PART.PROJECT_ID), RUN.ID.eq(PART.RUN_ID))
            .join(STREAM)
            .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
            .where(
                PART.PROJECT_ID.eq(projectId),
                PART.RUN_ID.eq(runId),
                PART.CONTENT_HASH.eq(contentHash))
            .fetchOne();
    return row == null
        ? null
        : new Receipt(
            row.get(STREAM.NAME),
            row.get(RUN.NUMBER),
            true,
            row.get(RUN.IS_OPEN),
            RunRows.partCounts(row),
            RunRows.counts(row),
            RunRows.changes(row),
            List.of());
  }

  @Override
  public UploadWriter write(Reservation reservation) {
    return new PgUploadWriter(sql, reservation, background);
  }

  @Override
  public int closeSilentRuns(Instant since, Instant now) {
    int all = 0;
    int closed;
    do {
      closed = sql.transaction(dsl -> closeSome(dsl, since, now));
      all += closed;
    } while (closed == CLOSED_AT_ONCE);
    return all;
  }

  private static int closeSome(DSLContext dsl, Instant since, Instant now) {
    var silent =
        dsl.select(RUN.PROJECT_ID, RUN.ID)
            .from(RUN)
            .where(RUN.IS_OPEN.isTrue(), RUN.NUMBER.isNotNull(), RUN.CHANGED_AT.lt(Sql.utc(since)))
            .orderBy(RUN.ID)
            .limit(CLOSED_AT_ONCE)
            .forUpdate()
            .skipLocked()
            .fetch();
    for (var run : silent) {
      dsl.update(RUN)
          .set(RUN.IS_OPEN, DSL.inline(false))
          .set(RUN.CLOSED_AT, Sql.utc(now))
          .where(RUN.PROJECT_ID.eq(run.value1()), RUN.ID.eq(run.value2()))
          .execute();
      new RunChanges(dsl, run.value1()).recompute(run.value2());
    }
    return silent.size();
  }
}
