package org.vinecellar.core.triage.tickets;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.triage.tickets.Ranking.Ranked;

/** Which entry of a tracker a failure group is most like. */
class RankingTest {
  private static Entry entry(String key, String title, String text, boolean open) {
    return new Entry(key, title, text, open ? "to do" : "done", open, null, null);
  }

  private static final List<Entry> ENTRIES =
      List.of(
          entry("Q-1", "Boarding pass shows the wrong quay", "The quay on the pass is old.", true),
          entry(
              "Q-2", "No fare for Långskär", "FareTable.fareOf throws MissingFareException", true),
          entry("Q-3", "Fare table is slow", "Reading the fare table takes 4 s", true),
          entry("Q-4", "Printer out of paper", "", false));

  @Test
  void isTheOneThatNamesTheSameThings() {
    List<Ranked> ranked =
        Ranking.of(
            "no fare in the table \"#\" for the route #Långskär#",
            "thrown in FareTable.fareOf as MissingFareException",
            ENTRIES);
    assertThat(ranked).extracting(one -> one.entry().key()).startsWith("Q-2", "Q-3");
    assertThat(ranked.get(0).likeness()).isBetween(0.4, 1.0);
    assertThat(ranked.get(0).words()).contains("långskär", "fareof");
    assertThat(ranked.get(3).likeness()).isZero();
    assertThat(ranked.get(3).words()).isEmpty();
  }

  @Test
  void isInEveryOrderTheSameAndOpenOnesComeFirst() {
    List<Entry> twins =
        List.of(
            entry("A-2", "gate closed", "", false),
            entry("A-1", "gate closed", "", true),
            entry("A-3", "gate closed", "", true));
    assertThat(Ranking.of("gate closed", "", twins))
        .extracting(one -> one.entry().key())
        .containsExactly("A-1", "A-3", "A-2");
    assertThat(Ranking.of("gate closed", "", twins).get(0).likeness()).isGreaterThan(0.99);
  }

  @Test
  void nothingIsLikeNothing() {
    assertThat(Ranking.of("", "", ENTRIES)).allMatch(one -> one.likeness() == 0);
    assertThat(Ranking.of("the test failed", "12 34", ENTRIES))
        .allMatch(one -> one.likeness() == 0);
    assertThat(Ranking.of("x", "y", List.of())).isEmpty();
  }
}
