package org.vinecellar.core.triage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.triage.grouping.Template;

/** What errors have in common, and what differs. */
class TemplateTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          no fare for Skerrow-Holm       | no fare for Kittiwake-Holm | no fare for #-Holm
          no fare for # of a child       | no fare for # of a dog     | no fare for # of a #
          the quay is closed             | the quay is closed         | the quay is closed
          the deck C is closed           | the deck is closed         | the deck #is closed
          the berth is taken             | nothing that is alike      | the berth is taken
          a table "2026" has no row      | a table "2027" has no row  | a table "#" has no row
          ship Ä is late                 | ship Ö is late             | ship # is late
          """)
  void whatDiffersIsAHole(String one, String other, String wanted) {
    assertThat(Template.widened(one, other)).isEqualTo(wanted);
  }

  @Test
  void valuesAreWhatStandsInTheHoles() {
    assertThat(Template.values("no fare for #-#, on #", "no fare for Skerrow-Holm, on Monday"))
        .contains(List.of("Skerrow", "Holm", "Monday"));
    assertThat(Template.values("no fare for #", "no berth for Holm")).isEmpty();
    assertThat(Template.values("table \"#\"", "table “2027”")).contains(List.of("2027"));
    assertThat(Template.values("a #b", "a b")).contains(List.of(""));
    assertThat(Template.values("ab#ba", "aba")).as("nothing is read twice").isEmpty();
  }

  /** Whatever is put together, it matches what it was made of. */
  @Test
  void aTemplateMatchesTheTextsThatItWasMadeOf() {
    Random random = new Random(5);
    String[] words = {"no", "fare", "for", "Holm", "-", "(", "12", "quay", "«"};
    for (int round = 0; round < 2_000; round++) {
      String first = text(random, words);
      String template = first;
      String second = text(random, words);
      template = Template.widened(template, second);
      assertThat(Template.values(template, first)).as("%s in %s", first, template).isPresent();
      assertThat(Template.widened(template, second)).isEqualTo(template);
      if (!template.equals(first) || first.equals(second)) {
        assertThat(Template.values(template, second)).as("%s in %s", second, template).isPresent();
      }
    }
  }

  private static String text(Random random, String[] words) {
    StringBuilder text = new StringBuilder();
    for (int i = random.nextInt(6) + 1; i > 0; i--) {
      text.append(words[random.nextInt(words.length)]).append(' ');
    }
    return text.toString().strip();
  }
}
