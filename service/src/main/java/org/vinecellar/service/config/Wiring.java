package org.vinecellar.service.config;

import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.inject.Produces;
import jakarta.inject.Singleton;
import java.time.InstantSource;
import javax.sql.DataSource;
import org.eclipse.microprofile.context.ManagedExecutor;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Ingest;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.runs.RunEvents;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.store.Stores;

/** Puts the stores behind the ports, and the one clock. */
@ApplicationScoped
public class Wiring {
  @Produces
  @Singleton
  InstantSource clock() {
    return InstantSource.system();
  }

  @Produces
  @Singleton
  Stores stores(DataSource dataSource, ManagedExecutor background, VineConfig config) {
    return new Stores(dataSource, background, config.upload().maxAttachmentBytes());
  }

  @Produces
  @Singleton
  IngestStore ingestStore(Stores stores) {
    return stores.ingest();
  }

  @Produces
  @Singleton
  RunStore runStore(Stores stores) {
    return stores.runs();
  }

  @Produces
  @Singleton
  LiveStore liveStore(Stores stores) {
    return stores.live();
  }

  @Produces
  @Singleton
  BundleStore bundleStore(Stores stores) {
    return stores.bundles();
  }

  @Produces
  @Singleton
  EditStore editStore(Stores stores) {
    return stores.edits();
  }

  @Produces
  @Singleton
  RunEvents runEvents(Stores stores) {
    return stores.events();
  }

  @Produces
  @Singleton
  AccessStore accessStore(Stores stores) {
    return stores.access();
  }

  @Produces
  @Singleton
  Ingest ingest(IngestStore store, VineConfig config, InstantSource clock) {
    ReadLimits d = ReadLimits.DEFAULT;
    ReadLimits limits =
        new ReadLimits(
            config.upload().maxFileBytes(),
            d.maxCases(),
            d.maxDepth(),
            d.maxNameChars(),
            d.maxTextChars(),
            d.maxProperties(),
            d.maxProblems());
    return new Ingest(store, limits, clock);
  }
}
