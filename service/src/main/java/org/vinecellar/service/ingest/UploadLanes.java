package org.vinecellar.service.ingest;

import io.micrometer.core.instrument.MeterRegistry;
import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.scheduler.Scheduled;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.VineConfig;

/**
 * Takes a few uploads in at a time, each on a thread that does nothing else. Who waits is a place
 * in a queue and no thread. Small uploads have one thread to themselves: large ones never take all.
 * Thread-safe.
 */
@Singleton
public class UploadLanes {
  private static final long SMALL_BYTES = 1 << 20;
  private static final Duration LATER = Duration.ofSeconds(5);

  private final int threads;
  private final int mostLarge;
  private final int mostWaiting;
  private final Duration longestWait;
  private final Deque<Job<?>> small = new ArrayDeque<>();
  private final Deque<Job<?>> large = new ArrayDeque<>();
  private int working;
  private int workingLarge;
  private boolean stopped;

  UploadLanes(VineConfig config, MeterRegistry meters) {
    threads = Math.max(1, config.upload().concurrent());
    mostLarge = Math.max(1, threads - 1);
    mostWaiting = config.upload().waiting();
    longestWait = config.upload().longestWait();
    meters.gauge("vine.uploads.waiting", this, lanes -> lanes.state().waiting());
    meters.gauge("vine.uploads.working", this, lanes -> lanes.state().working());
  }

  /**
   * An upload in the queue.
   *
   * @param result ends when the work has ended, or will never begin; not before
   */
  record Job<T>(boolean isLarge, long since, Supplier<T> work, CompletableFuture<T> result) {
    private void run() {
      try {
        result.complete(work.get());
      } catch (RuntimeException | Error e) {
        result.completeExceptionally(e);
      }
    }
  }

  /** How many work, and how many wait. */
  public record State(int working, int waiting, long longestWaitSeconds) {}

  /** How it is now. */
  public synchronized State state() {
    long oldest = Math.max(age(small.peekFirst()), age(large.peekFirst()));
    return new State(working, small.size() + large.size(), oldest);
  }

  private static long age(@Nullable Job<?> job) {
    return job == null ? 0 : (System.nanoTime() - job.since()) / 1_000_000_000;
  }

  /**
   * Does the work of an upload when it is its turn.
   *
   * @param bytes how large the upload is
   * @return its result fails with {@code UNAVAILABLE} when it waited too long or too many wait
   */
  <T> Job<T> enter(long bytes, Supplier<T> work) {
    Job<T> job = new Job<>(bytes > SMALL_BYTES, System.nanoTime(), work, new CompletableFuture<>());
    synchronized (this) {
      if (stopped || small.size() + large.size() >= mostWaiting) {
        job.result()
            .completeExceptionally(
                busy(mostWaiting + " uploads are waiting already, which is the most"));
        return job;
      }
      (job.isLarge() ? large : small).add(job);
    }
    begin();
    return job;
  }

  /** Takes it out of the queue. What has begun goes on to its end: others may see its result. */
  void leave(Job<?> job) {
    boolean waited;
    synchronized (this) {
      waited = (job.isLarge() ? large : small).removeIf(one -> one == job);
    }
    if (waited) {
      job.result().completeExceptionally(UploadIntake.brokenOff());
    }
  }

  private static TryLaterException busy(String why) {
    return new TryLaterException(
        ProblemCode.UNAVAILABLE, why + "; send it again in a moment", LATER);
  }

  /** Gives the next job a thread, when both are there. */
  private void begin() {
    Job<?> next;
    synchronized (this) {
      next = working == threads ? null : take();
      if (next == null) {
        return;
      }
      working++;
      workingLarge += next.isLarge() ? 1 : 0;
    }
    Job<?> job = next;
    Thread thread =
        new Thread(
            () -> {
              try {
                job.run();
              } finally {
                ended(job);
              }
            },
            "vine-upload");
    thread.setDaemon(true);
    thread.start();
  }

  /** The one that waits longest, among those that may. */
  private @Nullable Job<?> take() {
    Job<?> oneSmall = small.peekFirst();
    Job<?> oneLarge = workingLarge < mostLarge ? large.peekFirst() : null;
    if (oneLarge == null) {
      return small.pollFirst();
    }
    return oneSmall == null || oneLarge.since() - oneSmall.since() < 0
        ? large.pollFirst()
        : small.pollFirst();
  }

  private void ended(Job<?> job) {
    synchronized (this) {
      working--;
      workingLarge -= job.isLarge() ? 1 : 0;
    }
    begin();
    begin();
  }

  @Scheduled(every = "1s")
  void sendAwayWhoWaitedTooLong() {
    List<Job<?>> late = new ArrayList<>();
    synchronized (this) {
      for (Deque<Job<?>> queue : List.of(small, large)) {
        while (!queue.isEmpty() && age(queue.peekFirst()) >= longestWait.toSeconds()) {
          late.add(queue.removeFirst());
        }
      }
    }
    late.forEach(
        job ->
            job.result()
                .completeExceptionally(
                    busy(
                        "this upload waited "
                            + longestWait.toSeconds()
                            + " seconds for others that came before")));
  }

  void stop(@Observes ShutdownEvent event) {
    List<Job<?>> waiting = new ArrayList<>();
    synchronized (this) {
      stopped = true;
      waiting.addAll(small);
      waiting.addAll(large);
      small.clear();
      large.clear();
    }
    waiting.forEach(job -> job.result().completeExceptionally(busy("the portal is stopping")));
  }
}
