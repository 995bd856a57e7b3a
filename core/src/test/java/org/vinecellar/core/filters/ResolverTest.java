package org.vinecellar.core.filters;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ResolverTest {
  private static final Instant NOW = Instant.parse("2026-11-25T12:00:00Z");

  private static Criterion read(String text, Thing thing) {
    return Resolver.read(text, thing, NOW);
  }

  private static Criterion.Compares eq(Attribute attribute, Criterion.Operand operand) {
    return new Criterion.Compares(attribute, null, Operator.EQ, operand);
  }

  @Test
  void findsNamesWhateverTheCase() {
    Criterion failed = eq(Attribute.RESULT_OUTCOME, new Criterion.Words("failed"));
    assertThat(read("OUTCOME eq \"Failed\"", Thing.RESULT)).isEqualTo(failed);
    assertThat(read("outcome ne \"failed\"", Thing.RESULT)).isEqualTo(new Criterion.Not(failed));
    assertThat(read("closed eq null", Thing.RUN))
        .isEqualTo(new Criterion.Not(new Criterion.Present(Attribute.RUN_CLOSED, null)));
    assertThat(read("closed ne null", Thing.RUN))
        .isEqualTo(new Criterion.Present(Attribute.RUN_CLOSED, null));
    assertThat(read("label.Team eq \"fares\"", Thing.RESULT))
        .isEqualTo(
            new Criterion.Compares(
                Attribute.RESULT_LABEL, "Team", Operator.EQ, new Criterion.Words("fares")));
    assertThat(read("results[run.branch eq \"main\"]", Thing.TEST))
        .isEqualTo(
            new Criterion.Within(
                Relation.TEST_RESULTS,
                new Criterion.Within(
                    Relation.RESULT_RUN, eq(Attribute.RUN_BRANCH, new Criterion.Words("main")))));
    assertThat(read("results.outcome eq \"failed\"", Thing.RUN))
        .isEqualTo(new Criterion.Within(Relation.RUN_RESULTS, failed));
    assertThat(read("run.results[outcome eq \"failed\"]", Thing.RESULT))
        .isEqualTo(read("run[results[outcome eq \"failed\"]]", Thing.RESULT));
    assertThat(read("results pr", Thing.RUN))
        .isEqualTo(new Criterion.Within(Relation.RUN_RESULTS, Criterion.EVERYTHING));
    assertThat(read("label[key eq \"build.os\"]", Thing.RUN))
        .isEqualTo(
            new Criterion.Within(
                Relation.RUN_LABELS, eq(Attribute.LABEL_KEY, new Criterion.Words("build.os"))));
    assertThat(read(" ", Thing.RUN)).isEqualTo(Criterion.EVERYTHING);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-03T02:00:00Z, 2026-11-03T02:00:00Z",
    "2026-11-03T02:00:00.123456789+02:00, 2026-11-03T00:00:00.123456Z",
    "2026-11-03, 2026-11-03T00:00:00Z",
    "-P7D, 2026-11-18T12:00:00Z",
    "-PT12H, 2026-11-25T00:00:00Z",
    "-P1DT12H, 2026-11-24T00:00:00Z",
    "-P1M, 2026-10-25T12:00:00Z",
    "-P2W, 2026-11-11T12:00:00Z",
    "-P1Y2DT1M, 2025-11-23T11:59:00Z",
  })
  void readsTimes(String text, Instant time) {
    assertThat(read("started gt \"" + text + "\"", Thing.RUN))
        .isEqualTo(
            new Criterion.Compares(
                Attribute.RUN_STARTED, null, Operator.GT, new Criterion.Moment(time)));
  }

  @ParameterizedTest
  @CsvSource({"2.5, 2.5", "'\"PT2.5S\"', 2.5", "'\"PT1M\"', 60", "3, 3"})
  void readsLengthsOfTime(String text, BigDecimal seconds) {
    assertThat(read("duration lt " + text, Thing.RESULT))
        .isInstanceOfSatisfying(
            Criterion.Compares.class,
            compares ->
                assertThat(((Criterion.Amount) compares.operand()).number())
                    .isEqualByComparingTo(seconds));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "RESULT | outcom eq \"failed\" | 1 | a result has no “outcom”; did you mean “outcome”?",
        "RUN | wind eq 3 | 1 | a run has no “wind”; it has stream, number,",
        "RESULT | name pr and run.brunch pr | 17 | a run has no “brunch”; did you mean “branch”?",
        "RESULT | run[brunch pr] | 5 | a run has no “brunch”; did you mean “branch”?",
        "RESULT | outcome eq \"faild\" | 12 | never “faild”; did you mean “failed”?",
        "RESULT | outcome eq \"amber\" | 12 | never “amber”; it is one of: passed,",
        "RESULT | outcome eq true | 12 | is a choice, which is written in quotes",
        "RESULT | outcome gt \"failed\" | 9 | “gt” does not go with “outcome”, which is a choice;"
            + " eq, ne, pr could",
        "RESULT | name eq 3 | 9 | is a text, which is written in quotes",
        "RUN | open eq \"true\" | 9 | is a flag, which is written true or false",
        "RUN | number co 3 | 8 | “co” does not go with “number”",
        "RUN | number gt \"3\" | 11 | is a number, which is written without quotes",
        "RUN | started gt \"yesterday\" | 12 | an instant, as in",
        "RUN | started gt \"-P99999Y\" | 12 | an instant, as in",
        "RUN | started gt \"-P9999999999999999D\" | 12 | an instant, as in",
        "RUN | started gt 3 | 12 | is a time, which is written in quotes",
        "RESULT | duration gt \"long\" | 13 | in seconds, as in 2.5",
        "RUN | label eq \"fares\" | 1 | “label” needs a key after a dot",
        "RUN | branch.x pr | 1 | “branch” has no parts after a dot",
        "RUN | branch[x pr] | 1 | “branch” has nothing inside it to ask about;"
            + " in brackets are asked: results, label",
        "LABEL | key[x pr] | 1 | a label has nothing that is asked in brackets",
        "RUN | rezults[x pr] | 1 | a run has no “rezults”; did you mean “results”?",
        "RUN | results[x pr] | 9 | a result has no “x”; it has outcome,",
        "RUN | results eq 3 | 1 | “results” is nothing to compare; ask in brackets: results[…]",
        "RESULT | run.results eq 3 | 5 | “results” is nothing to compare; ask in brackets",
        "RESULT | run.branch[x pr] | 5 | a run has no “branch” to ask in brackets",
        "RUN | urn:a:b:branch pr | 1 | names stand here without a URI",
        "RUN | number gt null | 8 | but by eq and ne",
        "RUN | branch eq \"a\\u0000\" | 11 | no text holds a NUL",
        "RUN | branch eq \"a\\ud83d\" | 11 | half of a character",
      })
  void saysWhereAndWhatCould(Thing thing, String text, int position, String message) {
    assertThatThrownBy(() -> read(text, thing))
        .isInstanceOf(FilterException.class)
        .hasMessageStartingWith("filter, position " + position + ": ")
        .hasMessageContaining(message);
  }

  /** Of names that differ by case only, one could never be asked. */
  @Test
  void namesOfAThingDiffer() {
    for (Thing thing : Thing.values()) {
      Set<String> seen = new HashSet<>();
      for (Attribute attribute : thing.attributes()) {
        assertThat(seen.add(attribute.word().toLowerCase(java.util.Locale.ROOT))).isTrue();
        assertThat(read(attribute.word() + " pr", thing))
            .isEqualTo(new Criterion.Present(attribute, null));
      }
    }
    assertThat(List.of(Thing.values())).allMatch(thing -> !thing.meaning().isBlank());
  }
}
