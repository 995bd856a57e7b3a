package org.vinecellar.core.results;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.problem.CellarException;

class VariantTest {
  private static final TestId PLAIN = TestId.of(SuitePath.ROOT.child("Fares"), "rounds", "[2]");

  private static TestId in(Map<String, String> words) {
    return PLAIN.in(Variant.of(words));
  }

  @Test
  void anotherVariantIsAnotherTestOfTheSameBase() {
    Map<String, String> oneWay = new LinkedHashMap<>();
    oneWay.put("os", "reef");
    oneWay.put("browser", "webkit");
    Map<String, String> otherWay = Map.of("browser", "webkit", "os", "reef");
    assertThat(in(oneWay)).isEqualTo(in(otherWay));
    List<TestId> all =
        List.of(
            PLAIN,
            in(otherWay),
            in(Map.of("browser", "webkit")),
            in(Map.of("browser", "reef", "os", "webkit")),
            in(Map.of("browserwebkit", "reef")),
            in(Map.of("browser", "webkitos=reef")),
            PLAIN.repetition(2).in(Variant.of(Map.of("browser", "webkit"))),
            TestId.of(PLAIN.suite(), "rounds", "[3]").in(Variant.of(Map.of("browser", "webkit"))));
    Set<Key128> keys = new HashSet<>();
    all.forEach(test -> keys.add(test.key()));
    assertThat(keys).hasSameSizeAs(all);
    assertThat(in(otherWay).base()).isEqualTo(PLAIN.base()).isEqualTo(PLAIN.key());
    assertThat(in(otherWay).in(Variant.NONE)).isEqualTo(PLAIN);
    assertThat(in(otherWay).repetition(2).variant()).isEqualTo(in(otherWay).variant());
  }

  @Test
  void theFinerWordWins() {
    Variant part = Variant.of(Map.of("browser", "any", "jdk", "21"));
    assertThat(part.with(Variant.told("browser", "webkit")).text())
        .isEqualTo("browser=webkit, jdk=21");
    assertThat(part.with(Variant.NONE)).isSameAs(part);
    assertThat(Variant.NONE.with(part)).isSameAs(part);
  }

  @ParameterizedTest
  @CsvSource({"'',''", "'  ',''", "' a\tb\n ',project=a b", "webkit,project=webkit"})
  void whatAFileTellsIsKeptInBounds(String told, String text) {
    assertThat(Variant.told("project", told).text()).isEqualTo(text);
  }

  @Test
  void longWordsOfFilesStayApart() {
    String one = "x".repeat(500);
    Variant first = Variant.told("project", one + "1");
    assertThat(Variant.of(first.words())).isEqualTo(first);
    assertThat(first).isNotEqualTo(Variant.told("project", one + "2"));
    assertThat(Variant.told("project", null)).isEqualTo(Variant.NONE);
  }

  @ParameterizedTest
  @CsvSource({"a b,c,is not a word", "jdk,'',is empty", "jdk,'a\tb',control character"})
  void wordsOfSendersAreChecked(String key, String value, String why) {
    Map<String, String> words = Map.of(key, value);
    assertThatThrownBy(() -> Variant.of(words))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("the variant")
        .hasMessageContaining(why);
  }
}
