package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.PART_FILE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.PartTimes;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Counts;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/**
 * The last step of an upload: under the lock of the run's row, what its results add to the run. Two
 * uploads to one run do only this step one after the other. Locks are taken in the order run,
 * stream or next run, and runs by rising number, so that no two wait for each other.
 */
final class RunTotals {
  private final DSLContext dsl;
  private final @Nullable Dictionary dictionary;
  private final Reservation place;

  /** What an upload brings. */
  record Addition(
      UploadRequest request,
      UploadReport report,
      SuiteCounts suites,
      int resultCount,
      long durationMicros,
      @Nullable Instant earliest,
      @Nullable Instant latest,
      List<RawFiles.Kept> rawFiles,
      Instant now) {}

  RunTotals(DSLContext dsl, Dictionary dictionary, Reservation place) {
    this.dsl = dsl;
    this.dictionary = dictionary;
    this.place = place;
  }

  /** For a part that begins without any result. */
  RunTotals(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.dictionary = null;
    this.place = place;
  }

  /** A part that begins now, and that is provisional as long as it comes. */
  Receipt addLive(UploadRequest request, Instant now) {
    Record run = lockRun();
    boolean first = run.get(RUN.NUMBER) == null;
    int number = first ? nextNumber() : run.get(RUN.NUMBER);
    Long previous = first ? previousOf(run, number) : run.get(RUN.PREVIOUS_ID);
    Addition nothing =
        new Addition(
            request, PgLiveStore.nothingYet(), new SuiteCounts(), 0, 0, null, null, List.of(), now);
    insertPart(nothing, Counts.NONE, new PartTimes(null, null, null));
    dsl.update(PART)
        .set(PART.LIVE_BATCH, 0)
        .where(
            PART.PROJECT_ID.eq(place.projectId()),
            PART.RUN_ID.eq(place.runId()),
            PART.PART_NO.eq(place.partNo()))
        .execute();
    updateRun(run, nothing, number, previous, Counts.NONE, null);
    dsl.execute("select pg_notify('vine_run', ?)", place.projectId() + "/" + place.runId());
    return new Receipt(
        request.stream(),
        number,
        false,
        true,
        Counts.NONE,
        RunRows.counts(run),
        ChangeCounts.NONE,
        List.of());
  }

  Receipt add(Addition addition) throws SQLException {
    Record run = lockRun();
    Integer replaced = addition.request().replacesPart();
    if (replaced != null) {
      new LiveRows(dsl, place).remove(replaced);
      run = lockRun();
    }
    Receipt duplicate =
        PgIngestStore.duplicate(dsl, place.projectId(), place.runId(), place.contentHash());
    if (duplicate != null) {
      return duplicate;
    }
    boolean first = run.get(RUN.NUMBER) == null;
    int number = first ? nextNumber() : run.get(RUN.NUMBER);
    Long previous = first ? previousOf(run, number) : run.get(RUN.PREVIOUS_ID);
    if (previous != null) {
      new NotReached(dsl, place).add(previous, addition.resultCount(), addition.suites());
    }
    Counts partCounts = addition.suites().total();
    boolean elsewhere = !first && new PartMerge(dsl, place).merge(addition.suites());
    Counts added = addition.suites().total();
    PartTimes times =
        PartTimes.of(
            addition.earliest(),
            addition.latest(),
            first ? null : run.get(RUN.STARTED_AT).toInstant(),
            addition.now());
    insertPart(addition, partCounts, times);
    new SuiteRows(dsl, place).add(Objects.requireNonNull(dictionary), addition.suites());
    updateRun(run, addition, number, previous, added, times.started());
    boolean open = waitsForMore(addition.request());
    // Of a run that was open and still is, a part changes nothing but what its own tests did.
    boolean alone = !first && !elsewhere && replaced == null && run.get(RUN.IS_OPEN) && open;
    RunChanges runChanges = new RunChanges(dsl, place.projectId());
    ChangeCounts changes =
        alone
            ? runChanges.addPart(place.runId(), place.partNo())
            : runChanges.recompute(place.runId());
    dsl.execute("select pg_notify('vine_run', ?)", place.projectId() + "/" + place.runId());
    return new Receipt(
        addition.request().stream(),
        number,
        false,
        open,
        partCounts,
        RunRows.counts(run).plus(added),
        changes,
        addition.report().files());
  }

  private Record lockRun() {
    return dsl.selectFrom(RUN)
        .where(RUN.PROJECT_ID.eq(place.projectId()), RUN.ID.eq(place.runId()))
        .forUpdate()
        .fetchSingle();
  }

  private int nextNumber() {
    return dsl.update(STREAM)
            .set(STREAM.NEXT_RUN_NUMBER, STREAM.NEXT_RUN_NUMBER.plus(1))
            .where(STREAM.PROJECT_ID.eq(place.projectId()), STREAM.ID.eq(place.streamId()))
            .returningResult(STREAM.NEXT_RUN_NUMBER)
            .fetchSingle(STREAM.NEXT_RUN_NUMBER)
        - 1;
  }

