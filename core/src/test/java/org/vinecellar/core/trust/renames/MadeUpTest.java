package org.vinecellar.core.trust.renames;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MadeUpTest {
  @ParameterizedTest
  @CsvSource({
    "sells, [guest-7f31], sells, […]",
    "sells 3f2504e0-4f89-11d3-9a0c-0305e82c3301 once, , sells … once, ",
    "opens at 2026-11-29T07:28:11Z, , opens at …, ",
    "berth12_isFree, , …_isFree, ",
    "moors, (), moors, […]",
    "Größe 7, , Größe …, ",
    "-1 and 1-, , -… and …-, ",
  })
  void whatCouldBeMadeUpIsMarked(
      String name, @Nullable String parameters, String same, @Nullable String mark) {
    assertThat(MadeUp.family(name, parameters)).isEqualTo(new MadeUp.Family(same, mark));
  }

  @Test
  void whatHasNothingOfTheKindIsNoFamily() {
    assertThat(MadeUp.family("opens-the ramp", null)).isNull();
    assertThat(MadeUp.family("", null)).isNull();
    assertThat(MadeUp.family("9".repeat(1_001), null)).isNull();
  }

  @Test
  void manyThatComeAgainAndAgainAndStayAwayAreMadeUp() {
    assertThat(MadeUp.are(List.of(1000, 1000, 1000), 2000, 0)).isTrue();
    assertThat(MadeUp.are(List.of(20, 1, 20, 20), 41, 4)).isTrue();
    assertThat(MadeUp.are(List.of(1000, 1000), 1000, 0)).as("too early to say").isFalse();
    assertThat(MadeUp.are(List.of(30, 30, 30), 60, 60)).as("a test that grows").isFalse();
    assertThat(MadeUp.are(List.of(300, 5, 19, 300), 324, 0)).as("renamed once").isFalse();
  }
}
