package org.vinecellar.service.work;

import io.micrometer.core.instrument.Counter;
import io.micrometer.core.instrument.MeterRegistry;
import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.runtime.StartupEvent;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.jboss.logging.Logger;
import org.vinecellar.core.work.SumProof;
import org.vinecellar.core.work.Waiting;
import org.vinecellar.core.work.WorkStore;

/**
 * Does the work that waits, whichever instance has left it; looks for it twice a second. Two
 * threads, so that a long piece does not keep the short ones waiting. Thread-safe.
 */
@Singleton
public class Worker {
  private static final Logger LOG = Logger.getLogger(Worker.class);
  private static final int THREADS = 2;
  private static final Duration PAUSE = Duration.ofMillis(500);
  private static final Waiting NOTHING = new Waiting(0, 0, null, null);

  /** Runs that are proved at a time, a minute. */
  private static final int PROVED = 20;

  private static final Duration PROVING = Duration.ofMinutes(1);

  private final WorkStore store;
  private final SumProof proof;
  private final InstantSource clock;
  private final Counter done;
  private final Counter proved;
  private final AtomicInteger number = new AtomicInteger();
  private final ScheduledThreadPoolExecutor threads =
      new ScheduledThreadPoolExecutor(
          THREADS + 1,
          work -> {
            Thread own = new Thread(work, "vine-work-" + number.incrementAndGet());
            own.setDaemon(true);
            return own;
          });
  private volatile Waiting waiting = NOTHING;
  private volatile SumProof.Repairs repairs = new SumProof.Repairs(0, null, null);
  private volatile boolean failing;

  Worker(WorkStore store, SumProof proof, InstantSource clock, MeterRegistry meters) {
    this.store = store;
    this.proof = proof;
    this.clock = clock;
    this.done = meters.counter("vine.work.done");
    this.proved = meters.counter("vine.work.proved");
    meters.gauge("vine.work.waiting", this, worker -> worker.waiting.pieces());
    meters.gauge("vine.work.failed", this, worker -> worker.waiting.failed());
    meters.gauge("vine.work.oldest.seconds", this, Worker::oldestSeconds);
  }

  void start(@Observes StartupEvent event) {
    for (int i = 0; i < THREADS; i++) {
      every(PAUSE, this::work);
    }
    every(PROVING, this::prove);
    every(Duration.ofSeconds(5), this::look);
  }

  private void every(Duration pause, Runnable work) {
    ScheduledFuture<?> unused =
        threads.scheduleWithFixedDelay(
            () -> careful(work), pause.toMillis(), pause.toMillis(), TimeUnit.MILLISECONDS);
  }

  /** Whatever goes wrong, it is tried again; that it does is told once. */
  private void careful(Runnable work) {
    try {
      work.run();
      failing = false;
    } catch (RuntimeException e) {
      if (!failing && !threads.isShutdown()) {
        LOG.warnf("work cannot be looked for: %s", e.getMessage());
      }
      failing = true;
    }
  }

  /** Work was left just now: somebody waits for it. */
  public void soon() {
    threads.execute(() -> careful(this::work));
  }

  private void work() {
    while (!threads.isShutdown() && store.doOne(clock.instant())) {
      done.increment();
    }
  }

  private void prove() {
    int left = PROVED;
    while (left-- > 0 && !threads.isShutdown() && proof.proveOne(clock.instant())) {
      proved.increment();
    }
  }

  private void look() {
    waiting = store.waiting(clock.instant());
    repairs = proof.repairs();
  }

  /** What was found to be wrong with sums, and put right; as it was a few seconds ago, too. */
  public SumProof.Repairs repairs() {
    return repairs;
  }

  /** What waits, as it was a few seconds ago. */
  public Waiting waiting() {
    return waiting;
  }

  private long oldestSeconds() {
    Instant oldest = waiting.oldest();
    return oldest == null ? 0 : Math.max(0, Duration.between(oldest, clock.instant()).toSeconds());
  }

  void stop(@Observes ShutdownEvent event) {
    threads.shutdownNow();
  }
}
