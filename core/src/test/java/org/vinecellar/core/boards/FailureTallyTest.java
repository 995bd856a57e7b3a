package org.vinecellar.core.boards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.problem.CellarException;

class FailureTallyTest {
  /**
   * Few keys that come often, many that come once, and keys that differ in their high bits only.
   */
  @ParameterizedTest
  @CsvSource({"1, 5, 1", "2, 2000, 1", "3, 40000, 4294967296", "4, 300, 1048576", "5, 1, 1"})
  void countsAsAMapDoes(int seed, int keys, long apart) {
    Random random = new Random(seed);
    FailureTally tally = new FailureTally();
    Map<Long, FailureTally.Counted> naive = new TreeMap<>();
    for (int i = 0; i < 50_000; i++) {
      long key = (1 + random.nextInt(keys)) * apart;
      int failed = random.nextInt(3);
      int errored = random.nextInt(2);
      tally.add(key, failed, errored, 1);
      naive.merge(
          key,
          new FailureTally.Counted(key, failed, errored, 1),
          (a, b) ->
              new FailureTally.Counted(
                  key, a.failed() + b.failed(), a.errored() + b.errored(), a.runs() + b.runs()));
    }
    List<FailureTally.Counted> each = new ArrayList<>();
    tally.forEach((key, f, e, runs) -> each.add(new FailureTally.Counted(key, f, e, runs)));
    assertThat(each).containsExactlyInAnyOrderElementsOf(naive.values());
    assertThat(tally.keys()).containsExactly(naive.keySet().toArray(Long[]::new));
    Comparator<FailureTally.Counted> mostFirst =
        Comparator.comparingInt(one -> -one.failed() - one.errored());
    List<FailureTally.Counted> sorted =
        naive.values().stream().sorted(mostFirst.thenComparing(FailureTally.Counted::key)).toList();
    for (int limit : new int[] {0, 1, 7, 51, 100_000}) {
      assertThat(tally.most(limit)).isEqualTo(sorted.subList(0, Math.min(limit, sorted.size())));
    }
  }

  /** In place of taking all memory there is. */
  @Test
  void tooManyAreRefused() {
    FailureTally tally = new FailureTally();
    for (long key = 1; key <= 1_000_000; key++) {
      tally.add(key, 1, 0, 1);
    }
    tally.add(7, 1, 0, 1);
    assertThatThrownBy(() -> tally.add(1_000_001, 1, 0, 1))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("a shorter period");
    assertThat(tally.most(1)).containsExactly(new FailureTally.Counted(7, 2, 0, 2));
  }
}
