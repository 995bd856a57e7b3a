package org.vinecellar.core.formats.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;

class LiveJsonTest {

  static List<Path> frameworks() throws IOException {
    try (Stream<Path> all = Files.list(Path.of("src/test/resources/corpus"))) {
      return all.filter(Files::isDirectory).sorted().toList();
    }
  }

  /** What was attached does not travel in batches. */
  private static TestResult bare(TestResult result) {
    return result.with(
        result.attempts().stream()
            .map(
                attempt ->
                    new Attempt(
                        attempt.outcome(),
                        attempt.durationMicros(),
                        attempt.failures(),
                        attempt.stdout(),
                        attempt.stderr(),
                        attempt.steps().stream().map(LiveJsonTest::bare).toList(),
                        attempt.logs(),
                        List.of()))
            .toList());
  }

  private static Step bare(Step step) {
    return new Step(
        step.keyword(),
        step.text(),
        step.outcome(),
        step.status(),
        step.durationMicros(),
        step.failure(),
        step.argument(),
        step.table(),
        step.logs(),
        List.of(),
        step.steps().stream().map(LiveJsonTest::bare).toList());
  }

  @ParameterizedTest
  @MethodSource("frameworks")
  void whatAnyFrameworkWroteArrivesAsItWas(Path framework) throws IOException {
    Recording recording = new Recording();
    UploadReader.read(Recording.directory(framework), ReadLimits.DEFAULT, recording);
    List<TestResult> sent = recording.results.stream().map(LiveJsonTest::bare).toList();
    LiveJson.Batch batch =
        new LiveJson.Batch(
            7,
            sent,
            List.of(
                new RunningNow(
                    List.of("Tides"), "high water", Instant.parse("2026-11-20T06:00:00Z")),
                new RunningNow(List.of(), "low water", null)));

    LiveJson.Batch arrived = LiveJson.read(bytes(LiveJson.write(batch).toString()));

    assertThat(arrived).isEqualTo(batch);
  }

  private static InputStream bytes(String text) {
    return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "{\"batch\":1} {}",
        "{\"batch\":1,\"results\":[",
        "{}",
        "null",
        "[]",
        "{\"batch\":0}",
        "{\"batch\":1,\"results\":[{}]}",
        "{\"batch\":1,\"results\":[{\"name\":\"a\",\"attempts\":[{\"outcome\":9}]}]}",
        "{\"batch\":1,\"results\":[{\"name\":\"a\",\"attempts\":[{}],\"started\":\"noon\"}]}",
      })
  void whatIsNoneIsRefused(String text) {
    assertThatThrownBy(() -> LiveJson.read(bytes(text)))
        .isInstanceOf(CellarException.class)
        .hasMessageStartingWith("the batch ");
  }
}
