package org.vinecellar.store.live;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.Record;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.OtherRunException;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.RunChoice;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.live.LivePart;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.ingest.PartArrival;
import org.vinecellar.store.ingest.ProvisionalPart;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.results.Dictionary;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** Parts while they come, in PostgreSQL. Thread-safe; any instance may take any batch. */
public final class PgLiveStore implements LiveStore {
  /** As often as the run of a key may become another one meanwhile. */
  private static final int TRIES = 4;

  /** So many parts are broken off together; the rest a little later. */
  private static final int AT_ONCE = 500;

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
    int[] taken = {batch};
    change(
        part.projectId(),
        part.runId(),
        part.partNo(),
        come -> {
          taken[0] = come.batch();
          if (taken[0] == batch - 1) {
            taken[0] = batch;
            come.append(results, Json.of(running.stream().map(PgLiveStore::map).toList()), now);
          }
        });
    return taken[0];
  }

  @Override
  public int breakOffSilent(Duration silence, Instant now) {
    return breakOff(PART.LIVE_AT.lt(Sql.utc(now.minus(silence))), now);
  }

  @Override
  public void breakOff(int projectId, long runId, Instant now) {
    int unused = breakOff(PART.PROJECT_ID.eq(projectId).and(PART.RUN_ID.eq(runId)), now);
  }

  private int breakOff(Condition which, Instant now) {
    List<Record> parts =
        sql.with(
            dsl ->
                List.copyOf(
                    dsl.select(PART.PROJECT_ID, PART.RUN_ID, PART.PART_NO, PART.LIVE_AT)
                        .from(PART)
                        .where(PART.LIVE_BATCH.isNotNull(), PART.BROKEN_OFF.isFalse(), which)
                        .orderBy(PART.LIVE_AT)
                        .limit(AT_ONCE)
                        .fetch()));
    for (Record part : parts) {
      change(
          part.get(PART.PROJECT_ID),
          part.get(PART.RUN_ID),
          part.get(PART.PART_NO),
          come -> come.breakOff(part.get(PART.LIVE_AT), now));
    }
    return parts.size();
  }

  /** What is done with a part under the lock of its run. */
  private interface Step {
    void on(Coming part) throws SQLException;
  }

  /** Does nothing when the part is live no more, or its run is gone. */
  private void change(int projectId, long runId, int partNo, Step step) {
    try (Connection connection = sql.connection();
        Dictionary dictionary = new Dictionary(sql.connection(), projectId)) {
      connection.setAutoCommit(false);
      try {
        RunLedger ledger = RunLedger.open(Sql.on(connection), projectId, runId);
        if (ledger != null && ledger.run().get(RUN.DELETED_AT) == null) {
          Reservation place =
              new Reservation(projectId, 0, runId, partNo, ProvisionalPart.HASH, null);
          Coming part = Coming.of(connection, dictionary, ledger, place);
          if (part != null) {
            step.on(part);
          }
        }
        connection.commit();
      } finally {
        connection.rollback();
        connection.setAutoCommit(true);
      }
    } catch (SQLException | org.jooq.exception.DataAccessException e) {
      throw Sql.translated(e);
    }
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
}
