package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.PART_NUMBER;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.Executor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.RunChoice;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.ingest.UploadWriter;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Counts;
import org.vinecellar.store.blobs.BlobStore;
import org.vinecellar.store.blobs.UnusedContents;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.ledger.RunRows;
import org.vinecellar.store.results.Partitions;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;

/** Uploads in PostgreSQL. Thread-safe. */
public final class PgIngestStore implements IngestStore {
  /** Runs in one transaction, so that none holds locks for long. */
  private static final int CLOSED_AT_ONCE = 100;

  /**
   * As often as somebody may take away what is just being found, or be quicker: each time something
   * else went on.
   */
  private static final int TRIES = 100;

  /** What was reserved since then is not near to being dropped. */
  private static final Duration FRESH = Duration.ofHours(1);

  private final Sql sql;
  private final Sql uploads;
  private final BlobStore blobs;
  private final Executor background;
  private final Partitions partitions = new Partitions();
  private final long maxAttachmentBytes;

  /**
   * On that database.
   *
   * @param uploads connections for uploads alone
   * @param background runs one short task at a time for each upload that is under way
   * @param maxAttachmentBytes of one attachment; a larger one is named but not kept
   */
  public PgIngestStore(
      Sql sql, Sql uploads, BlobStore blobs, Executor background, long maxAttachmentBytes) {
    this.sql = sql;
    this.uploads = uploads;
    this.blobs = blobs;
    this.maxAttachmentBytes = maxAttachmentBytes;
    this.background = background;
  }

  @Override
  public Reservation reserve(
      UploadRequest request, String runKey, String contentHash, RunChoice.Coming part) {
    for (int tries = 1; ; tries++) {
      try {
        Reservation place =
            uploads.transaction(dsl -> reserved(dsl, request, runKey, contentHash, part));
        partitions.covered(place.runId());
        return place;
      } catch (RunGoneException e) {
        if (tries == TRIES) {
          throw new IllegalStateException("a run vanishes as often as it is found", e);
        }
      }
    }
  }

  private Reservation reserved(
      DSLContext dsl,
      UploadRequest request,
      String runKey,
      String contentHash,
      RunChoice.Coming part) {
    int projectId = request.target().projectId();
    Found found = run(dsl, request, runKey, contentHash, part);
    partitions.cover(dsl, found.run);
    // What may be of another night is read first.
    boolean sure = RunChoice.takes(found.known, part.told(null));
    Receipt known = sure ? duplicate(dsl, projectId, found.run, contentHash) : null;
    Integer live = request.replacesPart();
    if (known != null && live != null) {
      Reservation provisional =
          new Reservation(projectId, found.stream, found.run, live, contentHash, null);
      dropLive(dsl, request, provisional, part.arrived());
      known = duplicate(dsl, projectId, found.run, contentHash);
    }
    int partNo = known != null ? 0 : nextPart(dsl, projectId, found.run);
    if (known == null && !isThere(dsl, projectId, found.run)) {
      throw new RunGoneException();
    }
    return new Reservation(projectId, found.stream, found.run, partNo, contentHash, known);
  }

