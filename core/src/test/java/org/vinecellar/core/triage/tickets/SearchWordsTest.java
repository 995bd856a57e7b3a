package org.vinecellar.core.triage.tickets;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Which words a tracker is asked for. */
class SearchWordsTest {
  @Test
  void areNamesFirstAndThoseThatTheGroupIsKnownBy() {
    assertThat(
            SearchWords.of(
                "FareTable.fareOf MissingFareException",
                "no fare in the table \"#\" for the route #Långskär#\nFare table: adult#fare",
                5))
        .containsExactly("MissingFareException", "FareTable", "fareOf", "Långskär", "table");
    assertThat(SearchWords.of("staging-db", "Connection refused", 5))
        .containsExactly("staging-db", "Connection", "refused");
  }

  @Test
  void areNeverWhatStandsEverywhereNorNoWords() {
    assertThat(SearchWords.of("", "the test failed 12345 -- ==> {} \u0000 x1 expected error", 5))
        .isEmpty();
    assertThat(SearchWords.of("a".repeat(100_000), "b ".repeat(100_000), 5)).isEmpty();
    assertThat(SearchWords.of("Gate gate GATE", "gate", 5)).containsExactly("Gate");
  }
}
