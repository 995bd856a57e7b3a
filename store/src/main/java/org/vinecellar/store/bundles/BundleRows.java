package org.vinecellar.store.bundles;

import static org.vinecellar.store.generated.Tables.BUNDLE;
import static org.vinecellar.store.generated.Tables.BUNDLE_FILE;

import org.jooq.DSLContext;

/** The rows of bundles. */
public final class BundleRows {
  private BundleRows() {}

  /** Takes a bundle away with its files. */
  public static void drop(DSLContext dsl, int projectId, long bundleId) {
    dsl.execute(
        "delete from blob_chunk c using bundle_file f where f.project_id = ? and f.bundle_id = ?"
            + " and c.project_id = f.project_id and c.blob_id = f.blob_id",
        projectId,
        bundleId);
    dsl.deleteFrom(BUNDLE_FILE)
        .where(BUNDLE_FILE.PROJECT_ID.eq(projectId), BUNDLE_FILE.BUNDLE_ID.eq(bundleId))
        .execute();
    dsl.deleteFrom(BUNDLE).where(BUNDLE.PROJECT_ID.eq(projectId), BUNDLE.ID.eq(bundleId)).execute();
  }
}
