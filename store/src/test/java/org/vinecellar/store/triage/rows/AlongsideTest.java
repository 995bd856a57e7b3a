package org.vinecellar.store.triage.rows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.management.ManagementFactory;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class AlongsideTest {
  @Test
  void piecesAreDoneInOrderAndSeen() {
    Alongside alongside = new Alongside("pieces");
    List<Integer> done = new ArrayList<>();
    IntStream.range(0, 200).forEach(i -> alongside.next(() -> done.add(i)));
    alongside.end();
    assertThat(done).containsExactlyElementsOf(IntStream.range(0, 200).boxed().toList());
  }

  @Test
  void whatGoesWrongIsToldByTheNextOneAndOnlyOnce() {
    Alongside alongside = new Alongside("pieces");
    alongside.next(
        () -> {
          throw new IllegalArgumentException("no fare");
        });
    assertThatThrownBy(() -> alongside.next(() -> {})).hasMessage("no fare");
    alongside.end();
  }

  /** Its piece still reads what the owner would close; the owner sleeps until it is done. */
  @Test
  void whoIsInterruptedWaitsForThePieceAndStaysInterrupted() throws InterruptedException {
    CountDownLatch begun = new CountDownLatch(1);
    boolean[] seen = new boolean[2];
    long[] busy = new long[1];
    Alongside alongside = new Alongside("pieces");
    Thread owner =
        new Thread(
            () -> {
              alongside.next(
                  () -> {
                    begun.countDown();
                    sleep(1_000);
                    seen[0] = true;
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
