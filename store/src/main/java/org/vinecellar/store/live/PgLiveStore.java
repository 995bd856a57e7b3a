package org.vinecellar.store.live;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.OtherRunException;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.RunChoice;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.live.LivePart;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;
import org.vinecellar.store.blobs.Contents;
import org.vinecellar.store.ingest.PartArrival;
import org.vinecellar.store.ingest.PartMerge;
import org.vinecellar.store.ingest.ProvisionalPart;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.ledger.SuiteCounts;
import org.vinecellar.store.results.Dictionary;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.results.ResultRows;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** Parts while they come, in PostgreSQL. Thread-safe; any instance may take any batch. */
public final class PgLiveStore implements LiveStore {
  /** As often as the run of a key may become another one meanwhile. */
  private static final int TRIES = 4;

  private final Sql sql;
  private final IngestStore ingest;

  /** On that database. */
  public PgLiveStore(Sql sql, IngestStore ingest) {
    this.sql = sql;
    this.ingest = ingest;
  }

  @Override
  public LivePart open(UploadRequest request, String runKey, Instant now) {
    OtherRunException other = null;
    for (int tries = 0; tries < TRIES; tries++) {
      Reservation place =
          ingest.reserve(
              request,
              runKey,
              ProvisionalPart.HASH + UUID.randomUUID(),
              RunChoice.Coming.unread(request, now).told(null));
      try {
        return open(request, place, now);
      } catch (OtherRunException e) {
        other = e;
      }
    }
    throw new IllegalStateException("the runs of a key change all the time", other);
  }

  private LivePart open(UploadRequest request, Reservation place, Instant now) {
    return sql.transaction(
        dsl -> {
          Receipt receipt = new PartArrival(dsl, place).addLive(request, now);
          return new LivePart(
              place.projectId(), place.runId(), place.partNo(), receipt.stream(), receipt.number());
        });
  }

  @Override
  public Optional<LivePart> find(int projectId, long runId, int partNo) {
    return sql.with(
        dsl ->
            dsl.select(STREAM.NAME, RUN.NUMBER)
                .from(PART)
                .join(RUN)
                .on(RUN.PROJECT_ID.eq(PART.PROJECT_ID), RUN.ID.eq(PART.RUN_ID))
                .join(STREAM)
                .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
                .where(
                    PART.PROJECT_ID.eq(projectId),
                    PART.RUN_ID.eq(runId),
                    PART.PART_NO.eq(partNo),
                    PART.LIVE_BATCH.isNotNull(),
                    RUN.NUMBER.isNotNull())
                .fetchOptional(
                    row -> new LivePart(projectId, runId, partNo, row.value1(), row.value2())));
  }

  @Override
  public int append(
      LivePart part, int batch, List<TestResult> results, List<RunningNow> running, Instant now) {
    Reservation place =
        new Reservation(
            part.projectId(), 0, part.runId(), part.partNo(), ProvisionalPart.HASH, null);
    try (Connection connection = sql.connection();
        Dictionary dictionary = new Dictionary(sql.connection(), part.projectId())) {
      connection.setAutoCommit(false);
      try {
        int taken = append(connection, dictionary, place, batch, results, running, now);
        connection.commit();
        return taken;
      } finally {
        connection.rollback();
        connection.setAutoCommit(true);
      }
    } catch (SQLException | org.jooq.exception.DataAccessException e) {
      throw Sql.translated(e);
    }
  }

  private static int append(
      Connection connection,
      Dictionary dictionary,
      Reservation place,
      int batch,
      List<TestResult> results,
      List<RunningNow> running,
      Instant now)
      throws SQLException {
    DSLContext dsl = Sql.on(connection);
    RunLedger ledger = RunLedger.open(dsl, place.projectId(), place.runId());
    if (ledger == null || ledger.run().get(RUN.DELETED_AT) != null) {
      return batch;
    }
    Record part =
        dsl.selectFrom(PART)
            .where(
                PART.PROJECT_ID.eq(place.projectId()),
                PART.RUN_ID.eq(place.runId()),
                PART.PART_NO.eq(place.partNo()))
            .fetchOne();
    if (part == null) {
      return batch;
    }
    Integer before = part.get(PART.LIVE_BATCH);
    if (before == null || batch != before + 1) {
      return before == null ? batch : before;
    }
    // Each test and each failed set-up of a provisional part has one row.
    int firstOrdinal =
        CountColumns.OF_PART.of(part).tests() + CountColumns.OF_PART.of(part).setUps();
    Added added = new Added(place, part.get(PART.BASE_AT).toInstant(), connection, dictionary);
    Variant whole = Variant.of(Json.map(part.get(PART.VARIANT)));
    List<TestResult> told =
        whole.isNone()
            ? results
            : results.stream()
                .map(one -> one.ofTest(one.test().in(whole.with(one.test().variant()))))
                .toList();
    added.write(told, firstOrdinal);
    Counts counts = added.suites.total();
    new PartMerge(dsl, ledger, place).mergeLive(firstOrdinal, added.suites);
    dsl.update(PART)
        .set(PART.LIVE_BATCH, batch)
        .set(PART.RUNNING, Json.of(running.stream().map(PgLiveStore::map).toList()))
        .set(PART.STARTED_AT, earlier(part.get(PART.STARTED_AT), added.earliest))
        .set(PART.ENDED_AT, added.latest == null ? part.get(PART.ENDED_AT) : Sql.utc(added.latest))
        .where(
            PART.PROJECT_ID.eq(place.projectId()),
            PART.RUN_ID.eq(place.runId()),
            PART.PART_NO.eq(place.partNo()))
        .execute();
    ledger.batchCame(
        place.partNo(),
        counts,
        added.suites,
        added.micros,
        suite -> {
          Long number = dictionary.suite(suite);
          return number == null ? 0 : number;
        });
    RunLedger.Settled unused = ledger.settle(now);
    return batch;
  }

  private static java.time.@Nullable OffsetDateTime earlier(
      java.time.@Nullable OffsetDateTime known, @Nullable Instant found) {
    return found == null || (known != null && !found.isBefore(known.toInstant()))
        ? known
        : Sql.utc(found);
  }

  private static Map<String, Object> map(RunningNow test) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("suite", test.suite());
    map.put("name", test.name());
    Instant since = test.since();
    if (since != null) {
      map.put("since", since.toString());
    }
    return map;
  }

  /** The rows of one batch, and what they add up to. */
  private static final class Added {
    private final Reservation place;
    private final Instant base;
    private final Connection connection;
    private final Dictionary dictionary;
    private final SuiteCounts suites = new SuiteCounts();
    private long micros;
    private @Nullable Instant earliest;
    private @Nullable Instant latest;

    Added(Reservation place, Instant base, Connection connection, Dictionary dictionary) {
      this.place = place;
      this.base = base;
      this.connection = connection;
      this.dictionary = dictionary;
    }

    void write(List<TestResult> results, int firstOrdinal) throws SQLException {
      // What is attached comes with the whole part.
      ResultRows rows =
          new ResultRows(
              connection.unwrap(PGConnection.class).getCopyAPI(),
              place,
              base,
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
  }
}
