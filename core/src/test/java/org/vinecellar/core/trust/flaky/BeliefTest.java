package org.vinecellar.core.trust.flaky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class BeliefTest {
  /**
   * What came: {@code +} passed, {@code -} failed, {@code r} failed and passed when tried again,
   * {@code o} failed with many others, {@code n} did not run. A blank is a commit, and a run in
   * parentheses ran in another environment; one in brackets, on a branch.
   */
  private static Belief seen(String runs) {
    Belief belief = Belief.start();
    int commit = 0;
    String environment = "here";
    String branch = null;
    for (char one : runs.toCharArray()) {
      switch (one) {
        case ' ' -> commit++;
        case '(' -> environment = "there";
        case ')' -> environment = "here";
        case '[' -> branch = "b" + commit;
        case ']' -> branch = null;
        default ->
            belief =
                kept(belief)
                    .after(
                        new Sight(
                            "c" + commit,
                            branch,
                            environment,
                            "-ro".indexOf(one) >= 0 ? 1 : 0,
                            "+r".indexOf(one) >= 0 ? 1 : 0,
                            one == 'o' ? 1 : 0));
      }
    }
    return belief;
  }

  /** Whatever is believed can be put away, and taken up as it was. */
  private static Belief kept(Belief belief) {
    byte[] bytes = belief.toBytes();
    Belief again = Belief.of(bytes);
    assertThat(again.toBytes()).isEqualTo(bytes);
    assertThat(again.verdict()).isEqualTo(belief.verdict());
    return again;
  }

  @ParameterizedTest
  @CsvSource({
    "+ + + + + + + + + +, STEADY",
    "+ + + + r + + + + +, FLAKY",
    "+ + +-+ + + + + + +, FLAKY",
    "+ + - + + - + + - +, FLAKY",
    "+ + + + - - - - - -, BROKEN",
    "+ + + + ---- + + + +, STEADY",
    "+ + + +---- - - - -, BROKEN",
    "+ + + + o + + o + +, STEADY",
    "+(+)+(+) +(-)+(-) +(-)+(-) +(-)+(-), BROKEN",
    "+(+)+(-)+(+) +(+)+(-)+(+) +(+)+(-) +(+), FLAKY",
    "+ + + + + + + + - - - - - - + + + + + + + + + + + + - - - + + + - -, BROKEN",
    "+ + + + + + + + - - - - - - + + + + + + + + + + + + - - - + + + + + + + + +, STEADY",
    "n n n n n, UNSURE",
    "+ + + [- -] + [- - +] + [-] + [- -] + + [-] +, UNSURE",
    "+ + + [-+] + + [+] + + +, FLAKY",
    "+ + [- - - - -] [- - -] [- - -] + +, UNSURE",
    "+ + [- - - - -] [- - -] [- - -] + + + + + + + +, STEADY",
    "++++ ++++ +++- - - - - -, BROKEN",
    "+ + + - + [+] + - + [+] + + + - +, FLAKY",
  })
  void isTakenForWhatItShows(String runs, Verdict verdict) {
    assertThat(seen(runs).verdict()).as(runs).isEqualTo(verdict);
  }

  @Test
  void tellsWhereAlone() {
    assertThat(seen("+(+)+(+) +(-)+(-) +(-)+(-)").onlyIn()).isEqualTo("there");
    assertThat(seen("+(+)+(-)+(+) +(+)+(-)+(+) +(+)+(-) +(+)").onlyIn()).isEqualTo("there");
    assertThat(seen("+(+)-(-)+(+) -(+)+(-)+(+) +(+)+(-) -(+)").onlyIn()).isNull();
  }

  @Test
  void isClearedAfterEnoughCleanCommits() {
    String flaky = "+ - + + - + - + + r - ";
    assertThat(seen(flaky).verdict()).isEqualTo(Verdict.FLAKY);
    assertThat(seen(flaky + "+ ".repeat(30)).verdict()).isNotEqualTo(Verdict.FLAKY);
    assertThat(seen(flaky + "+ ".repeat(45)).verdict()).isEqualTo(Verdict.STEADY);
  }

  /** What a commit holds was changed since the one before it, and that is told by its runs. */
  @Test
  void aCommitAfterManyRunsChangesAsMuchAsThatManyCommits() {
    String flaky = "+-+ ++- -+++ ";
    double often = seen(flaky + "+ ".repeat(20)).sound();
    assertThat(seen(flaky + "++++ ".repeat(5)).sound()).isBetween(0.8 * often, 1.1 * often);
    assertThat(seen(flaky + "+".repeat(20)).sound()).isLessThan(0.7 * often);
  }

  /** As one that needs what branches do not have. */
  @Test
  void whatEveryBranchBreaksIsNotFlaky() {
    assertThat(seen("+ + + + + [-] ".repeat(20)).flaky()).isLessThan(0.2);
    assertThat(seen("+ + + + + [--] ".repeat(20)).flaky()).isLessThan(0.1);
    assertThat(seen("+ + - + + [+] + + + - [-] + + + - + + - ").verdict()).isEqualTo(Verdict.FLAKY);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 50, 100_000})
  void anyNumberOfTriesIsWeighed(int tries) {
    Belief belief = Belief.start().after(new Sight(null, "", tries, tries, 0));
    assertThat(belief.flaky()).isGreaterThan(0.9).isLessThanOrEqualTo(1);
    assertThat(belief.rate(0.5)).isBetween(0.2, 0.6);
  }

  @Test
  void aRunThatTellsNothingOfItChangesNothingWithinACommit() {
    Belief before = seen("+ + - + +");
    Belief after = before.after(new Sight("c4", "here", 1, 0, 1));
    assertThat(after.flaky()).isEqualTo(before.flaky(), within(1e-12));
    assertThat(after.rate(0.5)).isEqualTo(before.rate(0.5), within(1e-12));
  }

  /** What is true of the simulated tests, and what is said of them. */
  private static final class Tally {
    private int right;
    private int wrong;
    private int twice;
    private int foundTwice;
    private int rated;
    private int inside;
  }

  /** Sound, flaky and broken tests in streams of 120 runs, with outages, as they come. */
  private static Tally simulated(int streams) {
    Tally tally = new Tally();
    for (int stream = 0; stream < streams; stream++) {
      Random random = new Random(stream * 0x9E3779B97F4A7C15L);
      double commits = 0.4 + 0.6 * random.nextDouble();
      List<String> runs = new ArrayList<>();
      List<Boolean> outages = new ArrayList<>();
      int commit = 0;
      for (int run = 0; run < 120; run++) {
        commit += random.nextDouble() < commits ? 1 : 0;
        runs.add("c" + commit);
        outages.add(random.nextDouble() < 0.03);
      }
      for (int test = 0; test < 100; test++) {
        one(tally, random, runs, outages, test);
      }
    }
    return tally;
  }

  private static void one(
      Tally tally, Random random, List<String> runs, List<Boolean> outages, int test) {
    boolean flaky = test % 5 == 0;
    double rate = flaky ? 0.005 * Math.pow(100, random.nextDouble()) : 0;
    int breaks = test % 5 == 1 ? 10 + random.nextInt(90) : 1_000;
    while (breaks < runs.size() && runs.get(breaks).equals(runs.get(breaks - 1))) {
      breaks++;
    }
    int mended = breaks + 2 + random.nextInt(30);
    while (mended < runs.size() && runs.get(mended).equals(runs.get(mended - 1))) {
      mended++;
    }
    Belief belief = Belief.start();
    int chances = 0;
    for (int run = 0; run < runs.size(); run++) {
      boolean out = outages.get(run) && random.nextBoolean();
      boolean chance = random.nextDouble() < rate;
      boolean failed = out || chance || (run >= breaks && run < mended);
      chances += chance && !out ? 1 : 0;
      belief =
          belief.after(
              new Sight(runs.get(run), "", failed ? 1 : 0, failed ? 0 : 1, failed && out ? 1 : 0));
    }
    boolean said = belief.verdict() == Verdict.FLAKY;
    tally.right += said && flaky ? 1 : 0;
    tally.wrong += said && !flaky ? 1 : 0;
    tally.twice += chances > 1 ? 1 : 0;
    tally.foundTwice += chances > 1 && said ? 1 : 0;
    if (said && flaky) {
      tally.rated++;
      tally.inside += belief.rate(0.05) <= rate && rate <= belief.rate(0.95) ? 1 : 0;
    }
  }

  @Test
  void nothingIsAccusedAndTheIntervalIsHonest() {
    Tally tally = simulated(40);
    assertThat((double) tally.right / (tally.right + tally.wrong)).isGreaterThanOrEqualTo(0.97);
    assertThat((double) tally.foundTwice / tally.twice).isGreaterThanOrEqualTo(0.95);
    assertThat((double) tally.inside / tally.rated).isBetween(0.85, 0.95);
  }
}
