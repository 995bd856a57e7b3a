package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.PART_FILE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.OtherRunException;
import org.vinecellar.core.ingest.PartTimes;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.RunChoice;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.ledger.RunOrder;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;

/**
 * The last step of an upload: under the lock of the run's ledger, the part becomes one of the
 * run's. Two uploads to one run do only this step one after the other. Locks are taken in the order
 * run, then stream.
 */
public final class PartArrival {
  private final DSLContext dsl;
  private final Reservation place;
  private final RunLedger ledger;
  private final Record run;
  private @Nullable String begins;

  /**
   * What an upload brings.
   *
   * @param suites that it has results in, and what it counted of them
   * @param base from where the times of its results are counted
   */
  record Addition(
      UploadRequest request,
      UploadReport report,
      Set<SuitePath> suites,
      RunLedger.Written written,
      int resultCount,
      @Nullable Instant base,
      @Nullable Instant earliest,
      @Nullable Instant latest,
      List<RawFile> rawFiles,
      Instant now) {

    /** With its times moved to where its sender says that they were. */
    Addition moved() {
      Instant at = request.when().at();
      if (at == null || base == null || earliest == null) {
        return this;
      }
      Duration by = Duration.between(earliest, at);
      return new Addition(
          request,
          report,
          suites,
          written,
          resultCount,
          base.plus(by),
          at,
          latest == null ? null : latest.plus(by),
          rawFiles,
          now);
    }
  }