  /** The run that was found was taken away before a number of its own was taken in it. */
  private static final class RunGoneException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    RunGoneException() {
      super("the run was taken away meanwhile", null, false, false);
    }
  }

  private static boolean isThere(DSLContext dsl, int projectId, long runId) {
    return dsl.fetchExists(
        RUN, RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId), RUN.DELETED_AT.isNull());
  }

  private static int nextPart(DSLContext dsl, int projectId, long runId) {
    return dsl.insertInto(PART_NUMBER)
        .set(PART_NUMBER.PROJECT_ID, projectId)
        .set(PART_NUMBER.RUN_ID, runId)
        .set(PART_NUMBER.NEXT, 2)
        .onConflict(PART_NUMBER.RUN_ID)
        .doUpdate()
        .set(PART_NUMBER.NEXT, PART_NUMBER.NEXT.plus(1))
        .returningResult(PART_NUMBER.NEXT.minus(1))
        .fetchSingle(0, Integer.class);
  }

  /**
   * What was live turns out to be there already: its provisional part goes, nothing takes its
   * place.
   */
  private static void dropLive(
      DSLContext dsl, UploadRequest request, Reservation live, Instant now) {
    RunLedger ledger = RunLedger.open(dsl, live.projectId(), live.runId());
    if (ledger == null) {
      return;
    }
    ProvisionalPart.remove(dsl, ledger, live.projectId(), live.partNo());
    Integer expected = request.expectParts();
    boolean complete =
        expected != null
            && !ProvisionalPart.any(dsl, live)
            && dsl.fetchCount(
                    PART, PART.PROJECT_ID.eq(live.projectId()), PART.RUN_ID.eq(live.runId()))
                >= expected;
    if (complete) {
      ledger.close("parts", now);
    }
    RunLedger.Settled unused = ledger.settle(now);
  }

  /** Where a part goes. */
  private record Found(long run, long stream, RunChoice.Known known) {}

  /**
   * The run of that key that the part belongs to, which is not dropped meanwhile: one that is
   * there, or a new one.
   */
  private static Found run(
      DSLContext dsl,
      UploadRequest request,
      String runKey,
      String contentHash,
      RunChoice.Coming part) {
    int projectId = request.target().projectId();
    RunsOfKey runs = new RunsOfKey(dsl, projectId, contentHash, part);
    for (int tries = 0; tries < TRIES; tries++) {
      RunChoice.Choice choice = RunChoice.of(runs.of(request, runKey), part);
      RunChoice.Known known = choice.run();
      if (choice.refused() && part.known()) {
        throw new CellarException(ProblemCode.RUN_CLOSED, Objects.requireNonNull(choice.why()));
      }
      if (known == null) {
        long stream =
            StreamNames.heldOrNew(dsl, projectId, request.target().stream(), part.arrived());
        insertRun(dsl, request, stream, runKey, part);
      } else {
        Record kept = kept(dsl, projectId, known, part.arrived());
        if (kept != null) {
          return new Found(known.id(), kept.get(RUN.STREAM_ID), known);
        }
      }
    }
    throw new IllegalStateException("a run vanishes as often as it is made");
  }

  /**
   * A run that upkeep leaves alone, though it was reserved, perhaps long ago; null if it is gone.
   */
  private static @Nullable Record kept(
      DSLContext dsl, int projectId, RunChoice.Known run, Instant now) {
    Record row =
        dsl.select(RUN.STREAM_ID, RUN.NUMBER, RUN.CHANGED_AT)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(run.id()))
            .fetchOne();
    if (row == null
        || row.get(RUN.NUMBER) != null
        || row.get(RUN.CHANGED_AT).toInstant().isAfter(now.minus(FRESH))) {
      return row;
    }
    boolean there =
        dsl.update(RUN)
                .set(RUN.CHANGED_AT, Sql.utc(now))
                .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(run.id()))
                .execute()
            > 0;
    return there ? row : null;
  }

  private static void insertRun(
      DSLContext dsl, UploadRequest request, long streamId, String runKey, RunChoice.Coming part) {
    int projectId = request.target().projectId();
    OffsetDateTime now = Sql.utc(part.arrived());
    Integer round =
        dsl.select(DSL.coalesce(DSL.max(RUN.KEY_ROUND), 0).plus(1))
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(streamId), RUN.RUN_KEY.eq(runKey))
            .fetchSingle(0, Integer.class);
    dsl.insertInto(RUN)
        .set(RUN.PROJECT_ID, projectId)
        .set(RUN.STREAM_ID, streamId)
        .set(RUN.RUN_KEY, runKey)
        .set(RUN.KEY_ROUND, round)
        .set(RUN.IS_OPEN, true)
        .set(RUN.CREATED_AT, now)
        .set(RUN.STARTED_AT, Sql.utc(part.when()))
        .set(RUN.CHANGED_AT, now)
        .set(RUN.LABELS, Json.of(Map.of()))
        .set(RUN.VERSION, 0)
        .set(CountColumns.OF_RUN.to(Counts.NONE))
        .set(RUN.DURATION_US, 0L)
        .set(RunRows.ofChanges(ChangeCounts.NONE))
        .onConflictDoNothing()
        .execute();
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
            CountColumns.OF_PART.of(row),
            CountColumns.OF_RUN.of(row),
            RunRows.changes(row),
            List.of(),
            null);
  }

  @Override
  public UploadWriter write(Reservation reservation, AttachmentFiles<SourceFile> attachments) {
    return new PgUploadWriter(
        uploads, blobs, reservation, attachments, maxAttachmentBytes, background);
  }

  @Override
  public int closeSilentRuns(Duration usual, Instant now) {
    int all = 0;
    int closed;
    do {
      closed = sql.transaction(dsl -> closeSome(dsl, usual, now));
      all += closed;
    } while (closed == CLOSED_AT_ONCE);
    return all;
  }

  private static int closeSome(DSLContext dsl, Duration usual, Instant now) {
    var silent =
        dsl.fetch(
            "select r.project_id, r.id from run r"
                + " join stream s on s.project_id = r.project_id and s.id = r.stream_id"
                + " where r.is_open and r.number is not null"
                + " and r.changed_at < cast(? as timestamptz)"
                + " - make_interval(secs => coalesce(s.silence_seconds, ?))"
                + " order by r.id limit ? for update of r skip locked",
            Sql.utc(now),
            usual.toSeconds(),
            CLOSED_AT_ONCE);
    for (var run : silent) {
      close(dsl, run.get(0, Integer.class), run.get(1, Long.class), "silence", now);
    }
    return silent.size();
  }

  /** False when it was closed already. */
  private static boolean close(
      DSLContext dsl, int projectId, long runId, String closedBy, Instant now) {
    RunLedger ledger = RunLedger.open(dsl, projectId, runId);
    if (ledger == null || !ledger.run().get(RUN.IS_OPEN)) {
      return false;
    }
    ledger.close(closedBy, now);
    RunLedger.Settled unused = ledger.settle(now);
    return true;
  }

  @Override
  public boolean close(int projectId, long runId, Instant now) {
    return sql.transaction(dsl -> close(dsl, projectId, runId, "hand", now));
  }

  @Override
  public Optional<Long> runOf(int projectId, String stream, String runKey) {
    return sql.with(
        dsl ->
            dsl.select(RUN.ID)
                .from(RUN)
                .join(STREAM)
                .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
                .where(
                    RUN.PROJECT_ID.eq(projectId),
                    StreamNames.is(projectId, stream),
                    RUN.RUN_KEY.eq("key:" + runKey),
                    RUN.NUMBER.isNotNull())
                .orderBy(RUN.KEY_ROUND.desc())
                .limit(1)
                .fetchOptional(RUN.ID));
  }

  @Override
  public int dropUnusedContents(Instant before) {
    return new UnusedContents(sql, blobs).drop(before);
  }

  @Override
  public int countRuns() {
    List<String> tables = sql.with(Partitions::uncounted);
    for (String table : tables) {
      int unused =
          sql.transaction(
              dsl -> {
                Partitions.count(dsl, table);
                return 1;
              });
    }
    return tables.size();
  }

  @Override
  public int dropReservedRuns(Instant before) {
    return sql.transaction(
        dsl -> {
          int runs =
              dsl.fetch(
                      "with gone as (delete from run r where r.number is null"
                          + " and r.deleted_at is null and r.changed_at < cast(? as timestamptz)"
                          + " returning r.id), numbers as (delete from part_number n using gone g"
                          + " where n.run_id = g.id) select id from gone",
                      Sql.utc(before))
                  .size();
          // Locked first: who is about to make a run in a stream of before is waited for, and seen.
          List<Long> idle =
              dsl.fetch(
                      "select s.id from stream s where s.next_run_number = 1"
                          + " and s.deleted_at is null and s.created_at < cast(? as timestamptz)"
                          + " and not exists (select 1 from run r where r.project_id = s.project_id"
                          + " and r.stream_id = s.id) for update",
                      Sql.utc(before))
                  .getValues(0, Long.class);
          dsl.execute(
              "delete from stream s where s.id = any(?)"
                  + " and not exists (select 1 from run r where r.project_id = s.project_id"
                  + " and r.stream_id = s.id)",
              Ids.of(idle));
          return runs;
        });
  }
}
