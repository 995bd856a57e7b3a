package org.vinecellar.store;

import java.util.concurrent.Executor;
import javax.sql.DataSource;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.runs.RunEvents;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.store.access.PgAccessStore;
import org.vinecellar.store.bundles.PgBundleStore;
import org.vinecellar.store.edits.PgEditStore;
import org.vinecellar.store.ingest.PgIngestStore;
import org.vinecellar.store.ingest.PgLiveStore;
import org.vinecellar.store.runs.PgRunEvents;
import org.vinecellar.store.runs.PgRunStore;
import org.vinecellar.store.sql.Sql;

/** The one way in: hands out core's ports on a database that Flyway has brought up to date. */
public final class Stores {
  private final Sql sql;
  private final Executor background;
  private final long maxAttachmentBytes;

  /**
   * @param dataSource a pool of at least two connections for every upload at a time
   * @param background runs one short task at a time for each upload that is under way
   * @param maxAttachmentBytes of one attachment; a larger one is named but not kept
   */
  public Stores(DataSource dataSource, Executor background, long maxAttachmentBytes) {
    this.maxAttachmentBytes = maxAttachmentBytes;
    this.sql = new Sql(dataSource);
    this.background = background;
  }

  /** Uploads. */
  public IngestStore ingest() {
    return new PgIngestStore(sql, background, maxAttachmentBytes);
  }

  /** Parts while they come. */
  public LiveStore live() {
    return new PgLiveStore(sql, ingest());
  }

  /** Folders of HTML. */
  public BundleStore bundles() {
    return new PgBundleStore(sql);
  }

  /** Notes and set outcomes. */
  public EditStore edits() {
    return new PgEditStore(sql);
  }

  /** News of runs. */
  public RunEvents events() {
    return new PgRunEvents(sql);
  }

  /** Streams, runs and results. */
  public RunStore runs() {
    return new PgRunStore(sql);
  }

  /** Projects, tokens, accounts and sessions. */
  public AccessStore access() {
    return new PgAccessStore(sql);
  }
}
