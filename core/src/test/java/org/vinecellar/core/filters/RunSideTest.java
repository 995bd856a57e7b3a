package org.vinecellar.core.filters;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RunSideTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");

  /**
   * The store's test holds that both together pick the same results; here: that it is taken apart.
   */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "`` | `` | ``",
        "outcome eq \"failed\" | `` | outcome eq \"failed\"",
        "run.branch eq \"main\" and outcome eq \"failed\" | branch eq \"main\" | outcome eq \"failed\"",
        "(label.team pr and name pr) and run[open eq true] | label.team pr and open eq true | name pr",
        "not (label.team eq \"fares\") | not (label.team eq \"fares\") | ``",
        "run.branch pr or label.team pr | branch pr or label.team pr | ``",
        "run.branch pr or name pr | `` | run.branch pr or name pr",
        "overruled eq true | overruled gt 0 | overruled eq true",
        "overruled eq false | `` | overruled eq false",
        "overruledBy eq \"lead\" and label.team pr | overruled gt 0 and label.team pr | overruledBy eq \"lead\"",
        "not (overruledAt pr) or name pr | `` | not (overruledAt pr) or name pr",
        "not (run.branch pr and name pr) | `` | not (run.branch pr and name pr)",
      })
  void whatIsAskedOfTheRunAloneStandsApart(String filter, String runs, String rest) {
    assertThat(RunSide.of(Resolver.read(filter, Thing.RESULT, NOW)))
        .isEqualTo(
            new RunSide(
                Resolver.read(runs, Thing.RUN, NOW), Resolver.read(rest, Thing.RESULT, NOW)));
  }
}
