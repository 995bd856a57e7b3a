package org.vinecellar.service.config;

import io.quarkus.scheduler.Scheduled;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import org.jboss.logging.Logger;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.access.SignInTries;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.triage.code.CodeStore;

/** What has to be done from time to time. Any number of instances may do it. */
@Singleton
public class Upkeep {
  private static final Logger LOG = Logger.getLogger(Upkeep.class);

  /** How long a content is kept that no attachment uses; many times the longest upload. */
  private static final Duration UNUSED = Duration.ofDays(2);

  /** A pipe gives a sign of life every ten seconds. */
  private static final Duration NO_SIGN = Duration.ofMinutes(1);

  private final IngestStore ingest;
  private final LiveStore live;
  private final SessionStore sessions;
  private final SignInTries tries;
  private final PeopleStore people;
  private final BundleStore bundles;
  private final CodeStore code;
  private final InstantSource clock;
  private final VineConfig config;

  Upkeep(
      IngestStore ingest,
      LiveStore live,
      SessionStore sessions,
      SignInTries tries,
      PeopleStore people,
      BundleStore bundles,
      CodeStore code,
      InstantSource clock,
      VineConfig config) {
    this.ingest = ingest;
    this.live = live;
    this.bundles = bundles;
    this.code = code;
    this.sessions = sessions;
    this.tries = tries;
    this.people = people;
    this.clock = clock;
    this.config = config;
  }

  @Scheduled(
      every = "10s",
      delayed = "1m",
      concurrentExecution = Scheduled.ConcurrentExecution.SKIP)
  void breakOffSilentParts() {
    int broken = live.breakOffSilent(NO_SIGN, clock.instant());
    if (broken > 0) {
      LOG.infof("%d parts were broken off for want of a sign", broken);
    }
  }

  @Scheduled(every = "2s", delayed = "5s", concurrentExecution = Scheduled.ConcurrentExecution.SKIP)
  void groupAnew() {
    int runs = code.groupSomeAnew(clock.instant());
    if (runs > 0) {
      LOG.debugf("%d runs are grouped anew", runs);
    }
  }

  @Scheduled(every = "30s", delayed = "10s")
  void closeSilentRuns() {
    Instant now = clock.instant();
    int closed = ingest.closeSilentRuns(config.run().silence(), now);
    if (closed > 0) {
      LOG.infof("closed %d runs after a silence", closed);
    }
  }

  @Scheduled(every = "1h", delayed = "1m")
  void dropExpired() {
    sessions.dropExpired(clock.instant());
    tries.dropExpired(clock.instant());
    people.dropExpired(clock.instant());
    int dropped = bundles.dropOld(config.bundle().days(), clock.instant());
    if (dropped > 0) {
      LOG.infof("dropped %d bundles for their age", dropped);
    }
    ingest.dropUnusedContents(clock.instant().minus(UNUSED));
    ingest.dropReservedRuns(clock.instant().minus(UNUSED));
    ingest.countRuns();
  }
}