  /** Waits until nobody else changes the run. */
  public PartArrival(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.place = place;
    RunLedger opened = RunLedger.open(dsl, place.projectId(), place.runId());
    if (opened == null || opened.run().get(RUN.DELETED_AT) != null) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "the run was deleted while this was on its way; nothing of it was kept. Send it again"
              + " to begin the run anew");
    }
    this.ledger = opened;
    this.run = opened.run();
  }

  /** A part that begins now, and that is provisional as long as it comes. */
  public Receipt addLive(UploadRequest request, Instant now) {
    require(request, null, now);
    Addition nothing =
        new Addition(
            request,
            new UploadReport(List.of(), Map.of(), Set.of(), Counts.NONE),
            Set.of(),
            new RunLedger.Written(Map.of(), Set.of(), Counts.NONE, 0),
            0,
            null,
            null,
            null,
            List.of(),
            now);
    insertPart(nothing, new PartTimes(null, null, null));
    dsl.update(PART)
        .set(PART.LIVE_BATCH, 0)
        .set(PART.LIVE_AT, Sql.utc(now))
        .where(
            PART.PROJECT_ID.eq(place.projectId()),
            PART.RUN_ID.eq(place.runId()),
            PART.PART_NO.eq(place.partNo()))
        .execute();
    int number = enter(nothing, null);
    RunLedger.Settled settled = ledger.set(RUN.CHANGED_AT, Sql.utc(now)).settle(now);
    String stream = StreamNames.of(dsl, place.projectId(), run.get(RUN.STREAM_ID));
    return new Receipt(
        stream,
        number,
        false,
        true,
        Counts.NONE,
        settled.counts(),
        ChangeCounts.NONE,
        List.of(),
        notice(request, stream, number));
  }

  Receipt add(Addition as) {
    Addition addition = as.moved();
    Integer replaced = addition.request().replacesPart();
    if (replaced != null) {
      ProvisionalPart.remove(dsl, ledger, place.projectId(), replaced);
    } else {
      require(addition.request(), addition.earliest(), addition.now());
    }
    Receipt duplicate =
        PgIngestStore.duplicate(dsl, place.projectId(), place.runId(), place.contentHash());
    if (duplicate != null) {
      return duplicate;
    }
    List<FileReport> files =
        replaced != null
            ? addition.report().files()
            : FilesOfBefore.find(dsl, place, addition.report(), addition.rawFiles())
                .check(addition.request())
                .files();
    boolean first = run.get(RUN.NUMBER) == null;
    PartTimes times =
        PartTimes.of(
            addition.earliest(),
            addition.latest(),
            first ? null : run.get(RUN.STARTED_AT).toInstant(),
            addition.request().when().sent(addition.now()),
            addition.now());
    insertPart(addition, times);
    insertFiles(files, addition.rawFiles(), times.problem());
    int number = enter(addition, times.started());
    Long previous = ledger.previous();
    RunLedger.Written written = addition.written();
    if (previous != null && new NotReached(dsl, place).add(previous, addition.resultCount())) {
      written = written.changedAll();
    }
    if (!first && new PartMerge(dsl, ledger, place).merge(addition.suites())) {
      ledger.elsewhere();
    }
    ledger.partCame(place.partNo(), written);
    RunLedger.Settled settled = ledger.settle(addition.now());
    String stream = StreamNames.of(dsl, place.projectId(), run.get(RUN.STREAM_ID));
    return new Receipt(
        stream,
        number,
        false,
        settled.open(),
        partCounts(),
        settled.counts(),
        settled.changes(),
        files,
        notice(addition.request(), stream, number));
  }

  /**
   * What is to be said of a stream that was renamed, and of a run that begins though another one
   * has its key.
   */
  private @Nullable String notice(UploadRequest request, String stream, int number) {
    String sent = request.target().stream();
    String renamed =
        sent.equals(stream) ? null : "“" + sent + "” is called “" + stream + "” now; name it so";
    String begun = begins == null ? null : "this begins run #" + number + ": " + begins;
    return renamed == null ? begun : begun == null ? renamed : renamed + "; " + begun;
  }

  /**
   * Now that it is known when the part began, whether it belongs to the run that was reserved.
   *
   * @throws OtherRunException when it does not
   */
  private void require(UploadRequest request, @Nullable Instant earliest, Instant now) {
    Instant began = PartTimes.believed(earliest, now);
    RunChoice.Coming part = RunChoice.Coming.unread(request, now).told(began);
    RunsOfKey runs = new RunsOfKey(dsl, place.projectId(), place.contentHash(), part);
    boolean fits;
    if (run.get(RUN.NUMBER) == null) {
      // A run that only begins is of whoever comes first, unless another is the better one; no
      // other of the stream begins meanwhile.
      dsl.select(STREAM.ID)
          .from(STREAM)
          .where(STREAM.PROJECT_ID.eq(place.projectId()), STREAM.ID.eq(run.get(RUN.STREAM_ID)))
          .forNoKeyUpdate()
          .fetch();
      RunChoice.Choice choice = RunChoice.of(runs.beside(place.runId()), part);
      fits = choice.run() == null;
      begins = choice.why();
    } else {
      RunChoice.Known here = runs.of(place.runId());
      fits = here != null && RunChoice.takes(here, part);
    }
    if (!fits) {
      throw new OtherRunException(began);
    }
  }

  private Counts partCounts() {
    return CountColumns.OF_PART.of(
        dsl.selectFrom(PART)
            .where(
                PART.PROJECT_ID.eq(place.projectId()),
                PART.RUN_ID.eq(place.runId()),
                PART.PART_NO.eq(place.partNo()))
            .fetchSingle());
  }

  private int nextNumber() {
    return dsl.update(STREAM)
            .set(STREAM.NEXT_RUN_NUMBER, STREAM.NEXT_RUN_NUMBER.plus(1))
            .set(STREAM.RUNS, STREAM.RUNS.plus(1))
            .where(STREAM.PROJECT_ID.eq(place.projectId()), STREAM.ID.eq(place.streamId()))
            .returningResult(STREAM.NEXT_RUN_NUMBER)
            .fetchSingle(STREAM.NEXT_RUN_NUMBER)
        - 1;
  }

  private void insertPart(Addition addition, PartTimes times) {
    UploadRequest request = addition.request();
    dsl.insertInto(PART)
        .set(PART.PROJECT_ID, place.projectId())
        .set(PART.RUN_ID, place.runId())
        .set(PART.PART_NO, place.partNo())
        .set(
            PART.NAME,
            Objects.requireNonNullElse(request.target().part().name(), "part " + place.partNo()))
        .set(PART.NAMED, request.target().part().name() != null)
        .set(PART.ATTEMPT, request.target().part().attempt())
        .set(PART.VARIANT, Json.of(request.target().part().variant().words()))
        .set(PART.CONTENT_HASH, place.contentHash())
        .set(PART.RECEIVED_AT, Sql.utc(addition.now()))
        .set(PART.STARTED_AT, Sql.utcOrNull(times.started()))
        .set(PART.ENDED_AT, Sql.utcOrNull(times.ended()))
        .set(PART.BROKEN_OFF, addition.report().brokenOff())
        .set(PART.JOB, request.job() == null ? null : Json.of(request.job()))
        .set(PART.BUILD_URL, request.origin().buildUrl())
        .set(PART.ENVIRONMENT, Json.of(addition.report().properties()))
        .set(PART.BASE_AT, Sql.utc(addition.base() == null ? addition.now() : addition.base()))
        .set(CountColumns.OF_PART.to(Counts.NONE))
        .set(PART.DURATION_US, 0L)
        .execute();
  }

  /**
   * @param problem of the part as a whole, told with its first file; null for none
   */
  private void insertFiles(
      List<FileReport> files, List<RawFile> rawFiles, @Nullable String problem) {
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
            PART_FILE.SIZE_PACKED,
            PART_FILE.CONTENT_KEY);
    var batch =
        dsl.batch(
            insert.values((Integer) null, null, null, null, null, null, null, null, null, null));
    for (int i = 0; i < files.size(); i++) {
      FileReport file = files.get(i);
      RawFile raw = rawFiles.get(i);
      batch =
          batch.bind(
              place.projectId(),
              place.runId(),
              place.partNo(),
              i,
              file.file(),
              file.format() == null ? "" : file.format(),
              Json.of(problems(file, i == 0 ? problem : null)),
              raw.kept().blob(),
              raw.kept().bytes(),
              raw.content());
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

  /** What the run is, beside what its results come to; returns its number. */
  private int enter(Addition addition, @Nullable Instant earliest) {
    UploadRequest request = addition.request();
    boolean first = run.get(RUN.NUMBER) == null;
    int number = first ? nextNumber() : run.get(RUN.NUMBER);
    Map<String, String> before = Json.map(run.get(RUN.LABELS));
    Map<String, String> labels = new HashMap<>(before);
    labels.putAll(request.labels());
    if (!labels.equals(before)) {
      RunLedger unused = ledger.labelsChanged();
    }
    Instant known = run.get(RUN.STARTED_AT).toInstant();
    Instant started =
        earliest == null ? known : first || earliest.isBefore(known) ? earliest : known;
    // A part that comes late does not open its run again.
    boolean closed = !first && !run.get(RUN.IS_OPEN);
    boolean open = closed ? ProvisionalPart.any(dsl, place) : waitsForMore(request);
    String branch = either(request.origin().branch(), run.get(RUN.BRANCH));
    boolean moved = first || !started.equals(known) || !Objects.equals(branch, run.get(RUN.BRANCH));
    if (moved) {
      RunOrder order = new RunOrder(dsl, place.projectId(), run.get(RUN.STREAM_ID));
      order.mainBranchTold(request.origin().mainBranch(), addition.now());
      RunOrder.Place here = new RunOrder.Place(place.runId(), number, started, branch);
      Long previous = order.before(here);
      order.around(here, previous, addition.now());
      ledger.set(RUN.PREVIOUS_ID, previous);
    }
    ledger
        .set(RUN.NUMBER, number)
        .set(RUN.IS_OPEN, open)
        .set(RUN.CLOSED_AT, open ? null : closed ? run.get(RUN.CLOSED_AT) : Sql.utc(addition.now()))
        .set(RUN.CLOSED_BY, open ? null : closed ? run.get(RUN.CLOSED_BY) : closedBy(request))
        .set(RUN.STARTED_AT, Sql.utc(started))
        .set(RUN.COMMIT_ID, either(request.origin().commit(), run.get(RUN.COMMIT_ID)))
        .set(RUN.BRANCH, branch)
        .set(RUN.BUILD_URL, either(run.get(RUN.BUILD_URL), request.origin().buildUrl()))
        .set(RUN.LABELS, Json.of(labels));
    return number;
  }

  private static String closedBy(UploadRequest request) {
    return request.target().runKey() == null ? "upload" : "parts";
  }

  private boolean waitsForMore(UploadRequest request) {
    Integer expected = request.expectParts();
    boolean more =
        request.target().runKey() != null
            && (expected == null
                || dsl.fetchCount(
                        PART,
                        PART.PROJECT_ID.eq(place.projectId()),
                        PART.RUN_ID.eq(place.runId()),
                        PART.LIVE_BATCH.isNull())
                    < expected);
    return more || ProvisionalPart.any(dsl, place);
  }

  private static @Nullable String either(@Nullable String first, @Nullable String second) {
    return first == null ? second : first;
  }
}
