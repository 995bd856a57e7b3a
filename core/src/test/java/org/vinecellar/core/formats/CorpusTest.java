package org.vinecellar.core.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

/**
 * Files that real frameworks wrote, with the counts of their own consoles: see corpus/README.md.
 */
class CorpusTest {
  private final Recording recording = new Recording();

  private static Counts alone(String framework) {
    return UploadReader.read(
            Recording.directory(Path.of("src/test/resources/corpus", framework)),
            ReadLimits.DEFAULT,
            new Recording())
        .total();
  }

  private UploadReport read(String framework) {
    return UploadReader.read(
        Recording.directory(Path.of("src/test/resources/corpus", framework)),
        ReadLimits.DEFAULT,
        recording);
  }

  @ParameterizedTest
  @CsvSource({
    // framework, passed, failed, errored, skipped, not reached, retried, set-ups
    "surefire-junit5, 5, 2, 1, 1, 0, 3, 1",
    "surefire-nested, 15, 5, 1, 1, 0, 0, 1",
    "surefire-testng, 4, 2, 0, 0, 2, 1, 1",
    "surefire-testng-rows, 9, 2, 0, 0, 0, 2, 1",
    "testng-rows,     9, 2, 0, 0, 0, 2, 1",
    "pytest,          4, 2, 3, 2, 0, 0, 0",
    "node,            2, 2, 0, 2, 0, 0, 0",
    "googletest,      3, 2, 0, 2, 0, 0, 0",
    "phpunit,         2, 2, 1, 2, 0, 0, 0",
    "bats,            1, 1, 0, 1, 0, 0, 0",
    "mocha-xunit,     1, 1, 0, 2, 0, 0, 1",
    "jest-junit,      4, 2, 0, 1, 0, 0, 0",
    "vitest,          4, 2, 0, 2, 0, 0, 0",
    "ctest,           1, 1, 0, 1, 0, 0, 0",
    "catch2,          1, 1, 1, 1, 0, 0, 0",
    "testng,          4, 2, 0, 0, 2, 1, 1",
    "tap-node,        3, 2, 0, 2, 1, 0, 1",
    "tap-perl,        5, 2, 0, 2, 0, 0, 0",
    "tap-bats,        1, 1, 0, 1, 0, 0, 0",
    "tap-js,          3, 1, 0, 7, 0, 0, 0",
    "tap-braces,      4, 2, 0, 6, 0, 0, 0",
    "tap-tape,        3, 2, 0, 2, 0, 0, 0",
    "tap-ava,         3, 1, 0, 2, 0, 0, 0",
    "tap-qunit,       2, 2, 0, 2, 0, 0, 0",
    "tap-todo,        3, 1, 0, 5, 0, 0, 1",
    "newman,          10, 8, 2, 2, 0, 0, 6",
    "newman-junit,    6, 4, 0, 0, 0, 0, 3",
    "bruno,           3, 3, 0, 0, 0, 0, 3",
    "bruno-junit,     3, 4, 2, 0, 0, 0, 0",
    "cucumber-js,         6, 0, 5, 1, 0, 4, 0",
    "cucumber-js-json,    6, 0, 5, 1, 0, 0, 0",
    "cucumber-jvm,        6, 2, 3, 1, 0, 0, 0",
    "cucumber-jvm-json,   6, 2, 3, 1, 0, 0, 0",
    "behave,              5, 2, 5, 0, 0, 0, 0",
    "go,                  9, 2, 1, 1, 0, 0, 1",
    "rspec,               4, 1, 5, 3, 0, 0, 1",
    "rspec-load,          0, 0, 0, 0, 0, 0, 1",
    "mocha-json,          2, 1, 1, 2, 0, 1, 1",
    "jest-json,           3, 2, 2, 2, 0, 4, 1",
    "vitest-json,         4, 2, 1, 3, 0, 1, 1",
    "googletest-json,     3, 2, 0, 2, 0, 0, 0",
    "playwright,          6, 2, 6, 4, 2, 10, 0",
    "playwright-junit,    8, 1, 0, 0, 0, 0, 0",
    "robot,               3, 4, 4, 2, 2, 0, 2",
    "open-test-reporting, 8, 4, 5, 2, 0, 0, 1",
  })
  void countsAreThoseOfTheFrameworksConsole(
      String framework,
      int passed,
      int failed,
      int errored,
      int skipped,
      int missed,
      int retried,
      int setUps) {
    UploadReport report = read(framework);

    assertThat(report.unreadable()).isEmpty();
    assertThat(report.total())
        .isEqualTo(new Counts(passed, failed, errored, skipped, missed, retried, setUps));
  }

