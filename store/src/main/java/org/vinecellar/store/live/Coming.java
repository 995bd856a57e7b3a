package org.vinecellar.store.live;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT_ROW;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;
import org.vinecellar.store.blobs.Contents;
import org.vinecellar.store.ingest.PartMerge;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.ledger.SuiteCounts;
import org.vinecellar.store.results.Dictionary;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.results.ResultRows;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** A part that comes, under the lock of its run. Each test and failed set-up of it has one row. */
final class Coming {
  /** Says that the part was broken off, where nothing else of it is red. */
  private static final TestResult NO_SIGN =
      FailedSetUp.ofJob(
          "the tests gave no sign of life any more; what came until then passed", null);

  private final Connection connection;
  private final DSLContext dsl;
  private final Dictionary dictionary;
  private final RunLedger ledger;
  private final Reservation place;
  private final Record part;
  private final Condition isPart;
  private final SuiteCounts suites = new SuiteCounts();
  private long micros;
  private @Nullable Instant earliest;
  private @Nullable Instant latest;

  private Coming(
      Connection connection,
      Dictionary dictionary,
      RunLedger ledger,
      Reservation place,
      Record part,
      Condition isPart) {
    this.connection = connection;
    this.dsl = Sql.on(connection);
    this.dictionary = dictionary;
    this.ledger = ledger;
    this.place = place;
    this.part = part;
    this.isPart = isPart;
  }

  /** Null when there is no such part, or it comes no more. */
  static @Nullable Coming of(
      Connection connection, Dictionary dictionary, RunLedger ledger, Reservation place) {
    Condition isPart =
        PART.PROJECT_ID
            .eq(place.projectId())
            .and(PART.RUN_ID.eq(place.runId()))
            .and(PART.PART_NO.eq(place.partNo()));
    Record part =
        Sql.on(connection).selectFrom(PART).where(isPart, PART.LIVE_BATCH.isNotNull()).fetchOne();
    return part == null ? null : new Coming(connection, dictionary, ledger, place, part, isPart);
  }

  /** The last batch that was taken in. */
  int batch() {
    return part.get(PART.LIVE_BATCH);
  }

  /** Adds the next batch. A part that was broken off is not, after all. */
  void append(List<TestResult> results, @Nullable JSONB running, Instant now) throws SQLException {
    int rows = rows() - (part.get(PART.BROKEN_OFF) ? takeBack() : 0);
    add(results, rows);
    dsl.update(PART)
        .set(PART.LIVE_BATCH, batch() + 1)
        .set(PART.LIVE_AT, Sql.utc(now))
        .set(PART.BROKEN_OFF, false)
        .set(PART.RUNNING, running)
        .set(PART.STARTED_AT, earlier(part.get(PART.STARTED_AT), earliest))
        .set(PART.ENDED_AT, latest == null ? part.get(PART.ENDED_AT) : Sql.utc(latest))
        .where(isPart)
        .execute();
    RunLedger.Settled unused = ledger.settle(now);
  }

  /**
   * Breaks it off, unless there was a sign of it meanwhile. What ran then has no result.
   *
   * @param sign the last one, as it was when this was decided
   */
  void breakOff(@Nullable OffsetDateTime sign, Instant now) throws SQLException {
    if (part.get(PART.BROKEN_OFF) || !Objects.equals(sign, part.get(PART.LIVE_AT))) {
      return;
    }
    Counts counts = CountColumns.OF_PART.of(part);
    if (counts.failed() + counts.errored() + counts.setUps() == 0) {
      add(List.of(NO_SIGN), rows());
    }
    dsl.update(PART).set(PART.BROKEN_OFF, true).setNull(PART.RUNNING).where(isPart).execute();
    RunLedger.Settled unused = ledger.compare().settle(now);
  }

  private int rows() {
    Counts counts = CountColumns.OF_PART.of(part);
    return counts.tests() + counts.setUps();
  }

  private List<TestResult> told(List<TestResult> results) {
    Variant whole = Variant.of(Json.map(part.get(PART.VARIANT)));
    return whole.isNone()
        ? results
        : results.stream()
            .map(one -> one.ofTest(one.test().in(whole.with(one.test().variant()))))
            .toList();
  }

  /** The result that told of the break; as many rows as that are. */
  private int takeBack() throws SQLException {
    long test = dictionary.tests(told(List.of(NO_SIGN))).ids()[0];
    List<Integer> places =
        dsl.deleteFrom(RESULT_ROW)
            .where(
                RESULT_ROW.RUN_ID.eq(place.runId()),
                RESULT_ROW.PLACE.between(Packed.first(place.partNo()), Packed.last(place.partNo())),
                RESULT_ROW.TEST_ID.eq(test))
            .returningResult(RESULT_ROW.PLACE)
            .fetch(RESULT_ROW.PLACE);
    for (int gone : places) {
      for (String table : List.of("overruling", "attempt")) {
        dsl.execute(
            "delete from " + table + " where run_id = ? and place = ?", place.runId(), gone);
      }
      ledger.resultChanged(gone, null);
    }
    return places.size();
  }

  private void add(List<TestResult> results, int firstOrdinal) throws SQLException {
    write(told(results), firstOrdinal);
    Counts counts = suites.total();
    new PartMerge(dsl, ledger, place).mergeLive(firstOrdinal, suites);
    ledger.batchCame(
        place.partNo(),
        counts,
        suites,
        micros,
        suite -> {
          Long number = dictionary.suite(suite);
          return number == null ? 0 : number;
        });
  }

  private void write(List<TestResult> results, int firstOrdinal) throws SQLException {
    // What is attached comes with the whole part.
    ResultRows rows =
        new ResultRows(
            connection.unwrap(PGConnection.class).getCopyAPI(),
            place,
            part.get(PART.BASE_AT).toInstant(),
            Contents.none(),
            Runnable::run);
    Dictionary.Known known = dictionary.tests(results);
    for (int i = 0; i < results.size(); i++) {
      TestResult result = results.get(i);
      rows.details(firstOrdinal + i, result);
      rows.result(firstOrdinal + i, known.ids()[i], known.facts()[i], result);
      count(result);
    }
    rows.send();
    rows.await();
  }

  private void count(TestResult result) {
    SuitePath suite = result.test().suite();
    suites.set(suite, suites.of(suite).plus(SuiteCounts.of(result)));
    long own = Packed.kept(result.durationMicros());
    micros += own;
    Instant started = result.started();
    if (started != null) {
      Instant ended = started.plus(own, ChronoUnit.MICROS);
      earliest = earliest == null || started.isBefore(earliest) ? started : earliest;
      latest = latest == null || ended.isAfter(latest) ? ended : latest;
    }
  }

  private static @Nullable OffsetDateTime earlier(
      @Nullable OffsetDateTime known, @Nullable Instant found) {
    return found == null || (known != null && !found.isBefore(known.toInstant()))
        ? known
        : Sql.utc(found);
  }
}
