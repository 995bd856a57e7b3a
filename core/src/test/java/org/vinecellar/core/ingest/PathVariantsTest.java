package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.problem.CellarException;

class PathVariantsTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "build/{jdk}/*.xml      | build/17/TEST-a.xml         | {jdk=17}",
        "./build/{jdk}/*.xml    | build/17/TEST-a.xml         | {jdk=17}",
        "build/{jdk}/*.xml      | build/17/18/TEST-a.xml      | {}",
        "{os}/**/{browser}.json | linux/a/b/firefox.json      | {browser=firefox, os=linux}",
        "{os}/**/{browser}.json | linux/firefox.json          | {browser=firefox, os=linux}",
        "jdk-{jdk}-{os}/a.xml   | jdk-17-mac.os/a.xml         | {jdk=17, os=mac.os}",
        "{jdk}/r.{xml,json}     | 17/r.json                   | {jdk=17}",
        "{jdk}/?.xml            | 17/a.xml                    | {jdk=17}",
        "out\\{jdk}\\*.xml      | out\\17\\a.xml              | {jdk=17}",
        "a(.*){jdk}+            | a(.*)17+                    | {jdk=17}",
      })
  void aKeyStandsForAName(String pattern, String path, String words) {
    assertThat(PathVariants.of(List.of(pattern)).of(path).words()).hasToString(words);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "build/*.xml       | has no key in braces, as in build/{jdk}/*.xml",
        "build/{a b}/*.xml | has no key in braces",
        "build/{a,b}/*.xml | has no key in braces",
      })
  void whatTellsNothingIsRefused(String pattern, String message) {
    assertThatThrownBy(() -> PathVariants.of(List.of(pattern)))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining(message);
  }

  @Test
  void everyPatternIsLikeAFileAndNoneTakesForEver() {
    PathVariants paths = PathVariants.of(List.of("{jdk}/a.xml", "*a*a*a*a*a*a*a*a*{x}b"));
    assertThatThrownBy(() -> paths.check(List.of("17/a.xml", "a".repeat(20_000))))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("no file is like the pattern “*a*a");
    assertThat(paths.of("17/b.xml").isNone()).isTrue();
    assertThatThrownBy(() -> paths.of("x".repeat(201) + "/a.xml"))
        .isInstanceOf(CellarException.class);
  }
}
