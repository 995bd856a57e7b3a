package org.vinecellar.core.trust.history;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;

/** What a test depends on is found in shuffled runs, and nothing is where there is nothing. */
class OrderClueTest {
  private static final int TESTS = 150;
  private static final long KEY = 42;
  private final Random random = new Random(11);

  /** Runs in which the tests are shuffled. */
  private List<OrderClue.Turn> runs(int runs, Predicate<List<Long>> fails) {
    List<OrderClue.Turn> turns = new ArrayList<>();
    for (int run = 0; run < runs; run++) {
      List<Long> order = new ArrayList<>();
      for (long test = 0; test < TESTS; test++) {
        order.add(test);
      }
      Collections.shuffle(order, random);
      List<Long> before = order.subList(0, order.indexOf(0L));
      turns.add(new OrderClue.Turn(fails.test(before), new HashSet<>(before)));
    }
    return turns;
  }

  @Test
  void whatItFailsBehindIsFound() {
    int found = 0;
    for (int round = 0; round < 50; round++) {
      boolean whenBefore = round % 2 == 0;
      Optional<OrderClue> clue =
          OrderClue.of(
              runs(30, before -> before.contains(KEY) == whenBefore && random.nextInt(10) < 9));
      if (clue.isPresent()) {
        assertThat(clue.get().other()).isEqualTo(KEY);
        assertThat(clue.get().whenBefore()).isEqualTo(whenBefore);
        assertThat(clue.get().failedWithout()).isZero();
        found++;
      }
    }
    assertThat(found).isGreaterThanOrEqualTo(45);
  }

  @Test
  void chanceIsNoClue() {
    int accused = 0;
    for (int round = 0; round < 200; round++) {
      double rate = 0.1 + 0.4 * random.nextDouble();
      accused += OrderClue.of(runs(30, before -> random.nextDouble() < rate)).isPresent() ? 1 : 0;
    }
    assertThat(accused).as("of 200").isLessThanOrEqualTo(6);
  }

  @Test
  void anOrderThatNeverChangesTellsNothing() {
    List<OrderClue.Turn> turns = new ArrayList<>();
    for (int run = 0; run < 40; run++) {
      turns.add(new OrderClue.Turn(run % 3 == 0, new HashSet<>(List.of(1L, 2L, 3L))));
    }
    assertThat(OrderClue.of(turns)).isEmpty();
    assertThat(OrderClue.of(List.of())).isEmpty();
  }
}