  /** What waits for its next try is not lost with the end of the file. */
  @Test
  void ofAFileThatIsCutOffWhatWasSkippedIsKept() {
    String cut =
        "<testsuite xsi:noNamespaceSchemaLocation='surefire.xsd' name='TestSuite'"
            + " xmlns:xsi='http://www.w3.org/2001/XMLSchema-instance'>"
            + "<testcase name='moors[a](1)' classname='q.Quay'><skipped message='late'/></testcase>"
            + "<testcase name='sails' classname='q.Quay'/><testcase name='boa";
    Counts counts = recording.read(cut).total();
    assertThat(counts.skipped()).isEqualTo(1);
    assertThat(counts.passed()).isEqualTo(1);
  }

  /** What is normal for a framework is not told as a problem each night. */
  @ParameterizedTest
  @ValueSource(strings = {"surefire-junit5", "surefire-nested"})
  void whatIsNormalIsNoProblem(String framework) {
    assertThat(read(framework).files())
        .allSatisfy(file -> assertThat(file.problems()).as(file.file()).isEmpty());
  }

  /**
   * Runs that were broken in every way that their framework has: what it called failed is red here,
   * or broken off, or cannot be read; where its file keeps silent, that is written down.
   */
  @ParameterizedTest
  @CsvFileSource(resources = "/corpus/broken/expected.csv", numLinesToSkip = 1)
  void whatTheFrameworkCallsFailedIsNotGreen(
      String file,
      int exit,
      String shown,
      int passed,
      int failed,
      int errored,
      int skipped,
      int missed,
      int retried,
      int setUps)
      throws IOException {
    Path path = Path.of("src/test/resources/corpus/broken", file);
    UploadReport report =
        UploadReader.read(
            List.of(Recording.source(file, Files.readAllBytes(path))),
            ReadLimits.DEFAULT,
            recording);
    Counts counts = report.total();
    String how =
        !report.unreadable().isEmpty()
            ? "unreadable"
            : counts.failed() + counts.errored() + counts.setUps() > 0
                ? "red"
                : report.brokenOff() ? "broken off" : counts.tests() == 0 ? "nothing" : "green";
    assertThat(how).isEqualTo(shown);
    assertThat(counts)
        .isEqualTo(new Counts(passed, failed, errored, skipped, missed, retried, setUps));
    if (how.equals("green") && exit != 0) {
      assertThat(file)
          .as("their files tell nothing of it: the job's status does")
          .matches("vitest-late\\..*|node-afterall\\.xml|pytest-inner\\.xml|check-fixture\\.xml");
    }
  }

  @Test
  void whatATestOfGoPrintsIsKeptWithinBounds() {
    String lines = "a_test.go:1: noise\n".repeat(700_000);
    UploadReport report =
        recording.read("=== RUN   TestA\n" + lines + "--- FAIL: TestA (0.00s)\nFAIL\tq/a\t0.1s\n");
    assertThat(report.total().failed()).isEqualTo(1);
    assertThat(report.files().get(0).problems())
        .contains("not all that the tests of a package printed is kept; it is in the raw file");
    String begun = "=== RUN   TestB\n".repeat(200_001) + "--- PASS: TestB (0.00s)\n";
    assertThat(new Recording().read(begun).files().get(0).error())
        .startsWith("has a package of more than 200000 lines about tests");
  }

