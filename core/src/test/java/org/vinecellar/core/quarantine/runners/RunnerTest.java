package org.vinecellar.core.quarantine.runners;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.runs.KeptTest;

/** Arguments mean the tests that they are made of, and no other. */
class RunnerTest {
  private static NamedTest test(String suite, String whole, @Nullable String file) {
    int bracket = whole.indexOf('[');
    return new NamedTest(
        new KeptTest(
            1,
            suite.isEmpty() ? List.of() : List.of("outer", suite),
            bracket < 0 ? whole : whole.substring(0, bracket),
            bracket < 0 ? null : whole.substring(bracket),
            Map.of()),
        file);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = ';',
      quoteCharacter = '`',
      value = {
        "maven; org.skerrow.FareTest; rounds; ; -Dtest=!org.skerrow.FareTest#rounds"
            + " -Dsurefire.failIfNoSpecifiedTests=false; -Dtest=org.skerrow.FareTest#rounds"
            + " -Dsurefire.failIfNoSpecifiedTests=false",
        "maven; org.skerrow.FareTest; rounds[2]; ; ; -Dtest=org.skerrow.FareTest#rounds"
            + " -Dsurefire.failIfNoSpecifiedTests=false",
        "maven; the fares; round half up; ; ;",
        "gradle; org.skerrow.FareTest; rounds; ; ; --tests org.skerrow.FareTest.rounds",
        "pytest; tests.test_fares.TestRounding; test_half[2]; ;"
            + " --deselect=tests/test_fares.py::TestRounding::test_half[2];"
            + " tests/test_fares.py::TestRounding::test_half[2]",
        "pytest; fares.checks; test_half; fares/checks.py; --deselect=fares/checks.py::test_half;"
            + " fares/checks.py::test_half",
        "pytest; fares.checks; test_half; ; ;",
        "pytest; test_a.test_b; test_half; ; ;",
        "go; TestHalf; rounds_(up); ; -skip=^TestHalf$/^rounds_\\(up\\)$;"
            + " -run=^TestHalf$/^rounds_\\(up\\)$",
        "dotnet; Skerrow.Fares.Rounding; Half; ; --filter FullyQualifiedName!=Skerrow.Fares.Rounding.Half;"
            + " --filter FullyQualifiedName=Skerrow.Fares.Rounding.Half",
        "gtest; Rounding/Fares; Half/0; ; --gtest_filter=-Rounding/Fares.Half/0;"
            + " --gtest_filter=Rounding/Fares.Half/0",
        "gtest; Rounding; Ha*f; ; ;",
        "cargo; fares; rounding::half; ; --exact --skip rounding::half; --exact rounding::half",
        "cargo; fares; --help; ; ;",
        "mocha; fares; half; ; --grep=^(?:fares half)$ --invert; --grep=^(?:fares half)$",
        "ctest; ; fares.half; ; -E ^(fares\\.half)$; -R ^(fares\\.half)$",
        "phpunit; Fares\\Rounding; testHalf; ; --filter /^(?!(?:Fares\\\\Rounding::testHalf)$)/;"
            + " --filter /^(?:Fares\\\\Rounding::testHalf)$/",
      })
  void leavesOutOrRunsJustThese(
      String runner,
      @Nullable String suite,
      String name,
      @Nullable String file,
      @Nullable String without,
      @Nullable String only) {
    NamedTest test = test(suite == null ? "" : suite, name, file);
    Runner one = Runner.of(runner).orElseThrow();
    Arguments left = one.arguments(List.of(test), false);
    Arguments run = one.arguments(List.of(test), true);
    assertThat(String.join(" ", left.words())).isEqualTo(without == null ? "" : without);
    assertThat(String.join(" ", run.words())).isEqualTo(only == null ? "" : only);
    assertThat(left.left()).as("what cannot be told is said").hasSize(without == null ? 1 : 0);
    assertThat(run.left()).hasSize(only == null ? 1 : 0);
  }

