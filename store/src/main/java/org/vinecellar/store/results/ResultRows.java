package org.vinecellar.store.results;

import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executor;
import java.util.concurrent.Future;
import java.util.concurrent.FutureTask;
import org.jspecify.annotations.Nullable;
import org.postgresql.copy.CopyManager;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.blobs.Contents;
import org.vinecellar.store.sql.CopyBuffer;
import org.vinecellar.store.sql.Json;

/** Results, attempts and notes as rows on their way into the database. */
public final class ResultRows {
  /** Stands for the part in place of a result. */
  public static final int OF_PART = -1;

  private static final int MAX_LINE = 300;

  private final CopyManager copies;
  private final Reservation place;
  private final Contents contents;
  private final Executor background;
  private @Nullable Instant base;
  private Buffers filling = new Buffers();
  private Buffers sending = new Buffers();
  private @Nullable Future<?> underWay;

  /** Rows of the three tables. */
  private static final class Buffers {
    final CopyBuffer results =
        new CopyBuffer(
            "result_row (run_id, place, test_id, state, duration, started, first_line)", 7);
    final CopyBuffer attempts =
        new CopyBuffer(
            "attempt (run_id, place, attempt_no, outcome, duration_us, failure_type, message,"
                + " trace, more_failures, stdout, stderr, steps, logs)",
            13);
    final CopyBuffer notes =
        new CopyBuffer(
            "result_note (run_id, place, properties, source_file, source_line, tags)", 6);
    final CopyBuffer attachments =
        new CopyBuffer(
            "attachment (run_id, place, attempt_no, attachment_no, name, media_type, size_bytes,"
                + " blob_id)",
            8);

    void send(CopyManager copies) throws SQLException {
      results.send(copies);
      attempts.send(copies);
      notes.send(copies);
      attachments.send(copies);
    }
  }

  /**
   * @param base from where the times of the part's results are counted; null for the first of them
   */
  public ResultRows(
      CopyManager copies,
      Reservation place,
      @Nullable Instant base,
      Contents contents,
      Executor background) {
    this.copies = copies;
    this.contents = contents;
    this.background = background;
    this.place = place;
    this.base = base;
  }

  /** What waits to be sent, about. */
  public long waitingBytes() {
    return filling.attempts.size();
  }

  /** From where the times of the results are counted; null as long as none tells a time. */
  public @Nullable Instant base() {
    return base;
  }

  /**
   * Sends what waits while the caller gathers more; waits for the sending before it, so that two
   * batches are in memory at most.
   */
  public void send() throws SQLException {
    await();
    Buffers full = filling;
    filling = sending;
    sending = full;
    FutureTask<@Nullable Void> task =
        new FutureTask<>(
            () -> {
              full.send(copies);
              return null;
            });
    underWay = task;
    background.execute(task);
  }

