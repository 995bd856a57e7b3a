package org.vinecellar.core.quarantine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.trust.flaky.Verdict;

/** On which terms a test may fail, and where its quarantine stands. */
class QuarantineTest {
  private static final LocalDate TODAY = LocalDate.parse("2026-11-20");

  /** The latest run first: + passed, F failed, . without it. */
  private static Lately lately(String runs, @Nullable Verdict verdict) {
    List<Integer> seen = new ArrayList<>();
    runs.chars().forEach(c -> seen.add(c == '+' ? 0 : c == 'F' ? 1 : 2));
    return Lately.of(seen, verdict);
  }

  @ParameterizedTest
  @CsvSource({
    "F+F, FLAKY, 30, HOLDS",
    "F+F, FLAKY, 4, HOLDS",
    "F+F, FLAKY, 3, ENDING",
    "F+F, FLAKY, 0, ENDING",
    "F+F, FLAKY, -1, OVER",
    "'', , 30, HOLDS",
    "++++++, FLAKY, 30, HOLDS",
    "+++++, STEADY, 30, CLEAN",
    "++++, STEADY, 30, HOLDS",
    "++++F++++, STEADY, 30, HOLDS",
    "+++++F, , 30, CLEAN",
    "..+++++F, STEADY, 30, CLEAN",
    "..........F, FLAKY, 30, GONE",
    ".........F, FLAKY, 30, HOLDS",
    "..........., , 0, GONE",
    "+++++, BROKEN, 30, HOLDS",
    "+++++, UNSURE, 30, HOLDS",
    "+++++, STEADY, -3, OVER",
  })
  void stands(@Nullable String runs, @Nullable Verdict verdict, int days, Standing standing) {
    assertThat(Standing.of(TODAY.plusDays(days), TODAY, lately(runs == null ? "" : runs, verdict)))
        .isEqualTo(standing);
  }

  @Test
  void inTwoStreamsItIsAsInTheWorse() {
    Lately both = lately("+++++++F", Verdict.STEADY).and(lately("+++F..........", Verdict.FLAKY));
    assertThat(both).isEqualTo(new Lately(12, 2, 3, 0, Verdict.FLAKY));
    assertThat(lately("+", null).and(lately("+", Verdict.BROKEN)).verdict())
        .isEqualTo(Verdict.BROKEN);
    assertThat(lately("..........", null).and(lately("+", null)).isGone()).isFalse();
  }

  @Test
  void termsAreCheckedAndKeptInOneLine() {
    Terms terms = new Terms(" quay\n team ", "flips\u202e at\tdusk", " ", TODAY).checked(TODAY);
    assertThat(terms).isEqualTo(new Terms("quay team", "flips at dusk", null, TODAY));
    for (Terms wrong :
        List.of(
            new Terms(" ", "r", null, TODAY),
            new Terms("o".repeat(101), "r", null, TODAY),
            new Terms("o", "\u200b", null, TODAY),
            new Terms("o", "r".repeat(501), null, TODAY),
            new Terms("o", "r", "t".repeat(501), TODAY),
            new Terms("o", "r", null, TODAY.minusDays(1)),
            new Terms("o", "r", null, TODAY.plusDays(181)),
            new Terms("o", "r", null, LocalDate.MAX))) {
      assertThatThrownBy(() -> wrong.checked(TODAY)).as("%s", wrong).hasMessageContaining(" ");
    }
  }
}
