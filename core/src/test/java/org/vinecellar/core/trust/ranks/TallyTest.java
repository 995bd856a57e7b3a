package org.vinecellar.core.trust.ranks;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** A slow-down is found where it is, and nowhere else. */
class TallyTest {
  private static final int RUNS = 60;

  private final Random random = new Random(5);

  private double noise(double spread) {
    return Math.exp(random.nextGaussian() * spread);
  }

  private static List<String> environments(IntToEnvironment of) {
    List<String> all = new ArrayList<>();
    for (int run = 0; run < RUNS; run++) {
      all.add(of.at(run));
    }
    return all;
  }

  private interface IntToEnvironment {
    String at(int run);
  }

  private void add(Tally tally, int test, double spread, IntToDoubleFunction millis) {
    for (int run = 0; run < RUNS; run++) {
      tally.add(test, run, false, millis.applyAsDouble(run) * noise(spread));
    }
  }

  private static Figures.@Nullable Slower slower(Tally tally, int test) {
    return Objects.requireNonNull(tally.figures(tally.pace(), (t, ms) -> {}).get(test)).slower();
  }

  @Test
  void noiseIsNoSlowDown() {
    Tally tally = new Tally(environments(run -> ""));
    for (int test = 0; test < 500; test++) {
      double millis = 30 + random.nextInt(3_000);
      add(tally, test, 0.1 + 0.3 * random.nextDouble(), run -> millis);
    }
    long accused =
        tally.figures(tally.pace(), (t, ms) -> {}).values().stream()
            .filter(one -> one.slower() != null)
            .count();
    assertThat(accused).as("of 500").isLessThanOrEqualTo(3);
    assertThat(tally.pace().whole().slower()).isNull();
  }

  @Test
  void stepsAndCreepsAreFound() {
    int found = 0;
    int near = 0;
    for (int round = 0; round < 100; round++) {
      Tally tally = new Tally(environments(run -> ""));
      int since = 10 + random.nextInt(40);
      add(tally, 0, 0.15, run -> run < since ? 400 : 640);
      Figures.Slower slower = slower(tally, 0);
      found += slower == null ? 0 : 1;
      near += slower != null && Math.abs(slower.since() - since) <= 2 ? 1 : 0;
    }
    assertThat(found).isGreaterThanOrEqualTo(95);
    assertThat(near).isGreaterThanOrEqualTo(85);
    Tally creeping = new Tally(environments(run -> ""));
    add(creeping, 0, 0.05, run -> 300 * (1 + run / 40.0));
    Figures.Slower slower = slower(creeping, 0);
    assertThat(slower).isNotNull();
    assertThat(Objects.requireNonNull(slower).before()).isLessThan(400);
    Tally faster = new Tally(environments(run -> ""));
    add(faster, 0, 0.1, run -> run < 30 ? 900 : 400);
    assertThat(slower(faster, 0)).isNull();
  }

  @Test
  void aSlowMachineMakesNoTestSlow() {
    Tally tally = new Tally(environments(run -> ""));
    for (int test = 0; test < 40; test++) {
      double millis = 50 + random.nextInt(900);
      // A week at other work, and from the fortieth run on a slower one for good.
      add(tally, test, 0.1, run -> millis * (run > 10 && run < 18 ? 2.5 : run >= 40 ? 1.6 : 1));
    }
    add(tally, 99, 0.1, run -> (run >= 40 ? 1.6 : 1) * (run >= 25 ? 700 : 300));
    Map<Integer, Figures> all = tally.figures(tally.pace(), (t, ms) -> {});
    assertThat(all.entrySet().stream().filter(e -> e.getValue().slower() != null))
        .extracting(Map.Entry::getKey)
        .containsExactly(99);
    Figures.Slower whole = Objects.requireNonNull(tally.pace().whole().slower());
    assertThat(whole.since()).isEqualTo(40);
    assertThat(tally.pace().whole().factor()).isBetween(1.5, 1.7);
  }

  @Test
  void anEnvironmentMakesNoTestSlow() {
    for (IntToEnvironment of :
        List.<IntToEnvironment>of(
            run -> run % 2 == 0 ? "webkit" : "chromium", run -> run < 30 ? "jdk17" : "jdk21")) {
      Tally tally = new Tally(environments(of));
      List<String> environments = environments(of);
      add(
          tally,
          0,
          0.1,
          run ->
              environments.get(run).equals("webkit") || environments.get(run).equals("jdk21")
                  ? 900
                  : 400);
      assertThat(slower(tally, 0)).isNull();
    }
  }

  @Test
  void whatFailedTellsOfNoTimeAndRareRunsOfLittle() {
    Tally tally = new Tally(environments(run -> ""));
    for (int run = 0; run < RUNS; run++) {
      tally.add(0, run, run > 30, run > 30 ? null : 400.0);
    }
    tally.add(1, 7, false, 50.0);
    Map<Integer, Figures> all = tally.figures(tally.pace(), (t, ms) -> {});
    Figures failing = Objects.requireNonNull(all.get(0));
    assertThat(failing)
        .isEqualTo(new Figures((1L << 60) - 1, (1L << 60) - (1L << 31), failing.millis(), null));
    assertThat(failing.failed()).isEqualTo(29);
    assertThat(failing.last()).isEqualTo(59);
    assertThat(failing.millis()).isBetween(399.9, 400.1);
    Figures rare = Objects.requireNonNull(all.get(1));
    assertThat(rare.ran()).isOne();
    assertThat(rare.last()).isEqualTo(7);
    assertThat(new Tally(List.of()).figures(new Tally(List.of()).pace(), (t, ms) -> {})).isEmpty();
    assertThat(new Tally(List.of()).pace().whole().slower()).isNull();
  }

  @Test
  void splitsAreTheSameInWhateverOrderAndNearTheBest() {
    for (int round = 0; round < 200; round++) {
      List<RankStore.Load> loads = new ArrayList<>();
      for (int i = 1 + random.nextInt(30); i > 0; i--) {
        loads.add(new RankStore.Load("s" + i, random.nextInt(4) * 100 + random.nextInt(50), 1));
      }
      int parts = 1 + random.nextInt(8);
      Split split = Split.of(loads, parts);
      double best =
          Math.max(
              loads.stream().mapToDouble(RankStore.Load::millis).sum() / parts,
              loads.stream().mapToDouble(RankStore.Load::millis).max().orElse(0));
      double largest = loads.stream().mapToDouble(RankStore.Load::millis).max().orElse(0);
      assertThat(split.millis())
          .isLessThanOrEqualTo(best + largest)
          .isGreaterThanOrEqualTo(best - 1e-9);
      assertThat(split.parts()).hasSize(parts);
      assertThat(split.parts().stream().flatMap(part -> part.loads().stream()))
          .containsExactlyInAnyOrderElementsOf(loads);
      List<RankStore.Load> shuffled = new ArrayList<>(loads);
      Collections.shuffle(shuffled, random);
      assertThat(Split.of(shuffled, parts)).isEqualTo(split);
    }
  }
}
