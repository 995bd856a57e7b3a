package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.vinecellar.store.results.FailingTests;

class FailingTestsTest {
  private record Row(long test, int failed, int errored) {}

  private static byte[] packed(List<Row> rows) {
    FailingTests tests = new FailingTests();
    rows.forEach(row -> tests.add(row.test, row.failed, row.errored));
    return tests.packed();
  }

  @Test
  void whatIsPackedIsReadAgain() {
    int[] counts = {0, 1, 1, 1, 2, 127, 128, 300, 70_000, Integer.MAX_VALUE};
    for (int seed = 0; seed < 300; seed++) {
      Random random = new Random(seed);
      TreeMap<Long, Row> rows = new TreeMap<>();
      int bound = 2 << random.nextInt(30);
      for (int i = random.nextInt(200); i > 0; i--) {
        long test = 1L + random.nextInt(bound);
        rows.put(
            test,
            new Row(
                test,
                counts[random.nextInt(counts.length)],
                counts[random.nextInt(counts.length)]));
      }
      rows.put(Integer.MAX_VALUE + 0L, new Row(Integer.MAX_VALUE, 1, 0));
      List<Row> read = new ArrayList<>();
      FailingTests.read(
          packed(List.copyOf(rows.values())), (test, f, e) -> read.add(new Row(test, f, e)));
      assertThat(read).as("seed " + seed).isEqualTo(List.copyOf(rows.values()));
    }
  }

  /** What it is for: two bytes a test where one in fifty failed. */
  @Test
  void usualOnesTakeFewBytes() {
    List<Row> rows = new ArrayList<>();
    for (int i = 1; i <= 100; i++) {
      rows.add(new Row(1_000_000 + i * 50L, i % 2, 1 - i % 2));
    }
    assertThat(packed(rows)).hasSizeLessThan(210);
    FailingTests.read(new byte[0], (test, f, e) -> rows.clear());
    assertThat(rows).hasSize(100);
  }

  @Test
  void orderIsKept() {
    FailingTests tests = new FailingTests();
    tests.add(7, 1, 0);
    assertThatThrownBy(() -> tests.add(7, 1, 0)).isInstanceOf(IllegalArgumentException.class);
  }
}
