package org.vinecellar.service.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.problem.TryLaterException;

/** Who comes and goes, in any order and at once. */
class CrowdTest {
  private static final int MOST = 20;
  private static final int OF_ADDRESS = 6;
  private static final int THREADS = 8;

  private final Crowd crowd = new Crowd("boats", MOST, OF_ADDRESS);
  private final Map<String, AtomicInteger> inside = new ConcurrentHashMap<>();
  private final AtomicInteger all = new AtomicInteger();

  private record Boat(String from, Crowd.Place place) {}

  /** Comes and goes; whoever was let in was one of no more than so many. */
  private boolean sail(int seed) {
    Random random = new Random(seed);
    Deque<Boat> mine = new ArrayDeque<>();
    for (int i = 0; i < 20_000; i++) {
      if (random.nextBoolean()) {
        String from = "192.0.2." + random.nextInt(5);
        try {
          Crowd.Place place = crowd.enter(from);
          mine.add(new Boat(from, place));
          assertThat(all.incrementAndGet()).isLessThanOrEqualTo(MOST);
          assertThat(inside.computeIfAbsent(from, key -> new AtomicInteger()).incrementAndGet())
              .isLessThanOrEqualTo(OF_ADDRESS);
        } catch (TryLaterException e) {
          assertThat(e.waitSeconds()).isPositive();
        }
      } else if (!mine.isEmpty()) {
        leave(mine.remove(), random.nextInt(3));
      }
    }
    mine.forEach(boat -> leave(boat, 0));
    return true;
  }

  private void leave(Boat boat, int again) {
    all.decrementAndGet();
    AtomicInteger ofAddress = inside.get(boat.from());
    if (ofAddress != null) {
      ofAddress.decrementAndGet();
    }
    for (int i = 0; i <= again; i++) {
      boat.place().leave();
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3})
  void neverMoreThanThereMayBeAndNobodyIsForgotten(int seed) throws Exception {
    ExecutorService threads = Executors.newFixedThreadPool(THREADS);
    try {
      List<Callable<Boolean>> sailors = new ArrayList<>();
      for (int i = 0; i < THREADS; i++) {
        int own = seed * THREADS + i;
        sailors.add(() -> sail(own));
      }
      for (Future<Boolean> one : threads.invokeAll(sailors)) {
        assertThat(one.get()).isTrue();
      }
    } finally {
      threads.shutdownNow();
    }
    assertThat(crowd.size()).isZero();
    // All places are there again: of each address, and in all.
    List<Crowd.Place> places = new ArrayList<>();
    for (int i = 0; i < MOST; i++) {
      places.add(crowd.enter("192.0.2." + i / OF_ADDRESS));
    }
    assertThat(crowd.size()).isEqualTo(MOST);
    assertThatThrownBy(() -> crowd.enter("192.0.2.9"))
        .hasMessageContaining("there are 20 boats already");
    places.get(0).leave();
    assertThat(crowd.enter("192.0.2.9")).isNotNull();
  }

  @Test
  void oneAddressIsToldOfItsShare() {
    for (int i = 0; i < OF_ADDRESS; i++) {
      crowd.enter("192.0.2.1");
    }
    for (int i = 0; i < 3; i++) {
      assertThatThrownBy(() -> crowd.enter("192.0.2.1"))
          .hasMessageContaining("6 boats from one address");
    }
    assertThat(crowd.enter("192.0.2.2")).isNotNull();
    assertThat(crowd.size()).isEqualTo(OF_ADDRESS + 1);
  }
}
