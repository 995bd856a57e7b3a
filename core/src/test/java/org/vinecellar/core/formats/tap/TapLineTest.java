package org.vinecellar.core.formats.tap;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Lines one by one, as the grammar has them and as they are written. */
class TapLineTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        // line | indent | ok | number | name | directive | reason
        "ok | 0 | true | | `` | | ``",
        "not ok | 0 | false | | `` | | ``",
        "ok 7 | 0 | true | 7 | `` | | ``",
        "ok 7 - adds | 0 | true | 7 | adds | | ``",
        "ok 7 adds | 0 | true | 7 | adds | | ``",
        "ok - adds | 0 | true | | adds | | ``",
        "ok adds | 0 | true | | adds | | ``",
        "ok 2nd try | 0 | true | | 2nd try | | ``",
        "not ok 7 - a - b | 0 | false | 7 | a - b | | ``",
        "`    ok 1 - deep  ` | 4 | true | 1 | deep | | ``",
        "ok 1 # SKIP | 0 | true | 1 | `` | SKIP | ``",
        "ok 1 # skip no berth | 0 | true | 1 | `` | SKIP | no berth",
        "ok 1 - a # Skipped: no berth | 0 | true | 1 | a | SKIP | no berth",
        "not ok 1 - a # TODO later | 0 | false | 1 | a | TODO | later",
        "ok 1 - a #todo | 0 | true | 1 | a | TODO | ``",
        "ok 1 - berth #4 | 0 | true | 1 | berth #4 | | ``",
        "ok 1 - a \\# SKIP b | 0 | true | 1 | a # SKIP b | | ``",
        "ok 1 - a\\\\b | 0 | true | 1 | a\\b | | ``",
      })
  void points(
      String line,
      int indent,
      boolean ok,
      String number,
      String name,
      String directive,
      String reason) {
    assertThat(TapLine.of(line))
        .isEqualTo(new TapLine.Point(indent, ok, number, name, directive, reason));
  }

  @Test
  void plansVersionsCommentsAndBails() {
    assertThat(TapLine.of("1..12")).isEqualTo(new TapLine.Plan(0, 12, null));
    assertThat(TapLine.of("    1..0 # SKIP no berth"))
        .isEqualTo(new TapLine.Plan(4, 0, "SKIP no berth"));
    assertThat(TapLine.of("TAP version 14")).isEqualTo(new TapLine.Header(0, 14));
    assertThat(TapLine.of("pragma +strict")).isEqualTo(new TapLine.Header(0, 0));
    assertThat(TapLine.of("Bail out!")).isEqualTo(new TapLine.Bail(0, ""));
    assertThat(TapLine.of("Bail out! no database")).isEqualTo(new TapLine.Bail(0, "no database"));
    assertThat(TapLine.of("    # Subtest: fares \\# 1"))
        .isEqualTo(new TapLine.Subtest(4, "fares # 1"));
    assertThat(TapLine.of("#   Failed test")).isEqualTo(new TapLine.Comment(0, "   Failed test"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"okay", "not okay", "OK 1", "1...3", "1..x", "1..3 tests", "---", ""})
  void whatIsPrintedIsNoTap(String line) {
    assertThat(TapLine.of(line)).isEqualTo(new TapLine.Other(0, line));
  }
}
