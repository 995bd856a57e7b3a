package org.vinecellar.store.ingest;

import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.ingest.UploadWriter;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.blobs.BlobStore;
import org.vinecellar.store.blobs.Contents;
import org.vinecellar.store.blobs.KeptContents;
import org.vinecellar.store.blobs.RawFiles;
import org.vinecellar.store.bundles.BundleRows;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.ledger.SuiteCounts;
import org.vinecellar.store.results.Dictionary;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.results.ResultRows;
import org.vinecellar.store.sql.Sql;

/** One upload in one transaction: rows by COPY in batches, then what they add up to. */
final class PgUploadWriter implements UploadWriter {
  private static final Logger LOG = LoggerFactory.getLogger(PgUploadWriter.class);
  private static final int BATCH_ROWS = 4096;
  private static final int BATCH_BYTES = 8 << 20;
  private static final int MAX_UNCLAIMED = 1000;

  private final Reservation place;
  private final AttachmentFiles<SourceFile> attachments;
  private final Connection connection;

  private final Dictionary dictionary;
  private final KeptContents keptContents;
  private final ResultRows rows;
  private final List<TestResult> pending = new ArrayList<>(BATCH_ROWS);
  private final SuiteCounts counts = new SuiteCounts();
  private final Set<SuitePath> changed = new HashSet<>();
  private final Map<Integer, Restated> restated = new HashMap<>();
  private int nextOrdinal;
  private long pendingBytes;
  private long micros;
  private @Nullable Instant earliest;
  private @Nullable Instant latest;
  private @Nullable NewBundle bundle;
  private Map<String, Long> bundleBlobs = Map.of();
  private List<RawFile> rawFiles = List.of();
  private boolean done;

  /** How a result that was written, or waits, has changed since. */
  private record Restated(
      Outcome outcome, int attempts, boolean stumbled, long moreMicros, @Nullable String line) {}

  PgUploadWriter(
      Sql sql,
      BlobStore blobs,
      Reservation place,
      AttachmentFiles<SourceFile> attachments,
      long maxAttachmentBytes,
      Executor background) {
    this.place = place;
    this.attachments = attachments;
    this.connection = sql.connection();
    try {
      // For what must not wait for other uploads' ends: names and contents. Commits by itself.
      Connection apart = sql.connection();
      this.dictionary = new Dictionary(apart, place.projectId());
      this.keptContents = new KeptContents(blobs, apart, place.projectId());
      Contents contents = new Contents(keptContents, attachments, maxAttachmentBytes);
      connection.setAutoCommit(false);
      CopyManager copies = connection.unwrap(PGConnection.class).getCopyAPI();
      this.rows = new ResultRows(copies, place, null, contents, background);
    } catch (SQLException e) {
      try (connection) {
        throw Sql.translated(e);
      } catch (SQLException closing) {
        e.addSuppressed(closing);
        throw Sql.translated(e);
      }
    }
  }