  /** By reports that real runners wrote, and the names by which these runners know their tests. */
  @ParameterizedTest
  @CsvSource(
      delimiter = ';',
      quoteCharacter = '`',
      value = {
        "surefire-junit5; passes; maven; -Dtest=org.skerrow.FareTest#passes -Dsurefire.failIfNoSpecifiedTests=false",
        "pytest; test_island[Skerrow]; pytest; test_kiosk.py::test_island[Skerrow]",
        "go; TestRounds; go; -run=^TestRounds$",
        "go; adult_½; go; -run=^TestRows$/^adult_½$",
        "googletest; Odd/0; gtest; --gtest_filter=Numbers/P.Odd/0",
        "phpunit; testOk; phpunit; --filter /^(?:FareTest::testOk)$/",
        "ctest; sinks; ctest; -R ^(sinks)$",
        "jest-json; adds 1 to 2; jest; --testNamePattern=^(?:Fares adds 1 to 2)$",
        "jest-junit; boarding row 1; jest; --testNamePattern=^(?:boarding row 1)$",
        "vitest; boarding > row 1; vitest; --testNamePattern=^(?:boarding row 1)$",
        "vitest-json; rounds ½ up; vitest; --testNamePattern=^(?:Fares rounds ½ up)$",
        "mocha-json; throws; mocha; --grep=^(?:Fares throws)$",
        "mocha-xunit; fails; mocha; --grep=^(?:boarding fails)$",
        "playwright; throws; playwright; --grep=(?:^|\\s)(?:Fares throws)(?=$|\\s@)",
        "playwright-junit; kiosk › wakes up; playwright; --grep=(?:^|\\s)(?:kiosk wakes up)(?=$|\\s@)",
        "rspec; rounds ½ up; rspec; --example-matches ^(?:Fares rounds ½ up)$",
      })
  void namesAreThoseOfTheRunner(String corpus, String name, String runner, String only) {
    Recording recording = new Recording();
    var unused =
        UploadReader.read(
            Recording.directory(Path.of("src/test/resources/corpus", corpus)),
            ReadLimits.DEFAULT,
            recording);
    List<NamedTest> tests =
        recording.results.stream()
            .map(
                result ->
                    new NamedTest(
                        new KeptTest(
                            1,
                            result.test().suite().names(),
                            result.test().name(),
                            result.test().parameters(),
                            Map.of()),
                        result.file()))
            .filter(test -> test.whole().equals(name))
            .limit(1)
            .toList();
    assertThat(tests).hasSize(1);
    assertThat(String.join(" ", Runner.of(runner).orElseThrow().arguments(tests, true).words()))
        .isEqualTo(only);
  }

  /** Names with all that means something in patterns, short enough to be beginnings of others. */
  private static String name(Random random) {
    StringBuilder name = new StringBuilder("a");
    for (int i = 1 + random.nextInt(4); i > 0; i--) {
      name.append("ab.*+?^$|()[]{}\\/-, :".charAt(random.nextInt(21)));
    }
    return name.append('z').toString();
  }

  @ParameterizedTest
  @EnumSource(names = {"JEST", "VITEST", "RSPEC"})
  void patternsMeanNoOtherTest(Runner runner) {
    Random random = new Random(7);
    for (int round = 0; round < 300; round++) {
      Set<String> all = new HashSet<>();
      while (all.size() < 12) {
        all.add(name(random));
      }
      List<String> names = List.copyOf(all);
      List<NamedTest> some =
          names.subList(0, 4).stream()
              .map(n -> new NamedTest(new KeptTest(1, List.of(), n, null, Map.of()), null))
              .toList();
      for (boolean only : new boolean[] {true, false}) {
        List<String> words = runner.arguments(some, only).words();
        String last = words.get(words.size() - 1).replaceFirst("^--testNamePattern=", "");
        List<String> ran = new ArrayList<>(names);
        ran.removeIf(n -> !Pattern.compile(last).matcher(n).find());
        assertThat(ran)
            .as("%s", last)
            .containsExactlyElementsOf(only ? names.subList(0, 4) : names.subList(4, 12));
      }
    }
  }

  @ParameterizedTest
  @EnumSource
  void nothingIsNoArgument(Runner runner) {
    assertThat(runner.arguments(List.of(), false).words()).isEmpty();
    assertThat(runner.arguments(List.of(test("s", "a\nb", null)), false).words())
        .as("a line is an argument")
        .isEmpty();
  }

  @Test
  void theSameNameIsToldOnce() {
    assertThat(
            Runner.GRADLE
                .arguments(List.of(test("a.B", "c[1]", null), test("a.B", "c[2]", null)), true)
                .words())
        .containsExactly("--tests", "a.B.c");
  }
}
