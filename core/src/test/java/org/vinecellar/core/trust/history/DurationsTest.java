package org.vinecellar.core.trust.history;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The stretches are those that counting every cut from the start would find. */
class DurationsTest {
  private static double median(double[] all, int from, int to) {
    double[] sorted = Arrays.stream(all, from, to).sorted().toArray();
    int half = sorted.length / 2;
    return sorted.length % 2 == 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
  }

  private static double distance(double[] all, int from, int to) {
    double median = median(all, from, to);
    return Arrays.stream(all, from, to).map(one -> Math.abs(one - median)).sum();
  }

  private static void cut(double[] logs, int from, int to, List<Integer> cuts) {
    int best = -1;
    double whole = distance(logs, from, to);
    double least = whole - 1e-9;
    for (int at = from + 5; at <= to - 5; at++) {
      double both = distance(logs, from, at) + distance(logs, at, to);
      if (both < least - 1e-9) {
        least = both;
        best = at;
      }
    }
    if (best >= 0) {
      double step = Math.abs(median(logs, from, best) - median(logs, best, to));
      if (step > Math.log(1.25)
          && step > 1.5 * least / (to - from)
          && whole - least > 0.2 * whole) {
        cuts.add(best);
        cut(logs, from, best, cuts);
        cut(logs, best, to, cuts);
      }
    }
  }

  @Test
  void theyAreThoseOfAPlainCount() {
    Random random = new Random(8);
    for (int round = 0; round < 300; round++) {
      double[] millis = new double[1 + random.nextInt(90)];
      double level = 20 + random.nextInt(500);
      double spread = random.nextDouble() * 0.6;
      for (int i = 0; i < millis.length; i++) {
        level *= random.nextInt(25) == 0 ? 0.4 + 2 * random.nextDouble() : 1;
        millis[i] = level * Math.exp(spread * random.nextGaussian());
      }
      List<Integer> cuts = new ArrayList<>();
      cut(Arrays.stream(millis).map(one -> Math.log(one + 2)).toArray(), 0, millis.length, cuts);
      List<Integer> found =
          Durations.of(millis).stream().map(Durations.Stretch::from).filter(at -> at > 0).toList();
      assertThat(found).containsExactlyInAnyOrderElementsOf(cuts);
    }
  }
}
