package org.vinecellar.store.triage.rows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.management.ManagementFactory;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class AlongsideTest {
  @ParameterizedTest
  @ValueSource(longs = {0, 1, 7, 1_000})
  void piecesAreDoneInOrderAndSeen(long most) {
    Alongside alongside = new Alongside("pieces", most);
    List<Integer> done = new ArrayList<>();
    IntStream.range(0, 200).forEach(i -> alongside.next(() -> done.add(i), i % 3));
    alongside.end();
    assertThat(done).containsExactlyElementsOf(IntStream.range(0, 200).boxed().toList());
  }

  /** Texts that wait take room. */
  @Test
  void noMoreWaitsThanThereIsRoomFor() {
    Alongside alongside = new Alongside("pieces", 30);
    AtomicInteger held = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    for (int i = 0; i < 100; i++) {
      alongside.next(
          () -> {
            sleep(1);
            held.addAndGet(-10);
          },
          10);
      most.accumulateAndGet(held.addAndGet(10), Math::max);
    }
    alongside.end();
    assertThat(most.get()).isBetween(10, 30);
    assertThat(held.get()).isZero();
  }

  /** What comes after it is not done, and it is told of once. */
  @Test
  void whatGoesWrongIsToldAndEndsIt() {
    Alongside alongside = new Alongside("pieces", 100);
    AtomicInteger after = new AtomicInteger();
    assertThatThrownBy(
            () -> {
              alongside.next(
                  () -> {
                    throw new IllegalArgumentException("no fare");
                  },
                  1);
              alongside.next(after::incrementAndGet, 1);
              alongside.end();
            })
        .hasMessage("no fare");
    alongside.end();
    assertThat(after).hasValue(0);
  }

  /** Its piece still reads what the owner would close; the owner sleeps until it is done. */
  @Test
  void whoIsInterruptedWaitsForThePieceAndStaysInterrupted() throws InterruptedException {
    CountDownLatch begun = new CountDownLatch(1);
    boolean[] seen = new boolean[2];
    long[] busy = new long[1];
    Alongside alongside = new Alongside("pieces", 1);
    Thread owner =
        new Thread(
            () -> {
              alongside.next(
                  () -> {
                    begun.countDown();
                    sleep(1_000);
                    seen[0] = true;
                  },
                  1);
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
