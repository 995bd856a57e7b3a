package org.vinecellar.store.live;

import static org.vinecellar.store.generated.Tables.PART;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
import org.vinecellar.core.results.TestId;
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
    if (part.get(PART.BROKEN_OFF)) {
      takeBack(told(List.of(NO_SIGN)));
    }
    add(results);
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
      add(List.of(NO_SIGN));
    }
    dsl.update(PART).set(PART.BROKEN_OFF, true).setNull(PART.RUNNING).where(isPart).execute();
    RunLedger.Settled unused = ledger.compare().settle(now);
  }

  private List<TestResult> told(List<TestResult> results) {
    Variant whole = Variant.of(Json.map(part.get(PART.VARIANT)));
    return whole.isNone()
        ? results
        : results.stream()
            .map(one -> one.ofTest(one.test().in(whole.with(one.test().variant()))))
            .toList();
  }

  /** Takes out the rows that tests have in the part. */
  private void takeBack(List<TestResult> results) throws SQLException {
    Map<Long, SuitePath> suitesOf = new HashMap<>();
    long[] tests = dictionary.tests(results).ids();
    for (int i = 0; i < tests.length; i++) {
      suitesOf.put(tests[i], results.get(i).test().suite());
    }
    // Each is looked up by itself: of a part that grows, PostgreSQL never knows how large it is.
    for (Record gone :
        dsl.fetch(
            "select r.place, t.id from unnest(cast(? as int[])) as t(id) cross join lateral"
                + " (select place from result_row where run_id = ? and test_id = t.id offset 0) r"
                + " where r.place between ? and ?",
            suitesOf.keySet().stream().map(Math::toIntExact).toArray(Integer[]::new),
            place.runId(),
            Packed.first(place.partNo()),
            Packed.last(place.partNo()))) {
      int at = gone.get(0, Integer.class);
      for (String table : List.of("overruling", "attempt", "result_note", "result_row")) {
        dsl.execute("delete from " + table + " where run_id = ? and place = ?", place.runId(), at);
      }
      SuitePath suite = Objects.requireNonNull(suitesOf.get(gone.get(1, Long.class)));
      ledger.resultChanged(at, dictionary.suite(suite));
    }
  }

  /** What comes of a test takes the place of what came of it before, and tells of that too. */
  private void add(List<TestResult> results) throws SQLException {
    Map<TestId, TestResult> latest = new LinkedHashMap<>();
    for (TestResult result : told(results)) {
      latest.remove(result.test());
      latest.put(result.test(), result);
    }
    List<TestResult> all = List.copyOf(latest.values());
    takeBack(all);
    int firstOrdinal = nextOrdinal();
    write(all, firstOrdinal);
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

  private int nextOrdinal() {
    int last =
        dsl.fetchSingle(
                "select coalesce(max(place), ?) from result_row where run_id = ?"
                    + " and place between ? and ?",
                Packed.first(place.partNo()) - 1,
                place.runId(),
                Packed.first(place.partNo()),
                Packed.last(place.partNo()))
            .get(0, Integer.class);
    return last + 1 - Packed.first(place.partNo());
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
