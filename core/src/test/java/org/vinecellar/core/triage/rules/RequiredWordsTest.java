package org.vinecellar.core.triage.rules;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.re2j.Pattern;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Which words a text needs for a pattern: never one too many. */
class RequiredWordsTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '~',
      value = {
        "(?i)connection refused|actively Refused ~ connection refused,actively refused",
        "timed out after \\d+ seconds ~ timed out after",
        "\\bECONNREFUSED\\b ~ econnrefused",
        "Quay\\.free\\( ~ quay.free(",
        "a(bcd|efgh)+i ~ bcd,efgh",
        "(?P<x>berth) gone ~ berth",
        "abc+defg? ~ abc",
        "berths? taken ~ berth",
        "x{2,}(berth){1,3} ~ berth",
        "\\Qa.b|c\\E ~ a.b|c",
        "[abc]]berth ~ ]berth",
      })
  void whatIsNeededIsTold(String pattern, String words) {
    assertThat(RequiredWords.of(pattern)).contains(Set.of(words.split(",")));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        ".*",
        "ab",
        "(abc)?",
        "abc|x",
        "a.b.c",
        "\\d{4}",
        "[a-z]+",
        "\\x41\\x42",
        "(a|)",
        "é{3}"
      })
  void whereNothingIsNeededNothingIsTold(String pattern) {
    assertThat(RequiredWords.of(pattern)).isEmpty();
  }

  @Test
  void mostRulesToStartWithNeedWords() {
    assertThat(Starters.ALL)
        .filteredOn(one -> !one.said().pattern().isEmpty())
        .filteredOn(one -> RequiredWords.of(one.said().pattern()).isPresent())
        .hasSize(4);
  }

  /** Whatever is written: a text in which it stands is never left out. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void noTextIsLeftOutInWhichItStands(long seed) {
    Random random = new Random(seed);
    int found = 0;
    int told = 0;
    for (int i = 0; i < 4_000; i++) {
      String pattern = (random.nextInt(3) == 0 ? "(?i)" : "") + some(random, 3);
      RulePattern read;
      try {
        read = RulePattern.of(pattern);
      } catch (RuntimeException e) {
        continue;
      }
      RulePatterns patterns = new RulePatterns(List.of(read));
      told += read.needs().isPresent() ? 1 : 0;
      for (int k = 0; k < 20; k++) {
        String text = text(random);
        if (Pattern.compile(pattern, Pattern.MULTILINE).matcher(text).find()) {
          found++;
          assertThat(patterns.worthTrying(text).get(0))
              .as("%s in “%s”, needs %s", pattern, text, read.needs())
              .isTrue();
        }
      }
    }
    assertThat(found).isGreaterThan(5_000);
    assertThat(told).isGreaterThan(200);
  }

  private static String text(Random random) {
    StringBuilder text = new StringBuilder();
    String letters = random.nextInt(8) == 0 ? "aks\u212a\u017f" : "abkS \n";
    for (int i = 0; i < 30; i++) {
      text.append(letters.charAt(random.nextInt(letters.length())));
    }
    return text.toString();
  }

  private static String some(Random random, int depth) {
    StringBuilder pattern = new StringBuilder();
    int things = 1 + random.nextInt(5);
    for (int i = 0; i < things; i++) {
      pattern.append(
          switch (random.nextInt(depth > 0 ? 14 : 9)) {
            case 0 -> ".";
            case 1 -> "[ab]";
            case 2 -> random.nextBoolean() ? "\\b" : "\\w";
            case 3, 4 -> random.nextInt(3) == 0 ? "\\Qab\\E" : random.nextBoolean() ? "abk" : "S a";
            case 5, 6, 7, 8 -> String.valueOf("abkS ".charAt(random.nextInt(5)));
            case 9 -> "(" + some(random, depth - 1) + ")";
            case 10 -> "(?:" + some(random, depth - 1) + "|" + some(random, depth - 1) + ")";
            case 11 -> some(random, depth - 1) + "|" + some(random, depth - 1);
            case 12 -> "(?i:" + some(random, depth - 1) + ")";
            default -> "^?" + some(random, depth - 1) + "$?";
          });
      pattern.append(
          switch (random.nextInt(12)) {
            case 0 -> "?";
            case 1 -> "*";
            case 2 -> "+";
            case 3 -> "{2}";
            case 4 -> "{0,2}";
            case 5 -> "+?";
            default -> "";
          });
    }
    return pattern.toString();
  }
}
