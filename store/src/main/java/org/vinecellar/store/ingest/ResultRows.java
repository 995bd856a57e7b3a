package org.vinecellar.store.ingest;

import java.sql.SQLException;
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
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.StepJson;

/** Results, attempts and notes as rows on their way into the database. */
final class ResultRows {
  private static final int MAX_LINE = 300;

  private final CopyManager copies;
  private final Reservation place;
  private final Contents contents;
  private final Executor background;
  private Buffers filling = new Buffers();
  private Buffers sending = new Buffers();
  private @Nullable Future<?> underWay;

  /** Rows of the three tables. */
  private static final class Buffers {
    final CopyBuffer results =
        new CopyBuffer(
            "result (project_id, run_id, part_no, ordinal, test_id, outcome, kind, attempts,"
                + " superseded, duration_us, started_at, first_line)",
            12);
    final CopyBuffer attempts =
        new CopyBuffer(
            "attempt (project_id, run_id, part_no, ordinal, attempt_no, outcome, duration_us,"
                + " failure_type, message, trace, more_failures, stdout, stderr, steps, logs)",
            15);
    final CopyBuffer notes =
        new CopyBuffer(
            "result_note (project_id, run_id, part_no, ordinal, source_file, source_line,"
                + " properties, tags)",
            8);
    final CopyBuffer attachments =
        new CopyBuffer(
            "attachment (project_id, run_id, part_no, ordinal, attempt_no, attachment_no, name,"
                + " media_type, size_bytes, blob_id)",
            10);

    void send(CopyManager copies) throws SQLException {
      results.send(copies);
      attempts.send(copies);
      notes.send(copies);
      attachments.send(copies);
    }
  }

  ResultRows(CopyManager copies, Reservation place, Contents contents, Executor background) {
    this.copies = copies;
    this.contents = contents;
    this.background = background;
    this.place = place;
  }

  long waitingBytes() {
    return (long) filling.attempts.size() + filling.notes.size();
  }

  /**
   * Sends what waits while the caller gathers more; waits for the sending before it, so that two
   * batches are in memory at most.
   */
  void send() throws SQLException {
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
  void await() throws SQLException {
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

  void result(int ordinal, long testId, TestResult result) {
    key(filling.results, ordinal);
    filling.results.int8(testId);
    filling.results.int2(result.outcome().code());
    filling.results.int2(result.kind().code());
    filling.results.int2(Math.min(result.attempts().size(), Short.MAX_VALUE));
    filling.results.bool(false);
    duration(filling.results, result.durationMicros());
    filling.results.time(result.started());
    filling.results.text(line(result.attempts()));
  }

  private static @Nullable String line(List<Attempt> attempts) {
    String line = null;
    for (Attempt attempt : attempts) {
      String own = attempt.firstLine();
      line = own == null ? line : own;
    }
    return line == null ? null : shortened(line);
  }

  static String shortened(String line) {
    if (line.length() <= MAX_LINE) {
      return line;
    }
    int end = Character.isHighSurrogate(line.charAt(MAX_LINE - 1)) ? MAX_LINE - 1 : MAX_LINE;
    return line.substring(0, end) + "…";
  }

  void details(int ordinal, TestResult result) throws SQLException {
    attempts(ordinal, 0, result.attempts());
    if (result.file() == null && result.properties().isEmpty() && result.tags().isEmpty()) {
      return;
    }
    key(filling.notes, ordinal);
    filling.notes.text(result.file());
    if (result.line() > 0) {
      filling.notes.int4(result.line());
    } else {
      filling.notes.none();
    }
    filling.notes.jsonb(Json.text(result.properties()));
    filling.notes.jsonb(result.tags().isEmpty() ? null : Json.text(result.tags()));
  }

  /** Rows for attempts that have something to show, or that are one of several. */
  void attempts(int ordinal, int firstNo, List<Attempt> all) throws SQLException {
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
    filling.attempts.int2(Math.min(attemptNo, Short.MAX_VALUE));
    filling.attempts.int2(attempt.outcome().code());
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
    filling.attempts.jsonb(StepJson.steps(attempt.steps()));
    filling.attempts.jsonb(StepJson.logs(attempt.logs()));
  }

  /** Rows for attachments, whose contents are kept at once. */
  void attachments(int ordinal, int attemptNo, List<Attachment> all) throws SQLException {
    for (int i = 0; i < all.size(); i++) {
      Attachment attachment = all.get(i);
      Contents.Kept kept = contents.keep(attachment);
      key(filling.attachments, ordinal);
      filling.attachments.int2(Math.min(attemptNo, Short.MAX_VALUE));
      filling.attachments.int2(i);
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
    rows.int4(place.projectId());
    rows.int8(place.runId());
    rows.int4(place.partNo());
    rows.int4(ordinal);
  }

  private static void duration(CopyBuffer rows, long micros) {
    if (micros == TestResult.NO_DURATION) {
      rows.none();
    } else {
      rows.int8(micros);
    }
  }
}
