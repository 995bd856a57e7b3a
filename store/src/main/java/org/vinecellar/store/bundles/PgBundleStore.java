package org.vinecellar.store.bundles;

import static org.vinecellar.store.generated.Tables.BUNDLE;
import static org.vinecellar.store.generated.Tables.BUNDLE_FILE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.bundles.Bundle;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.blobs.BlobStore;
import org.vinecellar.store.blobs.KeptContents;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;

/** Bundles in PostgreSQL. Thread-safe. */
public final class PgBundleStore implements BundleStore {
  private static final int DROPPED_AT_ONCE = 20;

  private final Sql sql;
  private final Sql uploads;
  private final BlobStore blobs;

  /**
   * On that database.
   *
   * @param uploads connections for uploads alone
   */
  public PgBundleStore(Sql sql, Sql uploads, BlobStore blobs) {
    this.sql = sql;
    this.uploads = uploads;
    this.blobs = blobs;
  }

  @Override
  public void add(int projectId, String stream, int runNumber, NewBundle bundle, Instant now) {
    try (Connection connection = uploads.connection()) {
      DSLContext dsl = Sql.on(connection);
      Sql.commitLazily(connection);
      Map<String, Long> kept;
      try {
        kept = BundleRows.keep(bundle, new KeptContents(blobs, connection, projectId));
      } finally {
        Sql.commitAtOnce(connection);
      }
      dsl.transaction(tx -> enter(tx.dsl(), projectId, stream, runNumber, bundle, kept, now));
    } catch (IOException e) {
      throw new CellarException(ProblemCode.INTERNAL, "the bundle could not be kept: " + e, e);
    } catch (SQLException | org.jooq.exception.DataAccessException e) {
      throw Sql.translated(e);
    }
  }

  private static void enter(
      DSLContext dsl,
      int projectId,
      String stream,
      int runNumber,
      NewBundle bundle,
      Map<String, Long> blobs,
      Instant now) {
    Long runId =
        dsl.select(RUN.ID)
            .from(RUN)
            .join(STREAM)
            .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
            .where(RUN.PROJECT_ID.eq(projectId), STREAM.NAME.eq(stream), RUN.NUMBER.eq(runNumber))
            .fetchOne(RUN.ID);
    RunLedger ledger = runId == null ? null : RunLedger.open(dsl, projectId, runId);
    if (ledger == null) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "the stream " + stream + " has no run " + runNumber + " to keep the bundle with");
    }
    BundleRows.enter(dsl, projectId, runId, bundle, blobs, now);
    RunLedger.Settled unused = ledger.settle(now);
  }

  private static SelectConditionStep<? extends Record> select(DSLContext dsl, int projectId) {
    return dsl.select(BUNDLE.asterisk(), STREAM.NAME, RUN.NUMBER)
        .from(BUNDLE)
        .join(RUN)
        .on(RUN.PROJECT_ID.eq(BUNDLE.PROJECT_ID), RUN.ID.eq(BUNDLE.RUN_ID))
        .join(STREAM)
        .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
        .where(BUNDLE.PROJECT_ID.eq(projectId));
  }

  private static Bundle bundle(Record row) {
    return new Bundle(
        row.get(BUNDLE.ID),
        row.get(BUNDLE.RUN_ID),
        row.get(STREAM.NAME),
        row.get(RUN.NUMBER),
        row.get(BUNDLE.TITLE),
        row.get(BUNDLE.INDEX_PATH),
        row.get(BUNDLE.CREATED_AT).toInstant(),
        row.get(BUNDLE.FILES),
        row.get(BUNDLE.SIZE_BYTES));
  }

  @Override
  public List<Bundle> ofRun(int projectId, long runId) {
    return sql.with(
        dsl ->
            select(dsl, projectId)
                .and(BUNDLE.RUN_ID.eq(runId))
                .orderBy(BUNDLE.TITLE)
                .fetch(PgBundleStore::bundle));
  }

  @Override
  public Optional<Bundle> latest(int projectId, String stream, @Nullable String title) {
    Condition titled = title == null ? DSL.noCondition() : BUNDLE.TITLE.eq(title);
    return sql.with(
        dsl ->
            select(dsl, projectId)
                .and(StreamNames.is(projectId, stream))
                .and(titled)
                .orderBy(RUN.STARTED_AT.desc(), RUN.NUMBER.desc(), BUNDLE.ID.desc())
                .limit(1)
                .fetchOptional(PgBundleStore::bundle));
  }

  @Override
  public Optional<Bundle> find(int projectId, long id) {
    return sql.with(
        dsl -> select(dsl, projectId).and(BUNDLE.ID.eq(id)).fetchOptional(PgBundleStore::bundle));
  }

  @Override
  public Optional<BundleFile> file(int projectId, long bundleId, String path) {
    return sql.with(
        dsl ->
            dsl.selectFrom(BUNDLE_FILE)
                .where(
                    BUNDLE_FILE.PROJECT_ID.eq(projectId),
                    BUNDLE_FILE.BUNDLE_ID.eq(bundleId),
                    BUNDLE_FILE.PATH.eq(path))
                .fetchOptional(
                    row ->
                        new BundleFile(
                            row.get(BUNDLE_FILE.PATH),
                            row.get(BUNDLE_FILE.SIZE_BYTES),
                            row.get(BUNDLE_FILE.BLOB_ID))));
  }

  @Override
  public Content content(int projectId, BundleFile file) {
    return blobs.content(projectId, file.blobId(), file.bytes());
  }

  @Override
  public Optional<Integer> megabytes(int projectId, String stream) {
    return sql.with(
        dsl ->
            dsl.select(STREAM.BUNDLE_MEGABYTES)
                .from(STREAM)
                .where(StreamNames.is(projectId, stream))
                .fetchOptional(STREAM.BUNDLE_MEGABYTES));
  }

  @Override
  public int dropOld(int usualDays, Instant now) {
    int all = 0;
    int dropped;
    do {
      dropped = sql.transaction(dsl -> dropSome(dsl, usualDays, now));
      all += dropped;
    } while (dropped == DROPPED_AT_ONCE);
    return all;
  }

  private static int dropSome(DSLContext dsl, int usualDays, Instant now) {
    var old =
        dsl.fetch(
            "select b.project_id, b.id from bundle b"
                + " join run r on r.project_id = b.project_id and r.id = b.run_id"
                + " join stream s on s.project_id = r.project_id and s.id = r.stream_id"
                + " where b.created_at < cast(? as timestamptz)"
                + " - make_interval(days => coalesce(s.bundle_days, ?))"
                + " limit ? for update of b skip locked",
            Sql.utc(now),
            usualDays,
            DROPPED_AT_ONCE);
    for (var row : old) {
      BundleRows.drop(dsl, row.get(0, Integer.class), row.get(1, Long.class));
    }
    return old.size();
  }
}