  private @Nullable Long previousOf(Record run, int number) {
    return dsl.select(RUN.ID)
        .from(RUN)
        .where(
            RUN.PROJECT_ID.eq(place.projectId()),
            RUN.STREAM_ID.eq(run.get(RUN.STREAM_ID)),
            RUN.NUMBER.lt(number))
        .orderBy(RUN.NUMBER.desc())
        .limit(1)
        .fetchOne(RUN.ID);
  }

  private void insertPart(Addition addition, Counts counts, PartTimes times) {
    UploadRequest request = addition.request();
    dsl.insertInto(PART)
        .set(PART.PROJECT_ID, place.projectId())
        .set(PART.RUN_ID, place.runId())
        .set(PART.PART_NO, place.partNo())
        .set(PART.NAME, request.part() == null ? "part " + place.partNo() : request.part())
        .set(PART.CONTENT_HASH, place.contentHash())
        .set(PART.RECEIVED_AT, Sql.utc(addition.now()))
        .set(PART.STARTED_AT, Sql.utcOrNull(times.started()))
        .set(PART.ENDED_AT, Sql.utcOrNull(times.ended()))
        .set(PART.BROKEN_OFF, addition.report().brokenOff())
        .set(PART.BUILD_URL, request.buildUrl())
        .set(PART.ENVIRONMENT, Json.of(addition.report().properties()))
        .set(RunRows.ofPart(counts))
        .set(PART.DURATION_US, addition.durationMicros())
        .execute();
    insertFiles(addition, times.problem());
  }

  /**
   * @param problem of the part as a whole, told with its first file; null for none
   */
  private void insertFiles(Addition addition, @Nullable String problem) {
    List<FileReport> files = addition.report().files();
    var insert =
        dsl.insertInto(
            PART_FILE,
            PART_FILE.PROJECT_ID,
            PART_FILE.RUN_ID,
            PART_FILE.PART_NO,
            PART_FILE.FILE_NO,
            PART_FILE.NAME,
            PART_FILE.FORMAT,
            PART_FILE.PROBLEMS,
            PART_FILE.BLOB_ID,
            PART_FILE.SIZE_PACKED);
    var batch =
        dsl.batch(insert.values((Integer) null, null, null, null, null, null, null, null, null));
    for (int i = 0; i < files.size(); i++) {
      FileReport file = files.get(i);
      RawFiles.Kept kept = addition.rawFiles().get(i);
      batch =
          batch.bind(
              place.projectId(),
              place.runId(),
              place.partNo(),
              i,
              file.file(),
              file.format() == null ? "" : file.format(),
              Json.of(problems(file, i == 0 ? problem : null)),
              kept.blobId(),
              kept.packedBytes());
    }
    if (!files.isEmpty()) {
      batch.execute();
    }
  }

  private static List<String> problems(FileReport file, @Nullable String more) {
    if (more == null) {
      return file.problems();
    }
    List<String> all = new ArrayList<>(file.problems());
    all.add(more);
    return all;
  }

  private void updateRun(
      Record run,
      Addition addition,
      int number,
      @Nullable Long previous,
      Counts added,
      @Nullable Instant earliest) {
    UploadRequest request = addition.request();
    Map<String, String> labels = new HashMap<>(Json.map(run.get(RUN.LABELS)));
    labels.putAll(request.labels());
    boolean first = run.get(RUN.NUMBER) == null;
    Instant known = run.get(RUN.STARTED_AT).toInstant();
    Instant started =
        earliest == null ? known : first || earliest.isBefore(known) ? earliest : known;
    boolean open = waitsForMore(request);
    Counts counts = RunRows.counts(run).plus(added);
    dsl.update(RUN)
        .set(RUN.NUMBER, number)
        .set(RUN.VERSION, RUN.VERSION.plus(1))
        .set(RUN.PREVIOUS_ID, previous)
        .set(RUN.IS_OPEN, open)
        .set(RUN.CLOSED_AT, open ? null : Sql.utc(addition.now()))
        .set(RUN.CLOSED_BY, open ? null : request.runKey() == null ? "upload" : "parts")
        .set(RUN.CHANGED_AT, Sql.utc(addition.now()))
        .set(RUN.STARTED_AT, Sql.utc(started))
        .set(RUN.COMMIT_ID, either(request.commit(), run.get(RUN.COMMIT_ID)))
        .set(RUN.BRANCH, either(request.branch(), run.get(RUN.BRANCH)))
        .set(RUN.BUILD_URL, either(run.get(RUN.BUILD_URL), request.buildUrl()))
        .set(RUN.LABELS, Json.of(labels))
        .set(RunRows.ofRun(counts))
        .set(RUN.DURATION_US, run.get(RUN.DURATION_US) + addition.durationMicros())
        .where(RUN.PROJECT_ID.eq(place.projectId()), RUN.ID.eq(place.runId()))
        .execute();
  }

  private boolean waitsForMore(UploadRequest request) {
    Integer expected = request.expectParts();
    boolean more =
        request.runKey() != null
            && (expected == null
                || dsl.fetchCount(
                        PART,
                        PART.PROJECT_ID.eq(place.projectId()),
                        PART.RUN_ID.eq(place.runId()),
                        PART.LIVE_BATCH.isNull())
                    < expected);
    return more || new LiveRows(dsl, place).any();
  }

  private static @Nullable String either(@Nullable String first, @Nullable String second) {
    return first == null ? second : first;
  }
}