  @Test
  void timesThatBatsPutsIntoNamesAreTakenOut() {
    recording.read("1..2\nok 1 boards in 12ms\nnot ok 2 sails in 9ms\n# no wind\nok 3 x in 7ms\n");
    assertThat(recording.results)
        .extracting(result -> result.test().name() + " " + result.durationMicros())
        .containsExactly("boards 12000", "sails 9000", "x 7000");
    Recording failing = new Recording();
    failing.read("1..9\n" + "not ok 1 boards\n".repeat(9));
    assertThat(failing.results).hasSize(9);
    Recording named = new Recording();
    named.read("1..2\nok 1 - answers in 200ms\nok 2 - sails\n");
    assertThat(named.results.get(0).test().name()).isEqualTo("answers in 200ms");
  }

  @Test
  void aRetriedTestOfSurefireHasBothTriesAndPasses() {
    read("surefire-junit5");

    TestResult flips = named("flips");
    assertThat(flips.test().suite().names()).containsExactly("org.skerrow.FareTest");
    assertThat(flips.attempts().get(0).failures().get(0).message()).isEqualTo("first try");
    assertThat(recording.again)
        .filteredOn(again -> again.test().name().equals("flips"))
        .extracting(again -> again.standing())
        .containsExactly(Outcome.PASSED);
  }

  @Test
  void projectsOfPlaywrightAreVariants() {
    read("playwright");
    assertThat(recording.results)
        .extracting(result -> result.test().variant().words().keySet())
        .allMatch(keys -> keys.contains("project"));
  }

  @Test
  void alsoInItsXml() {
    read("playwright-junit");
    assertThat(recording.results)
        .extracting(result -> result.test().name() + " / " + result.test().variant().text())
        .hasSize(9)
        .contains(
            "kiosk › wakes up / project=Mobile kiosk",
            "kiosk › wakes up / project=chromium",
            "kiosk › wakes up / project=webkit");
    assertThat(recording.results)
        .filteredOn(result -> result.outcome() == Outcome.FAILED)
        .extracting(result -> result.test().variant().text())
        .containsExactly("project=webkit");
    assertThat(recording.again).isEmpty();
  }

  @Test
  void aDirectoryThatHoldsTheSameRunInTwoFormatsCountsOnce() {
    List<SourceFile> files =
        new ArrayList<>(
            Recording.directory(Path.of("src/test/resources/corpus", "surefire-testng")));
    files.addAll(Recording.directory(Path.of("src/test/resources/corpus", "testng")));
    UploadReport both = UploadReader.read(files, ReadLimits.DEFAULT, recording);

    assertThat(both.total()).isEqualTo(alone("surefire-testng"));
    assertThat(both.files().get(files.size() - 1).problems())
        .containsExactly(
            "10 cases are of suites that another file told of in another format; counted there");
  }

  @Test
  void thatHoldsAlsoWhenTheSuiteFileNamesItsTests() throws java.io.IOException {
    List<SourceFile> files =
        new ArrayList<>(
            Recording.directory(Path.of("src/test/resources/corpus", "surefire-testng")));
    String own =
        java.nio.file.Files.readString(
            Path.of("src/test/resources/corpus/testng/testng-results.xml"));
    byte[] named = own.replace("Surefire test", "chromium").getBytes(StandardCharsets.UTF_8);
    files.add(Recording.source("testng-results.xml", named));

    assertThat(UploadReader.read(files, ReadLimits.DEFAULT, recording).total())
        .isEqualTo(alone("surefire-testng"));
  }

  @Test
  void unicodeParametersAndIllegalCharactersSurvive() {
    UploadReport report = read("node");

    assertThat(recording.results)
        .extracting(result -> result.test().displayName())
        .anyMatch(name -> name.contains("red") && name.endsWith("]]> end"));
    assertThat(report.files().get(0).problems()).anyMatch(p -> p.contains("XML does not allow"));
  }

  @Test
  void propertiesOfACaseAreKept() {
    read("pytest");

    assertThat(named("test_rows").properties()).containsEntry("berth", "B");
  }

  private TestResult named(String name) {
    List<TestResult> found =
        recording.results.stream().filter(r -> r.test().name().equals(name)).toList();
    assertThat(found).hasSize(1);
    return found.get(0);
  }
}
