package org.vinecellar.core.filters;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CompletionTest {
  /** The cursor stands at the bar; proposals are told up to the third, and what is replaced. */
  @ParameterizedTest
  @CsvSource(
      delimiter = ';',
      quoteCharacter = '`',
      value = {
        "¦; outcome , change , text ; ",
        "out¦; outcome ; out",
        "OUT¦; outcome ; OUT",
        "out¦come; outcome ; outcome",
        "name pr and (dur¦; duration ; dur",
        "not (out¦; outcome ; out",
        "outcome ¦; eq , ne , pr; ",
        "duration g¦; gt , ge ; g",
        "outcome eq ¦; \"passed\",\"skipped\",\"not reached\"; ",
        "outcome eq \"¦; \"passed\",\"skipped\",\"not reached\"; \"",
        "outcome eq \"f¦; \"failed\"; \"f",
        "outcome eq \"f¦\" and name pr; \"failed\"; \"f\"",
        "setUp eq t¦; true; t",
        "name pr ¦; and , or ; ",
        "name pr a¦; and ; a",
        "(name pr ¦; and , or ,); ",
        "tries[message co \"x\" ¦; and , or ,]; ",
        "tries[me¦; message ; me",
        "run.¦; run.stream ,run.number ,run.open ; run.",
        "run.br¦; run.branch ; run.br",
        "run.open eq ¦; true,false; ",
        "run[started gt ¦; \"-PT24H\",\"-P7D\",\"-P1M\"; ",
        "name¦; name ; name",
        "tries[name¦; ; name",
        "nothing eq ¦; ; ",
        "name pr name ¦; ; ",
        "name co \"x\"¦; and , or ; ",
        "name pr) ¦; ; ",
        "name $ ¦; ; ",
        "\"a\" ¦; ; ",
      })
  void proposesWhatCouldStandThere(String text, String proposals, String replaced) {
    int at = text.indexOf('¦');
    String filter = text.replace("¦", "");
    Completion completion = Completion.at(filter, at, Thing.RESULT);
    assertThat(
            completion.proposals().stream()
                .limit(3)
                .map(one -> one.text().strip())
                .collect(Collectors.joining(",")))
        .isEqualTo(proposals == null ? "" : proposals.replace(" ,", ",").replace(", ", ","));
    assertThat(filter.substring(completion.from(), completion.to()))
        .isEqualTo(replaced == null ? "" : replaced);
  }

  @Test
  void saysWhoseValuesAndKeysCouldStandThere() {
    Completion value = Completion.at("label.team eq \"fa", 17, Thing.RESULT);
    assertThat(value.valuesOf()).isEqualTo(Attribute.RESULT_LABEL);
    assertThat(value.begun()).isEqualTo("fa");
    assertThat(value.key()).isEqualTo("team");
    assertThat(Completion.at("run.branch eq ", 14, Thing.RESULT).valuesOf())
        .isEqualTo(Attribute.RUN_BRANCH);
    Completion key = Completion.at("label.te", 8, Thing.RUN);
    assertThat(key.keysOf()).isEqualTo(Attribute.RUN_LABEL);
    assertThat(key.begun()).isEqualTo("label.te");
  }

  /** Wherever somebody writes: what is chosen makes the filter no longer than it has to be. */
  @Test
  void whatIsChosenAtTheEndNeverMakesItWorse() {
    Random random = new Random(7);
    for (int i = 0; i < 3000; i++) {
      StringBuilder text = new StringBuilder();
      for (int words = random.nextInt(12); words > 0; words--) {
        List<Completion.Proposal> proposals =
            Completion.at(text.toString(), text.length(), Thing.RESULT).proposals();
        if (proposals.isEmpty()) {
          text.append(text.toString().endsWith(".") ? "team " : "3 ");
        } else {
          String next = proposals.get(random.nextInt(proposals.size())).text();
          text.append(next).append(next.endsWith("[") || next.endsWith(".") ? "" : " ");
        }
      }
      String filter = text.toString();
      try {
        Criterion unused = Resolver.read(filter, Thing.RESULT, java.time.Instant.EPOCH);
      } catch (FilterException e) {
        // Unfinished, a value of the wrong kind, or too deep; never an unknown name or word.
        assertThat(e.getMessage())
            .as(filter)
            .doesNotContain("did you mean")
            .doesNotContain("has no “")
            .doesNotContain("does not go with");
      }
      for (int at = 0; at <= filter.length(); at++) {
        Completion completion = Completion.at(filter, at, Thing.RESULT);
        assertThat(completion.from()).isBetween(0, at);
        assertThat(completion.to()).isBetween(at, filter.length());
      }
    }
  }
}
