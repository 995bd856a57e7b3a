package org.vinecellar.core.formats.cucumber;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;

class CucumberTest {
  private static final Path CORPUS = Path.of("src/test/resources/corpus");
  private final Recording recording = new Recording();

  private UploadReport read(String... folders) {
    List<SourceFile> files = new ArrayList<>();
    for (String folder : folders) {
      files.addAll(Recording.directory(CORPUS.resolve(folder)));
    }
    return UploadReader.read(files, ReadLimits.DEFAULT, recording);
  }

  private TestResult named(String name) {
    return recording.results.stream()
        .filter(result -> result.test().displayName().equals(name))
        .findFirst()
        .orElseThrow();
  }

  @ParameterizedTest
  @ValueSource(strings = {"cucumber-js", "cucumber-js-json", "cucumber-jvm", "cucumber-jvm-json"})
  void stepsTablesAndTextsAreKept(String folder) {
    read(folder);

    TestResult manifest = named("With a manifest");
    List<Step> steps = manifest.attempts().get(0).steps();
    assertThat(steps)
        .extracting(Step::displayText)
        .startsWith(
            "Given the ferry \"Æsvik\" is in port",
            "Given these passengers:",
            "And this note:",
            "Then it sails");
    assertThat(steps.get(1).table())
        .containsExactly(List.of("name", "fare"), List.of("Ada", "12.50"), List.of("Bo", "6.25"));
    assertThat(steps.get(2).argument()).isEqualTo("{\"deck\": 2}");
    assertThat(named("A calm crossing").tags()).containsExactly("timetable", "smoke");
    assertThat(named("A calm crossing").line()).isEqualTo(11);

    Attempt undefined = named("Nobody wrote this").attempts().get(0);
    assertThat(undefined.steps())
        .extracting(Step::status)
        .contains("undefined")
        .doesNotContain("pending");
    assertThat(undefined.firstLine())
        .isEqualTo("no code matches the step “When somebody paints the hull”");
    assertThat(undefined.steps().get(2).outcome()).isEqualTo(Outcome.SKIPPED);
  }

  @Test
  void messagesTellRulesRetriesRowsAndWhatWasAttached() {
    read("cucumber-js");

    TestResult mastiff = named("Mastiff of 90 kg");
    assertThat(mastiff.test().suite().names()).containsExactly("Sailings", "Dogs travel below");
    assertThat(mastiff.tags()).containsExactly("timetable", "large");
    assertThat(mastiff.attempts()).hasSize(2);
    Attempt last = mastiff.attempts().get(1);
    assertThat(last.attachments())
        .extracting(attachment -> attachment.mediaType())
        .containsExactly("application/json", "image/png");
    assertThat(last.steps().get(1).attachments()).containsExactly(0);
    assertThat(last.steps().get(0).logs().get(0).text()).isEqualTo("moored Æsvik");
  }

  @Test
  void jsonAndMessagesOfOneRunCountOnce() {
    assertThat(read("cucumber-js", "cucumber-js-json").total().tests()).isEqualTo(12);
    recording.results.clear();
    assertThat(read("cucumber-js-json", "cucumber-js").total().tests()).isEqualTo(12);
  }

  @Test
  void aRunThatBrokeOffIsKeptUpToThereAndMarked() throws IOException {
    List<String> lines = Files.readAllLines(CORPUS.resolve("cucumber-js/cucumber-js.ndjson"));
    int started = 0;
    int end = 0;
    while (started < 3) {
      started += lines.get(end++).startsWith("{\"testCaseStarted\"") ? 1 : 0;
    }
    List<String> kept = new ArrayList<>(lines.subList(0, end + 1));
    kept.add(5, "{\"pickle\": broken");
    UploadReport report =
        UploadReader.read(
            List.of(
                Recording.source(
                    "m.ndjson", String.join("\n", kept).getBytes(StandardCharsets.UTF_8))),
            ReadLimits.DEFAULT,
            recording);

    assertThat(report.files().get(0).brokenOff()).isTrue();
    assertThat(report.files().get(0).problems())
        .contains("line 6 is no JSON object and was left out")
        .anyMatch(problem -> problem.startsWith("broken off: it has no testRunFinished"));
    assertThat(report.total().tests()).isEqualTo(12);
    assertThat(report.total().notReached()).isGreaterThanOrEqualTo(9);
    assertThat(report.total().errored()).isEqualTo(1);
  }
}
