package org.vinecellar.store.ingest;

import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.Executor;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.attachments.AttachmentFiles;
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
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.sql.Sql;

/** One upload in one transaction: rows by COPY in batches, then what they add up to. */
final class PgUploadWriter implements UploadWriter {
  private static final Logger LOG = LoggerFactory.getLogger(PgUploadWriter.class);
  private static final int BATCH_ROWS = 4096;
  private static final int BATCH_BYTES = 8 << 20;
  private static final int MAX_UNCLAIMED = 1000;

  /** Stands for the part in place of a result. */
  private static final int OF_PART = -1;

  private final Reservation place;
  private final AttachmentFiles<SourceFile> attachments;
  private final Connection connection;
  private final Dictionary dictionary;
  private final ResultRows rows;
  private final RawFiles rawFiles;
  private final List<TestResult> pending = new ArrayList<>(BATCH_ROWS);
  private final List<TestId> pendingTests = new ArrayList<>(BATCH_ROWS);
  private final SuiteCounts suiteCounts = new SuiteCounts();
  private final Map<Integer, Restated> restated = new HashMap<>();
  private int nextOrdinal;
  private long durationMicros;
  private @Nullable Instant earliest;
  private @Nullable Instant latest;
  private boolean done;

  /** How a result that was written, or waits, has changed since. */
  private record Restated(
      SuitePath suite, Outcome outcome, int attempts, long moreMicros, @Nullable String line) {}

  PgUploadWriter(
      Sql sql,
      Reservation place,
      AttachmentFiles<SourceFile> attachments,
      long maxAttachmentBytes,
      Executor background) {
    this.place = place;
    this.attachments = attachments;
    this.connection = sql.connection();
    try {
      Connection apart = sql.connection();
      this.dictionary = new Dictionary(apart, place.projectId());
      Contents contents = new Contents(apart, place.projectId(), attachments, maxAttachmentBytes);
      connection.setAutoCommit(false);
      CopyManager copies = connection.unwrap(PGConnection.class).getCopyAPI();
      this.rows = new ResultRows(copies, place, contents, background);
      this.rawFiles = new RawFiles(copies, place.projectId());
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
    pendingTests.add(result.test());
    SuitePath suite = result.test().suite();
    suiteCounts.set(suite, suiteCounts.of(suite).plus(SuiteCounts.of(result)));
    durationMicros += Math.max(0, result.durationMicros());
    span(result);
    try {
      rows.details(ordinal, result);
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
    if (pending.size() == BATCH_ROWS || rows.waitingBytes() > BATCH_BYTES) {
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
    long more = Math.max(0, again.durationMicros());
    Restated before = restated.get(again.ordinal());
    restated.put(
        again.ordinal(),
        new Restated(
            again.test().suite(),
            again.standing(),
            again.firstAttempt() + again.attempts().size(),
            more + (before == null ? 0 : before.moreMicros()),
            line(again.attempts(), before)));
    durationMicros += more;
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
      long[] ids = dictionary.tests(pendingTests);
      for (int i = 0; i < ids.length; i++) {
        rows.result(nextOrdinal++, ids[i], pending.get(i));
      }
      rows.send();
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
    pending.clear();
    pendingTests.clear();
  }

  @Override
  public void keepRaw(List<? extends SourceFile> files) {
    try {
      rows.await();
      rawFiles.keep(Sql.on(connection), files);
    } catch (SQLException e) {
      throw Sql.translated(e);
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INTERNAL, "the files of the upload could not be kept: " + e, e);
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
      RunTotals totals = new RunTotals(dsl, dictionary, place);
      Receipt receipt =
          totals.add(
              new RunTotals.Addition(
                  request,
                  report,
                  suiteCounts,
                  nextOrdinal,
                  durationMicros,
                  earliest,
                  latest,
                  rawFiles.kept(),
                  now));
      if (receipt.duplicate()) {
        connection.rollback();
      } else {
        connection.commit();
      }
      done = true;
      return receipt;
    } catch (SQLException | org.jooq.exception.DataAccessException e) {
      throw Sql.translated(e);
    }
  }

  /** Files that no result claims belong to the part. */
  private void unclaimed() throws SQLException {
    List<Attachment> left = new ArrayList<>();
    attachments.unclaimed().keySet().stream()
        .sorted()
        .limit(MAX_UNCLAIMED)
        .forEach(path -> left.add(Attachment.at(path, path, null)));
    rows.attachments(OF_PART, 0, left);
  }

  /** Brings rows up to date that further attempts have changed, and the counts of their suites. */
  private void restate(DSLContext dsl) {
    if (restated.isEmpty()) {
      return;
    }
    Integer[] ordinals = restated.keySet().toArray(Integer[]::new);
    Short[] outcomes = new Short[ordinals.length];
    Short[] attempts = new Short[ordinals.length];
    Long[] micros = new Long[ordinals.length];
    String[] lines = new String[ordinals.length];
    for (int i = 0; i < ordinals.length; i++) {
      Restated now = Objects.requireNonNull(restated.get(ordinals[i]));
      outcomes[i] = (short) now.outcome().code();
      attempts[i] = (short) Math.min(now.attempts(), Short.MAX_VALUE);
      micros[i] = now.moreMicros();
      lines[i] = now.line();
    }
    var changed =
        dsl.fetch(
            "with n as (select * from unnest(?::int[], ?::smallint[], ?::smallint[], ?::bigint[],"
                + " ?::text[]) as n(ordinal, outcome, attempts, micros, line)),"
                + " old as (select r.ordinal, r.outcome, r.attempts from result r"
                + " join n on n.ordinal = r.ordinal where r.project_id = ? and r.run_id = ? and r.part_no = ?)"
                + " update result r set outcome = n.outcome, attempts = n.attempts,"
                + " duration_us = coalesce(r.duration_us, 0) + n.micros,"
                + " first_line = coalesce(n.line, r.first_line)"
                + " from n join old on old.ordinal = n.ordinal"
                + " where r.project_id = ? and r.run_id = ? and r.part_no = ?"
                + " and r.ordinal = n.ordinal"
                + " returning old.outcome, n.outcome, old.attempts, n.attempts, r.ordinal, r.kind",
            ordinals,
            outcomes,
            attempts,
            micros,
            lines,
            place.projectId(),
            place.runId(),
            place.partNo(),
            place.projectId(),
            place.runId(),
            place.partNo());
    for (var row : changed) {
      SuitePath suite = Objects.requireNonNull(restated.get(row.get(4, Integer.class))).suite();
      ResultKind kind = ResultKind.ofCode(row.get(5, Integer.class));
      Counts counts =
          suiteCounts
              .of(suite)
              .add(kind, Outcome.ofCode(row.get(0, Integer.class)), -1)
              .add(kind, Outcome.ofCode(row.get(1, Integer.class)), 1);
      boolean newlyRetried =
          kind == ResultKind.TEST
              && row.get(2, Integer.class) == 1
              && row.get(3, Integer.class) > 1;
      suiteCounts.set(suite, newlyRetried ? counts.addRetried(1) : counts);
    }
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