  @Override
  public void first(int ordinal, TestResult result) {
    pending.add(result);
    SuitePath suite = result.test().suite();
    counts.set(suite, counts.of(suite).plus(SuiteCounts.of(result)));
    micros += Packed.kept(result.durationMicros());
    result.properties().forEach((key, value) -> pendingBytes += key.length() + value.length());
    span(result);
    try {
      rows.details(ordinal, result);
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
    if (pending.size() == BATCH_ROWS || rows.waitingBytes() + pendingBytes > BATCH_BYTES) {
      flush();
    }
  }

  /** From the first result's start to the last one's end. */
  private void span(TestResult result) {
    Instant started = result.started();
    if (started == null) {
      return;
    }
    if (earliest == null || started.isBefore(earliest)) {
      earliest = started;
    }
    Instant ended = started.plus(Math.max(0, result.durationMicros()), ChronoUnit.MICROS);
    if (latest == null || ended.isAfter(latest)) {
      latest = ended;
    }
  }

  @Override
  public void again(Again again) {
    try {
      rows.attempts(again.ordinal(), again.firstAttempt(), again.attempts());
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
    changed.add(again.test().suite());
    long more = Math.max(0, again.durationMicros());
    Restated before = restated.get(again.ordinal());
    restated.put(
        again.ordinal(),
        new Restated(
            again.standing(),
            again.firstAttempt() + again.attempts().size(),
            Attempt.anyFailed(again.attempts()) || (before != null && before.stumbled()),
            more + (before == null ? 0 : before.moreMicros()),
            line(again.attempts(), before)));
    if (rows.waitingBytes() > BATCH_BYTES) {
      flush();
    }
  }

  /** What the latest attempt that went wrong said. */
  private static @Nullable String line(List<Attempt> attempts, @Nullable Restated before) {
    for (int i = attempts.size() - 1; i >= 0; i--) {
      String line = attempts.get(i).firstLine();
      if (line != null) {
        return ResultRows.shortened(line);
      }
    }
    return before == null ? null : before.line();
  }

  private void flush() {
    try {
      Dictionary.Known known = dictionary.tests(pending);
      for (int i = 0; i < pending.size(); i++) {
        rows.result(nextOrdinal++, known.ids()[i], known.facts()[i], pending.get(i));
      }
      rows.send();
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
    pending.clear();
    pendingBytes = 0;
  }

  @Override
  public void keepRaw(List<? extends SourceFile> files, List<String> contents) {
    try {
      rawFiles = RawFile.of(RawFiles.keep(files, keptContents), contents);
    } catch (SQLException e) {
      throw Sql.translated(e);
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INTERNAL, "the files of the upload could not be kept: " + e, e);
    }
  }

  @Override
  public void keepBundle(NewBundle comes) {
    try {
      bundleBlobs = BundleRows.keep(comes, keptContents);
      bundle = comes;
    } catch (SQLException e) {
      throw Sql.translated(e);
    } catch (IOException e) {
      throw new CellarException(ProblemCode.INTERNAL, "the bundle could not be kept: " + e, e);
    }
  }

  @Override
  public Receipt commit(UploadRequest request, UploadReport report, Instant now) {
    try {
      unclaimed();
      flush();
      rows.await();
      DSLContext dsl = Sql.on(connection);
      restate(dsl);
      Receipt receipt =
          new PartArrival(dsl, place)
              .add(
                  new PartArrival.Addition(
                      request,
                      report,
                      counts.suites(),
                      written(),
                      nextOrdinal,
                      rows.base(),
                      earliest,
                      latest,
                      rawFiles,
                      now));
      if (receipt.duplicate()) {
        connection.rollback();
      } else {
        if (bundle != null) {
          BundleRows.enter(dsl, place.projectId(), place.runId(), bundle, bundleBlobs, now);
        }
        connection.commit();
      }
      done = true;
      return receipt;
    } catch (SQLException | org.jooq.exception.DataAccessException e) {
      throw Sql.translated(e);
    }
  }

  private RunLedger.Written written() {
    Map<Long, Counts> suites = new HashMap<>();
    for (SuitePath suite : counts.suites()) {
      suites.put(number(suite), counts.of(suite));
    }
    return new RunLedger.Written(
        suites,
        changed.stream().map(this::number).collect(Collectors.toSet()),
        counts.total(),
        micros);
  }

  private long number(SuitePath suite) {
    Long number = dictionary.suite(suite);
    return number == null ? 0 : number;
  }

  /** Files that no result claims belong to the part. */
  private void unclaimed() throws SQLException {
    List<Attachment> left = new ArrayList<>();
    attachments.unclaimed().keySet().stream()
        .sorted()
        .limit(MAX_UNCLAIMED)
        .forEach(path -> left.add(Attachment.at(path, path, null)));
    rows.attachments(ResultRows.OF_PART, 0, left);
  }

  /** Brings rows up to date that further attempts have changed. */
  private void restate(DSLContext dsl) {
    if (restated.isEmpty()) {
      return;
    }
    int n = restated.size();
    Integer[] places = new Integer[n];
    Integer[] states = new Integer[n];
    Long[] micros = new Long[n];
    String[] lines = new String[n];
    int i = 0;
    for (Map.Entry<Integer, Restated> entry : restated.entrySet()) {
      Restated now = entry.getValue();
      places[i] = Packed.place(place.partNo(), entry.getKey());
      states[i] = Packed.state(now.outcome(), ResultKind.TEST, now.attempts(), now.stumbled(), 0);
      micros[i] = now.moreMicros();
      lines[i++] = now.line();
    }
    // What stays of the state is its kind and the version of its facts.
    dsl.execute(
        "update result_row r set state = n.state | (r.state & cast(? as int)),"
            + " duration = case when n.micros <= 2147483647 then n.micros"
            + " else -least(n.micros / 1000, 2147483647) end,"
            + " first_line = coalesce(n.line, r.first_line)"
            + " from (select k.place, k.state, k.line,"
            + " coalesce(o.duration_us, 0) + k.micros as micros"
            + " from unnest(?::int[], ?::int[], ?::bigint[], ?::text[])"
            + " as k(place, state, micros, line) join result o on o.run_id = ? and o.place = k.place) n"
            + " where r.run_id = ? and r.place = n.place",
        Packed.KEPT_BY_TRIES,
        places,
        states,
        micros,
        lines,
        place.runId(),
        place.runId());
  }

  /** A batch may still be under way when the reading failed; how it ends does not matter now. */
  private void settle() {
    try {
      rows.await();
    } catch (SQLException e) {
      LOG.debug("a batch of an upload that is taken back failed too", e);
    }
  }

  @Override
  public void close() {
    try (dictionary;
        connection) {
      if (!done) {
        settle();
        connection.rollback();
      }
      connection.setAutoCommit(true);
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
  }
}
