package org.vinecellar.service.guard;

import io.quarkus.runtime.ShutdownEvent;
import io.vertx.core.Context;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.function.BiConsumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.Threads;

/** Threads by purpose, each with a queue that has an end. Thread-safe. */
@Singleton
public class Rooms {
  private static final Duration LATER = Duration.ofSeconds(2);

  private final Map<Room, ThreadPoolExecutor> rooms = new EnumMap<>(Room.class);

  Rooms() {
    for (Room room : Room.values()) {
      rooms.put(
          room,
          Threads.some(
              "vine-" + room.name().toLowerCase(Locale.ROOT),
              room.threads(),
              new ArrayBlockingQueue<>(room.queue())));
    }
  }

  /**
   * Does some work on a thread of that room.
   *
   * @return fails with {@code TOO_MANY_AT_ONCE} when too much waits there already, and as the work
   *     does
   */
  public <T> CompletableFuture<T> run(Room room, Supplier<T> work) {
    try {
      return CompletableFuture.supplyAsync(work, executor(room));
    } catch (RejectedExecutionException e) {
      return CompletableFuture.failedFuture(
          new TryLaterException(
              ProblemCode.TOO_MANY_AT_ONCE,
              "the portal is busy with too much at once; try again in a moment",
              LATER,
              e));
    }
  }

  /** Does some work on an event loop, from another thread. */
  public static <T> CompletableFuture<T> on(Context loop, Supplier<CompletableFuture<T>> work) {
    CompletableFuture<T> result = new CompletableFuture<>();
    loop.runOnContext(
        nothing -> {
          try {
            then(
                work.get(),
                (done, failure) -> {
                  if (failure == null) {
                    result.complete(done);
                  } else {
                    result.completeExceptionally(failure);
                  }
                });
          } catch (RuntimeException e) {
            result.completeExceptionally(e);
          }
        });
    return result;
  }

  /** Goes on when something is done, or failed, on whichever thread that happens. */
  public static <T> void then(
      CompletableFuture<T> work, BiConsumer<? super T, ? super @Nullable Throwable> next) {
    CompletableFuture<T> unused = work.whenComplete(next);
  }

  /** Goes on when something is done, or failed, on an event loop. */
  public static <T> void then(
      CompletableFuture<T> work,
      Context loop,
      BiConsumer<? super T, ? super @Nullable Throwable> next) {
    then(work, (done, failure) -> loop.runOnContext(nothing -> next.accept(done, failure)));
  }

  private ThreadPoolExecutor executor(Room room) {
    return Objects.requireNonNull(rooms.get(room));
  }

  /** How many work in a room, and how many wait. */
  public record State(int working, int waiting) {}

  /** How a room is now. */
  public State state(Room room) {
    ThreadPoolExecutor executor = executor(room);
    return new State(executor.getActiveCount(), executor.getQueue().size());
  }

  void stop(@Observes ShutdownEvent event) {
    rooms.values().forEach(ThreadPoolExecutor::shutdownNow);
  }
}
