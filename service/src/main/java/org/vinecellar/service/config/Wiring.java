package org.vinecellar.service.config;

import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.inject.Produces;
import jakarta.inject.Singleton;
import java.time.InstantSource;
import java.util.concurrent.Executor;
import java.util.concurrent.LinkedBlockingQueue;
import javax.sql.DataSource;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.ServiceSecrets;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.access.SignInTries;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Ingest;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.operate.DatabaseWatch;
import org.vinecellar.core.quarantine.QuarantineStore;
import org.vinecellar.core.removal.RemovalStore;
import org.vinecellar.core.reports.ReportFacts;
import org.vinecellar.core.runs.RunEvents;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.today.TodayStore;
import org.vinecellar.core.triage.code.CodeStore;
import org.vinecellar.core.triage.decisions.CategoryStore;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.rules.RuleStore;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.grid.GridStore;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.core.trust.renames.FoldingStore;
import org.vinecellar.core.work.SumProof;
import org.vinecellar.core.work.WorkStore;
import org.vinecellar.store.Stores;

/** Puts the stores behind the ports, and the one clock. */
@ApplicationScoped
public class Wiring {
  /** Live batches that are taken in at the same time. */
  private static final int LIVE = 4;

  @Produces
  @Singleton
  InstantSource clock() {
    return InstantSource.system();
  }

  @Produces
  @Singleton
  Stores stores(
      DataSource dataSource,
      @io.quarkus.agroal.DataSource("uploads") DataSource uploads,
      @io.quarkus.agroal.DataSource("watch") DataSource watch,
      VineConfig config) {
    return new Stores(
        dataSource,
        uploads,
        watch,
        copyThreads(config.upload().concurrent()),
        config.upload().maxAttachmentBytes(),
        config.filter().patience());
  }

  /** One for each upload at a time: who is inside never waits for who is not. */
  private static Executor copyThreads(int uploads) {
    return Threads.some("vine-copy", uploads + LIVE, new LinkedBlockingQueue<>());
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
  WorkStore workStore(Stores stores) {
    return stores.work();
  }

  @Produces
  @Singleton
  RemovalStore removalStore(Stores stores) {
    return stores.removal();
  }

  @Produces
  @Singleton
  TriageStore triageStore(Stores stores) {
    return stores.triage();
  }

  @Produces
  @Singleton
  TrustStore trustStore(Stores stores) {
    return stores.trust();
  }

  @Produces
  @Singleton
  QuarantineStore quarantineStore(Stores stores) {
    return stores.quarantine();
  }

  @Produces
  @Singleton
  GridStore gridStore(Stores stores) {
    return stores.grid();
  }

  @Produces
  @Singleton
  FoldingStore foldingStore(Stores stores) {
    return stores.folding();
  }

  @Produces
  @Singleton
  BoardFacts boardFacts(Stores stores) {
    return stores.boardFacts();
  }

  @Produces
  @Singleton
  FailureFacts failureFacts(Stores stores) {
    return stores.failureFacts();
  }

  @Produces
  @Singleton
  ReportFacts reportFacts(Stores stores) {
    return stores.reportFacts();
  }

  @Produces
  @Singleton
  SumProof sumProof(Stores stores) {
    return stores.sumProof();
  }

  @Produces
  @Singleton
  SavedFilterStore savedFilterStore(Stores stores) {
    return stores.savedFilters();
  }

  @Produces
  @Singleton
  BoardStore boardStore(Stores stores) {
    return stores.boards();
  }

  @Produces
  @Singleton
  RankStore rankStore(Stores stores) {
    return stores.ranks();
  }

  @Produces
  @Singleton
  DeskStore deskStore(Stores stores) {
    return stores.desk();
  }

  @Produces
  @Singleton
  RuleStore ruleStore(Stores stores) {
    return stores.rules();
  }

  @Produces
  @Singleton
  CategoryStore categoryStore(Stores stores) {
    return stores.categories();
  }

  @Produces
  @Singleton
  CodeStore codeStore(Stores stores) {
    return stores.code();
  }

  @Produces
  @Singleton
  TicketStore ticketStore(Stores stores) {
    return stores.tickets();
  }

  @Produces
  @Singleton
  TodayStore todayStore(Stores stores) {
    return stores.today();
  }

  @Produces
  @Singleton
  MoveStore moveStore(Stores stores) {
    return stores.moves();
  }

  @Produces
  @Singleton
  RunEvents runEvents(Stores stores) {
    return stores.events();
  }

  @Produces
  @Singleton
  PeopleStore peopleStore(Stores stores) {
    return stores.people();
  }

  @Produces
  @Singleton
  DatabaseWatch databaseWatch(Stores stores) {
    return stores.watch();
  }

  @Produces
  @Singleton
  ProjectStore projectStore(Stores stores) {
    return stores.projects();
  }

  @Produces
  @Singleton
  TokenStore tokenStore(Stores stores) {
    return stores.tokens();
  }

  @Produces
  @Singleton
  SessionStore sessionStore(Stores stores) {
    return stores.sessions();
  }

  @Produces
  @Singleton
  SignInTries signInTries(Stores stores) {
    return stores.tries();
  }

  @Produces
  @Singleton
  ServiceSecrets serviceSecrets(Stores stores) {
    return stores.secrets();
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
