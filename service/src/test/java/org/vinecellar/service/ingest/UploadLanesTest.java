package org.vinecellar.service.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import io.micrometer.core.instrument.simple.SimpleMeterRegistry;
import io.quarkus.runtime.ShutdownEvent;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.Configured;

/** Uploads come, end and go away in any order. */
class UploadLanesTest {
  private static final int THREADS = 3;
  private static final long SMALL = 1000;
  private static final long LARGE = 50 << 20;

  /** In the order in which they began. */
  private final List<Upload> begun = new CopyOnWriteArrayList<>();

  private final Peak working = new Peak();
  private final Peak workingLarge = new Peak();
  private UploadLanes lanes = lanes(30, "1H");

  private static UploadLanes lanes(int waiting, String longestWait) {
    Map<String, String> settings =
        Map.of(
            "VINE_UPLOAD_CONCURRENT", "" + THREADS,
            "VINE_UPLOAD_WAITING", "" + waiting,
            "VINE_UPLOAD_LONGEST_WAIT", longestWait);
    return new UploadLanes(Configured.by(settings), new SimpleMeterRegistry());
  }

  /** How many there are, and the most that there were. */
  private static final class Peak {
    private int now;
    private int most;

    synchronized void add(int change) {
      now += change;
      most = Math.max(most, now);
    }

    synchronized int most() {
      return most;
    }
  }

  /** One whose work goes on until it is told to end. */
  private final class Upload {
    private final long bytes;
    private final CompletableFuture<String> ends = new CompletableFuture<>();
    private final UploadLanes.Job<String> job;

    Upload(long bytes) {
      this.bytes = bytes;
      this.job =
          lanes.enter(
              bytes,
              () -> {
                begun.add(this);
                working.add(1);
                workingLarge.add(isLarge() ? 1 : 0);
                try {
                  return ends.join();
                } finally {
                  workingLarge.add(isLarge() ? -1 : 0);
                  working.add(-1);
                }
              });
    }

    boolean isLarge() {
      return bytes == LARGE;
    }

    boolean isWorking() {
      return begun.contains(this) && !job.result().isDone();
    }

    boolean isWaiting() {
      return !begun.contains(this) && !job.result().isDone();
    }

    Throwable failure() {
      try {
        throw new AssertionError("it was taken: " + job.result().get());
      } catch (ExecutionException e) {
        return Objects.requireNonNull(e.getCause());
      } catch (InterruptedException e) {
        throw new AssertionError(e);
      }
    }
  }

  private static void await(String what, BooleanSupplier reached) {
    long until = System.nanoTime() + 20_000_000_000L;
    while (!reached.getAsBoolean()) {
      assertThat(System.nanoTime()).as(what).isLessThan(until);
      Thread.onSpinWait();
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8})
  void noThreadIsIdleWhileSomebodyMayGoOnAndNoLargeOneTakesTheLast(int seed) {
    Random random = new Random(seed);
    List<Upload> all = new ArrayList<>();
    for (int step = 0; step < 200; step++) {
      List<Upload> there = all.stream().filter(one -> !one.job.result().isDone()).toList();
      int what = random.nextInt(5);
      if (there.isEmpty() || what < 2) {
        all.add(new Upload(random.nextBoolean() ? SMALL : LARGE));
      } else {
        Upload one = there.get(random.nextInt(there.size()));
        if (what == 2 || one.isWaiting()) {
          lanes.leave(one.job);
        } else {
          one.ends.complete("taken");
        }
      }
      await("rest after step " + step + " of " + seed, () -> rests(all));
    }
    List<Upload> oneByOne = List.copyOf(begun);
    all.forEach(one -> one.ends.complete("taken"));
    await("the end", () -> all.stream().allMatch(one -> one.job.result().isDone()));
    assertThat(working.most()).isEqualTo(THREADS);
    assertThat(workingLarge.most()).isEqualTo(THREADS - 1);
    assertThat(begun).doesNotHaveDuplicates();
    for (boolean large : List.of(true, false)) {
      assertThat(oneByOne.stream().filter(one -> one.isLarge() == large))
          .as("first come, first served")
          .isSortedAccordingTo((a, b) -> Integer.compare(all.indexOf(a), all.indexOf(b)));
    }
    assertThat(begun).allSatisfy(one -> assertThat(one.job.result()).isCompletedWithValue("taken"));
    await("nobody works", () -> lanes.state().equals(new UploadLanes.State(0, 0, 0)));
  }

  /** Whether everybody who may work does. */
  private static boolean rests(List<Upload> all) {
    // First of all, so that nobody is counted below who is just leaving.
    if (all.stream().anyMatch(one -> one.ends.isDone() && one.isWorking())) {
      return false;
    }
    long large = all.stream().filter(one -> one.isWorking() && one.isLarge()).count();
    long working = all.stream().filter(Upload::isWorking).count();
    boolean smallWaits = all.stream().anyMatch(one -> one.isWaiting() && !one.isLarge());
    boolean largeWaits = all.stream().anyMatch(one -> one.isWaiting() && one.isLarge());
    return working == THREADS || (!smallWaits && (!largeWaits || large == THREADS - 1));
  }

  @Test
  void whoFindsNoPlaceOrWaitsTooLongIsToldWhenToComeAgain() {
    lanes = lanes(2, "1S");
    List<Upload> all = Stream.generate(() -> new Upload(SMALL)).limit(THREADS + 3).toList();
    await("all begin", () -> begun.size() == THREADS);
    assertThat(all.get(THREADS + 2).failure())
        .isInstanceOfSatisfying(
            TryLaterException.class, e -> assertThat(e.waitSeconds()).isPositive())
        .hasMessageContaining("2 uploads are waiting already");
    await(
        "those who wait are sent away",
        () -> {
          lanes.sendAwayWhoWaitedTooLong();
          return all.get(THREADS + 1).job.result().isDone();
        });
    assertThat(all.subList(THREADS, THREADS + 2))
        .allSatisfy(
            one -> assertThat(one.failure()).hasMessageContaining("this upload waited 1 s"));
    all.forEach(one -> one.ends.complete("taken"));
    await("the others go on", () -> lanes.state().working() == 0);
    assertThat(begun).hasSize(THREADS);
  }

  @Test
  void afterTheStopNobodyIsLetInAndWhatBeganGoesOn() {
    List<Upload> all = Stream.generate(() -> new Upload(LARGE)).limit(THREADS).toList();
    await("two begin", () -> begun.size() == THREADS - 1);
    lanes.stop(new ShutdownEvent());
    assertThat(all.get(THREADS - 1).failure()).hasMessageContaining("the portal is stopping");
    assertThat(new Upload(SMALL).failure()).isInstanceOf(TryLaterException.class);
    all.forEach(one -> one.ends.complete("taken"));
    await("the end", () -> begun.stream().allMatch(one -> one.job.result().isDone()));
    assertThat(begun.get(0).job.result()).isCompletedWithValue("taken");
  }

  @Test
  void workThatFailsFailsItsUploadAndNoOther() {
    Upload fails = new Upload(SMALL);
    fails.ends.completeExceptionally(new OutOfMemoryError("too much"));
    Upload next = new Upload(SMALL);
    next.ends.complete("taken");
    assertThat(next.job.result().join()).isEqualTo("taken");
    assertThat(fails.failure()).isInstanceOf(OutOfMemoryError.class);
    await("the end", () -> lanes.state().working() == 0);
  }
}
