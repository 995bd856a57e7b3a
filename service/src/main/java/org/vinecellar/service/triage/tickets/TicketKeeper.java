package org.vinecellar.service.triage.tickets;

import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.scheduler.Scheduled;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jboss.logging.Logger;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.triage.tickets.TicketStore.Errand;
import org.vinecellar.core.triage.tickets.TicketStore.Kept;
import org.vinecellar.core.triage.tickets.Tracker;
import org.vinecellar.core.triage.tickets.TrackerException;
import org.vinecellar.service.work.Worker;

/**
 * Brings to trackers what waits for them, and asks how tickets stand. No transaction is open while
 * a tracker is spoken to. Thread-safe; any number of instances may do it.
 */
@Singleton
public class TicketKeeper {
  private static final Logger LOG = Logger.getLogger(TicketKeeper.class);
  private static final int AT_ONCE = 5;
  private static final int MARKED = 20;

  private final TicketStore store;
  private final Trackers trackers;
  private final Worker worker;
  private final InstantSource clock;
  private final ExecutorService soon =
      Executors.newSingleThreadExecutor(
          work -> {
            Thread thread = new Thread(work, "vine-tickets");
            thread.setDaemon(true);
            return thread;
          });

  TicketKeeper(TicketStore store, Trackers trackers, Worker worker, InstantSource clock) {
    this.store = store;
    this.trackers = trackers;
    this.worker = worker;
    this.clock = clock;
  }

  @Scheduled(every = "5s", delayed = "5s", concurrentExecution = Scheduled.ConcurrentExecution.SKIP)
  void keep() {
    List<Errand> due = store.due(clock.instant(), AT_ONCE);
    while (!due.isEmpty()) {
      due.forEach(this::run);
      due = due.size() < AT_ONCE ? List.of() : store.due(clock.instant(), AT_ONCE);
    }
  }

  /** Something was left just now. */
  void soon(int projectId, long ticket) {
    soon.execute(() -> now(projectId, ticket));
  }

  /** Does what there is to do for a ticket, unless somebody else does. */
  void now(int projectId, long ticket) {
    store.take(projectId, ticket, clock.instant()).ifPresent(this::run);
  }

  private void run(Errand errand) {
    try {
      Optional<Kept> kept = store.tracker(errand.projectId());
      if (kept.isPresent()) {
        run(errand, kept.get());
        worker.soon();
      }
    } catch (TrackerException e) {
      store.failed(
          errand.projectId(),
          errand.ticket(),
          String.valueOf(e.getMessage()),
          errand.tries(),
          clock.instant());
    } catch (RuntimeException e) {
      // What was taken is due again after a while.
      LOG.warnf(e, "ticket %d of project %d", errand.ticket(), errand.projectId());
    }
  }

  private void run(Errand errand, Kept kept) {
    Tracker tracker = trackers.of(kept.settings(), kept.secret());
    Optional<Entry> entry =
        errand.key() == null ? Optional.of(made(errand, tracker)) : tracker.read(errand.key());
    if (entry.isEmpty()) {
      store.lost(errand.projectId(), errand.ticket(), clock.instant());
      return;
    }
    store.seen(errand.projectId(), errand.ticket(), entry.get(), clock.instant());
    if (errand.unsaid() != null && kept.settings().canComment()) {
      store.told(errand.projectId(), errand.ticket(), errand.unsaid(), clock.instant());
      try {
        tracker.comment(entry.get().key(), errand.unsaid());
      } catch (TrackerException e) {
        if (!e.reached()) {
          store.untold(errand.projectId(), errand.ticket(), errand.unsaid());
        }
        throw e;
      }
    }
  }

  /** An answer that was lost may have been a yes: what was tried before is looked for first. */
  private static Entry made(Errand errand, Tracker tracker) {
    String mark = errand.mark();
    if (errand.tries() > 0 && mark != null) {
      Optional<Entry> before =
          tracker.find(mark, MARKED).stream()
              .filter(entry -> entry.text().contains(mark) || entry.title().contains(mark))
              .findFirst();
      if (before.isPresent()) {
        return before.get();
      }
    }
    return tracker.create(errand.title(), errand.draft() == null ? "" : errand.draft());
  }

  void stop(@Observes ShutdownEvent event) {
    soon.shutdownNow();
  }
}
