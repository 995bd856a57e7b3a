package org.vinecellar.store.ingest;

import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.postgresql.copy.CopyManager;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.sql.Json;

/** Results, attempts and notes as rows on their way into the database. */
final class ResultRows {
  private static final int MAX_LINE = 300;

  private final CopyManager copies;
  private final Reservation place;
  private final CopyBuffer results =
      new CopyBuffer(
          "result (project_id, run_id, part_no, ordinal, test_id, outcome, kind, attempts,"
              + " superseded, duration_us, started_at, first_line)",
          12);
  private final CopyBuffer attempts =
      new CopyBuffer(
          "attempt (project_id, run_id, part_no, ordinal, attempt_no, outcome, duration_us,"
              + " failure_type, message, trace, more_failures, stdout, stderr)",
          13);
  private final CopyBuffer notes =
      new CopyBuffer(
          "result_note (project_id, run_id, part_no, ordinal, source_file, source_line,"
              + " properties)",
          7);

  ResultRows(CopyManager copies, Reservation place) {
    this.copies = copies;
    this.place = place;
  }

  long waitingBytes() {
    return (long) attempts.size() + notes.size();
  }

  void send() throws SQLException {
    results.send(copies);
    attempts.send(copies);
    notes.send(copies);
  }

  void result(int ordinal, long testId, TestResult result) {
    key(results, ordinal);
    results.int8(testId);
    results.int2(result.outcome().code());
    results.int2(result.kind().code());
    results.int2(Math.min(result.attempts().size(), Short.MAX_VALUE));
    results.bool(false);
    duration(results, result.durationMicros());
    results.time(result.started());
    results.text(line(result.attempts()));
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

  void details(int ordinal, TestResult result) {
    attempts(ordinal, 0, result.attempts());
    if (result.file() == null && result.properties().isEmpty()) {
      return;
    }
    key(notes, ordinal);
    notes.text(result.file());
    if (result.line() > 0) {
      notes.int4(result.line());
    } else {
      notes.none();
    }
    notes.jsonb(Json.text(result.properties()));
  }

  /** Rows for attempts that have something to show, or that are one of several. */
  void attempts(int ordinal, int firstNo, List<Attempt> all) {
    for (int i = 0; i < all.size(); i++) {
      Attempt attempt = all.get(i);
      if (attempt.hasDetail() || firstNo + i > 0 || all.size() > 1) {
        attempt(ordinal, firstNo + i, attempt);
      }
    }
  }

  private void attempt(int ordinal, int attemptNo, Attempt attempt) {
    List<Failure> failures = attempt.failures();
    Failure first = failures.isEmpty() ? new Failure(null, null, null) : failures.get(0);
    key(attempts, ordinal);
    attempts.int2(Math.min(attemptNo, Short.MAX_VALUE));
    attempts.int2(attempt.outcome().code());
    duration(attempts, attempt.durationMicros());
    attempts.text(first.type());
    attempts.text(first.message());
    attempts.text(first.trace());
    attempts.jsonb(
        failures.size() < 2
            ? null
            : Json.text(failures.subList(1, failures.size()).stream().map(this::map).toList()));
    attempts.text(attempt.stdout());
    attempts.text(attempt.stderr());
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
