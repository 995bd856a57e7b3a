package org.vinecellar.store.triage.rows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.management.ManagementFactory;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class AlongsideTest {
  @Test
  void whatCameOfThePiecesIsTakenInTheirOrderByTheirOwner() {
    List<Integer> taken = new ArrayList<>();
    Set<Thread> by = new HashSet<>();
    Alongside<Integer> alongside =
        new Alongside<>(
            "pieces",
            i -> {
              taken.add(i);
              by.add(Thread.currentThread());
            });
    AtomicInteger under = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    IntStream.range(0, 300)
        .forEach(
            i ->
                alongside.next(
                    () -> {
                      most.accumulateAndGet(under.incrementAndGet(), Math::max);
                      sleep(i % 7 == 0 ? 4 : 0);
                      under.decrementAndGet();
                      return i;
                    }));
    alongside.end();
    assertThat(taken).containsExactlyElementsOf(IntStream.range(0, 300).boxed().toList());
    assertThat(by).containsExactly(Thread.currentThread());
    assertThat(most.get()).isBetween(1, Alongside.AT_ONCE);
  }

  @Test
  void whatGoesWrongIsToldAndNothingIsLeftUnderWay() {
    List<Integer> taken = new ArrayList<>();
    boolean[] over = new boolean[1];
    Alongside<Integer> alongside = new Alongside<>("pieces", taken::add);
    alongside.next(() -> 1);
    alongside.next(
        () -> {
          throw new IllegalArgumentException("no fare");
        });
    alongside.next(
        () -> {
          sleep(100);
          over[0] = true;
          return 3;
        });
    assertThatThrownBy(alongside::end).hasMessage("no fare");
    assertThat(taken).containsExactly(1);
    assertThat(over[0]).as("what was under way was waited for").isTrue();
    alongside.end();
  }

  /** Its piece still reads what the owner would close; the owner sleeps until it is done. */
  @Test
  void whoIsInterruptedWaitsForThePieceAndStaysInterrupted() throws InterruptedException {
    CountDownLatch begun = new CountDownLatch(1);
    boolean[] seen = new boolean[2];
    long[] busy = new long[1];
    Alongside<Boolean> alongside = new Alongside<>("pieces", done -> {});
    Thread owner =
        new Thread(
            () -> {
              alongside.next(
                  () -> {
                    begun.countDown();
                    sleep(1_000);
                    seen[0] = true;
                    return true;
                  });
              alongside.end();
              seen[1] = seen[0] && Thread.currentThread().isInterrupted();
              busy[0] = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
            });
    owner.start();
    begun.await();
    owner.interrupt();
    owner.join();
    assertThat(seen[1]).isTrue();
    assertThat(busy[0]).as("nanoseconds on a processor").isLessThan(500_000_000L);
  }

  private static void sleep(long millis) {
    try {
      Thread.sleep(millis);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