  /** Waits until all is sent; the connection is free again then. */
  public void await() throws SQLException {
    Future<?> task = underWay;
    underWay = null;
    if (task == null) {
      return;
    }
    try {
      task.get();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof SQLException sql) {
        throw sql;
      }
      throw new IllegalStateException("a batch could not be sent", e.getCause());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new SQLException("interrupted while a batch was sent", e);
    }
  }

  /**
   * A result whose test has its number, without what {@link #details} takes.
   *
   * @param facts the version of the test's facts; 0 for none; {@link Dictionary#NO_VERSION}
   */
  public void result(int ordinal, long testId, int facts, TestResult result) {
    CopyBuffer rows = filling.results;
    key(rows, ordinal);
    rows.int4(Math.toIntExact(testId));
    rows.int4(
        Packed.state(
            result.outcome(),
            result.kind(),
            result.attempts().size(),
            Attempt.anyFailed(result.attempts()),
            Math.max(0, facts)));
    if (result.durationMicros() == TestResult.NO_DURATION) {
      rows.none();
    } else {
      rows.int4(Packed.duration(Math.max(0, result.durationMicros())));
    }
    rows.int4OrNone(started(result.started()));
    rows.text(line(result.attempts()));
    note(ordinal, facts == Dictionary.NO_VERSION ? Facts.of(result) : Facts.NONE, result);
  }

  private @Nullable Integer started(@Nullable Instant time) {
    if (time == null) {
      return null;
    }
    if (base == null) {
      base = time.truncatedTo(ChronoUnit.MILLIS);
    }
    return Packed.started(base, time);
  }

  private void note(int ordinal, Facts facts, TestResult result) {
    if (facts.isNothing() && result.properties().isEmpty()) {
      return;
    }
    CopyBuffer rows = filling.notes;
    key(rows, ordinal);
    rows.jsonb(result.properties().isEmpty() ? null : Json.text(result.properties()));
    rows.text(facts.file());
    rows.int4OrNone(facts.line() == 0 ? null : facts.line());
    rows.jsonb(facts.tags().isEmpty() ? null : Json.text(facts.tags()));
  }

  private static @Nullable String line(List<Attempt> attempts) {
    String line = null;
    for (Attempt attempt : attempts) {
      String own = attempt.firstLine();
      line = own == null ? line : own;
    }
    return line == null ? null : shortened(line);
  }

  /** As much of a line as a list shows. */
  public static String shortened(String line) {
    if (line.length() <= MAX_LINE) {
      return line;
    }
    int end = Character.isHighSurrogate(line.charAt(MAX_LINE - 1)) ? MAX_LINE - 1 : MAX_LINE;
    return line.substring(0, end) + "…";
  }

  /** What a result has to show. */
  public void details(int ordinal, TestResult result) throws SQLException {
    attempts(ordinal, 0, result.attempts());
  }

  /** Rows for attempts that have something to show, or that are one of several. */
  public void attempts(int ordinal, int firstNo, List<Attempt> all) throws SQLException {
    for (int i = 0; i < all.size(); i++) {
      Attempt attempt = all.get(i);
      if (attempt.hasDetail() || firstNo + i > 0 || all.size() > 1) {
        attempt(ordinal, firstNo + i, attempt);
        attachments(ordinal, firstNo + i, attempt.attachments());
      }
    }
  }

  private void attempt(int ordinal, int attemptNo, Attempt attempt) {
    List<Failure> failures = attempt.failures();
    Failure first = failures.isEmpty() ? new Failure(null, null, null) : failures.get(0);
    key(filling.attempts, ordinal);
    filling.attempts.int4(attemptNo);
    filling.attempts.int4(attempt.outcome().code());
    duration(filling.attempts, attempt.durationMicros());
    filling.attempts.text(first.type());
    filling.attempts.text(first.message());
    filling.attempts.text(first.trace());
    filling.attempts.jsonb(
        failures.size() < 2
            ? null
            : Json.text(failures.subList(1, failures.size()).stream().map(this::map).toList()));
    filling.attempts.text(attempt.stdout());
    filling.attempts.text(attempt.stderr());
    filling.attempts.jsonb(StepColumns.ofSteps(attempt.steps()));
    filling.attempts.jsonb(StepColumns.ofLogs(attempt.logs()));
  }

  /** Rows for attachments, whose contents are kept at once. */
  public void attachments(int ordinal, int attemptNo, List<Attachment> all) throws SQLException {
    for (int i = 0; i < all.size(); i++) {
      Attachment attachment = all.get(i);
      Contents.Kept kept = contents.keep(attachment);
      key(filling.attachments, ordinal);
      filling.attachments.int4(attemptNo);
      filling.attachments.int4(i);
      filling.attachments.text(attachment.name());
      filling.attachments.text(kept.mediaType());
      filling.attachments.int8(kept.bytes());
      filling.attachments.int8OrNone(kept.blobId());
    }
  }

  private Map<String, @Nullable String> map(Failure failure) {
    Map<String, @Nullable String> map = new LinkedHashMap<>();
    map.put("type", failure.type());
    map.put("message", failure.message());
    map.put("trace", failure.trace());
    return map;
  }

  private void key(CopyBuffer rows, int ordinal) {
    rows.row();
    rows.int4(Math.toIntExact(place.runId()));
    rows.int4(
        ordinal == OF_PART
            ? Packed.placeOfPart(place.partNo())
            : Packed.place(place.partNo(), ordinal));
  }

  private static void duration(CopyBuffer rows, long micros) {
    if (micros == TestResult.NO_DURATION) {
      rows.none();
    } else {
      rows.int8(micros);
    }
  }
}
