package org.vinecellar.store.bundles;

import static org.vinecellar.store.generated.Tables.BUNDLE;
import static org.vinecellar.store.generated.Tables.BUNDLE_FILE;

import java.io.IOException;
import java.io.InputStream;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.store.blobs.KeptContents;
import org.vinecellar.store.blobs.UnusedContents;
import org.vinecellar.store.sql.Sql;

/** The rows of bundles. */
public final class BundleRows {
  private BundleRows() {}

  /** Keeps what is in a bundle; the blobs by path. Nobody sees it before {@link #enter}. */
  public static Map<String, Long> keep(NewBundle bundle, KeptContents contents)
      throws IOException, SQLException {
    contents.look(bundle.entries().stream().map(NewBundle.Entry::sha256).distinct().toList());
    Map<String, Long> blobs = new HashMap<>();
    Map<String, NewBundle.Entry> missing = new HashMap<>();
    for (NewBundle.Entry entry : bundle.entries()) {
      Long known = contents.known(entry.sha256());
      if (known == null) {
        missing.put(entry.path(), entry);
      } else {
        blobs.put(entry.path(), known);
      }
    }
    if (missing.isEmpty()) {
      return blobs;
    }
    try (InputStream packed = bundle.content().open()) {
      bundle
          .zip()
          .read(
              packed,
              (path, content) -> {
                NewBundle.Entry entry = missing.get(path);
                if (entry != null) {
                  try {
                    blobs.put(path, contents.keep(entry.sha256(), () -> content));
                  } catch (SQLException e) {
                    throw Sql.translated(e);
                  }
                }
              });
    }
    return blobs;
  }

  /**
   * Enters a bundle whose contents are kept; one with the same title goes. Whoever calls holds the
   * run, so that of two with one title one replaces the other.
   */
  public static void enter(
      DSLContext dsl,
      int projectId,
      long runId,
      NewBundle bundle,
      Map<String, Long> blobs,
      Instant now) {
    dsl.select(BUNDLE.ID)
        .from(BUNDLE)
        .where(
            BUNDLE.PROJECT_ID.eq(projectId),
            BUNDLE.RUN_ID.eq(runId),
            BUNDLE.TITLE.eq(bundle.title()))
        .fetch(BUNDLE.ID)
        .forEach(id -> drop(dsl, projectId, id));
    long id =
        dsl.insertInto(BUNDLE)
            .set(BUNDLE.PROJECT_ID, projectId)
            .set(BUNDLE.RUN_ID, runId)
            .set(BUNDLE.PART_NO, 0)
            .set(BUNDLE.TITLE, bundle.title())
            .set(BUNDLE.INDEX_PATH, bundle.indexPath())
            .set(BUNDLE.CREATED_AT, Sql.utc(now))
            .set(BUNDLE.FILES, bundle.entries().size())
            .set(BUNDLE.SIZE_BYTES, bundle.bytes())
            .returningResult(BUNDLE.ID)
            .fetchSingle(BUNDLE.ID);
    var insert =
        dsl.insertInto(
            BUNDLE_FILE,
            BUNDLE_FILE.PROJECT_ID,
            BUNDLE_FILE.BUNDLE_ID,
            BUNDLE_FILE.PATH,
            BUNDLE_FILE.SIZE_BYTES,
            BUNDLE_FILE.BLOB_ID);
    var batch = dsl.batch(insert.values((Integer) null, null, null, null, null));
    for (NewBundle.Entry file : bundle.entries()) {
      long blob = Objects.requireNonNull(blobs.get(file.path()), file.path());
      batch = batch.bind(projectId, id, file.path(), file.bytes(), blob);
    }
    batch.execute();
  }

  /** Takes a bundle away; the upkeep drops contents that nothing uses any more. */
  public static void drop(DSLContext dsl, int projectId, long bundleId) {
    List<Long> named =
        dsl.deleteFrom(BUNDLE_FILE)
            .where(BUNDLE_FILE.PROJECT_ID.eq(projectId), BUNDLE_FILE.BUNDLE_ID.eq(bundleId))
            .returning(BUNDLE_FILE.BLOB_ID)
            .fetch(BUNDLE_FILE.BLOB_ID);
    UnusedContents.doubt(dsl, projectId, named);
    dsl.deleteFrom(BUNDLE).where(BUNDLE.PROJECT_ID.eq(projectId), BUNDLE.ID.eq(bundleId)).execute();
  }
}
