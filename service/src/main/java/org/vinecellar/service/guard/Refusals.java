package org.vinecellar.service.guard;

import io.micrometer.core.instrument.MeterRegistry;
import io.quarkus.scheduler.Scheduled;
import jakarta.inject.Singleton;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.jboss.logging.Logger;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.ProblemKind;

/**
 * What was refused, and why: counted, the last of each kind kept, and told in the log once a minute
 * and kind. A flood of refusals must not become a flood of lines. Thread-safe.
 */
@Singleton
public class Refusals {
  private static final Logger LOG = Logger.getLogger(Refusals.class);
  private static final int FAULTS_KEPT = 20;
  private static final int FAULTS_TOLD_A_MINUTE = 10;

  private final InstantSource clock;
  private final MeterRegistry meters;
  private final Map<ProblemCode, Count> counts = new EnumMap<>(ProblemCode.class);
  private final Map<ProblemCode, Integer> untold = new EnumMap<>(ProblemCode.class);
  private final Deque<Fault> faults = new ArrayDeque<>();
  private final AtomicInteger faultsOfMinute = new AtomicInteger();

  Refusals(InstantSource clock, MeterRegistry meters) {
    this.clock = clock;
    this.meters = meters;
  }

  /** Refusals of a kind since the start, and the last one. */
  public record Count(ProblemCode code, long times, Instant last, String detail) {}

  /** Something that went wrong inside. */
  public record Fault(Instant at, String detail) {}

  /** Notes one. */
  public synchronized void note(ProblemCode code, String detail) {
    Count before = counts.get(code);
    long times = before == null ? 1 : before.times() + 1;
    counts.put(code, new Count(code, times, clock.instant(), detail));
    untold.merge(code, 1, Integer::sum);
    meters.counter("vine.refusals", "code", code.slug()).increment();
    if (before == null && isTold(code)) {
      tell(code);
    }
  }

  /** Notes a fault of our own, and logs where it came from; of a flood only the first ones. */
  public void fault(String what, Throwable cause) {
    if (faultsOfMinute.incrementAndGet() <= FAULTS_TOLD_A_MINUTE) {
      LOG.error(what, cause);
    }
    synchronized (this) {
      if (faults.size() == FAULTS_KEPT) {
        faults.removeLast();
      }
      faults.addFirst(new Fault(clock.instant(), what + ": " + cause));
    }
  }

  @Scheduled(every = "60s")
  synchronized void tellAll() {
    List.copyOf(untold.keySet()).stream().filter(Refusals::isTold).forEach(this::tell);
    untold.clear();
    int silent = faultsOfMinute.getAndSet(0) - FAULTS_TOLD_A_MINUTE;
    if (silent > 0) {
      LOG.errorf("%d more faults in this minute; the operator’s page has the last ones", silent);
    }
  }

  /** What a caller did wrong is the caller's to know, unless many do it. */
  private static boolean isTold(ProblemCode code) {
    return code.kind() == ProblemKind.UNAVAILABLE
        || code.kind() == ProblemKind.LIMIT
        || code == ProblemCode.TOO_MANY_TRIES;
  }

  private void tell(ProblemCode code) {
    Integer times = untold.remove(code);
    Count count = counts.get(code);
    if (times != null && count != null) {
      LOG.warnf("refused %d times (%s), the last: %s", times, code.slug(), count.detail());
    }
  }

  /** By code. */
  public synchronized List<Count> counts() {
    return new ArrayList<>(counts.values());
  }

  /** The latest first. */
  public synchronized List<Fault> faults() {
    return new ArrayList<>(faults);
  }
}
