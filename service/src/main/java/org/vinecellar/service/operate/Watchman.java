package org.vinecellar.service.operate;

import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.runtime.StartupEvent;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Map;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.jboss.logging.Logger;
import org.vinecellar.core.operate.DatabaseWatch;
import org.vinecellar.service.guard.Disk;

/**
 * Looks every second how the parts of the service are, on a thread and a connection of its own, so
 * that who asks is answered at once whatever else is going on. Thread-safe.
 */
@Singleton
public class Watchman {
  private static final Logger LOG = Logger.getLogger(Watchman.class);

  /** A look that is older than this says itself that something hangs. */
  private static final Duration STALE = Duration.ofSeconds(15);

  private final DatabaseWatch database;
  private final Disk disk;
  private final InstantSource clock;
  private final ScheduledThreadPoolExecutor thread =
      new ScheduledThreadPoolExecutor(
          1,
          work -> {
            Thread own = new Thread(work, "vine-watchman");
            own.setDaemon(true);
            own.setPriority(Thread.MAX_PRIORITY);
            return own;
          });
  private volatile Seen seen;

  Watchman(DatabaseWatch database, Disk disk, InstantSource clock) {
    this.database = database;
    this.disk = disk;
    this.clock = clock;
    this.seen = new Seen(clock.instant(), false, "not asked yet", false, Map.of());
  }

  /**
   * How it was at some time.
   *
   * @param databaseSays why it does not answer; empty when it does
   * @param free bytes by what lies on the disk
   */
  record Seen(
      Instant at, boolean database, String databaseSays, boolean diskFull, Map<String, Long> free) {
    Seen {
      free = Map.copyOf(free);
    }
  }

  void start(@Observes StartupEvent event) {
    ScheduledFuture<?> unused = thread.scheduleWithFixedDelay(this::look, 0, 1, TimeUnit.SECONDS);
  }

  void stop(@Observes ShutdownEvent event) {
    thread.shutdownNow();
  }

  private void look() {
    String why = "";
    try {
      database.ask();
    } catch (RuntimeException e) {
      why = String.valueOf(e.getMessage());
    }
    try {
      Seen now = new Seen(clock.instant(), why.isEmpty(), why, disk.isFull(), disk.free());
      tellChange(seen, now);
      seen = now;
    } catch (RuntimeException e) {
      LOG.warnf("the disk could not be looked at: %s", e);
    }
  }

  private static void tellChange(Seen before, Seen now) {
    if (before.database() != now.database()) {
      LOG.infof("the database %s", now.database() ? "answers" : "does not answer");
    }
    if (before.diskFull() != now.diskFull()) {
      LOG.warnf(
          "the disk %s",
          now.diskFull()
              ? "is full up to its reserve: uploads are refused, reading goes on"
              : "has room again: uploads are taken in");
    }
  }

  /** The last look. */
  Seen seen() {
    return seen;
  }

  /** Whether the last look is too old to be believed. */
  boolean isStale() {
    return Duration.between(seen.at(), clock.instant()).compareTo(STALE) > 0;
  }
}
