package org.vinecellar.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.ResultSink;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;

/** The story holds, is the same each time, and its files are read without a complaint. */
class StoryTest {
  private static final Instant NIGHT = Instant.parse("2026-11-20T01:30:00Z");
  private @TempDir Path work;

  private static final Map<String, IntFunction<List<Suite>>> STREAMS =
      Map.of(
          "booking-api/nightly", n -> Story.booking("booking-api/nightly", Catalog.booking(), n),
          "booking-api/change",
              n -> Story.booking("booking-api/change", Catalog.bookingChange(), n),
          "quayside-kiosk/browser", n -> Story.kiosk("quayside-kiosk/browser", n),
          "timetable-rules/scenarios", n -> Story.timetable("timetable-rules/scenarios", n),
          "deckhand-app/device", n -> Story.device("deckhand-app/device", "tablet", n),
          "fare-tables/properties", n -> Story.fareTables("fare-tables/properties", n));

  private static List<Suite> night(String stream, int night) {
    return Objects.requireNonNull(STREAMS.get(stream)).apply(night);
  }

  private byte[] file(String stream, int night) throws IOException {
    Path file = work.resolve(Demo.fileName(stream));
    if (Demo.isScenarios(stream)) {
      ScenarioFile.write(file, NIGHT, night(stream, night));
    } else {
      ReportFile.write(file, NIGHT, Map.of("os.name", "Linux"), night(stream, night));
    }
    return Files.readAllBytes(file);
  }

  private record Read(Counts counts, List<TestResult> results, List<String> problems) {}

  private Read read(String stream, int night) throws IOException {
    return read(file(stream, night), CsvColumns.NONE);
  }

  private static Read read(byte[] bytes, CsvColumns columns) {
    SourceFile source =
        new SourceFile() {
          @Override
          public String name() {
            return "report.xml";
          }

          @Override
          public InputStream open() {
            return new java.io.ByteArrayInputStream(bytes);
          }
        };
    List<TestResult> results = new ArrayList<>();
    ResultSink sink =
        new ResultSink() {
          @Override
          public void first(int ordinal, TestResult result) {
            results.add(result);
          }

          @Override
          public void again(Again again) {}
        };
    var report =
        UploadReader.read(
            List.of(source),
            ReadLimits.DEFAULT,
            UploadReader.Hints.of(columns),
            new AttachmentFiles<>(),
            sink);
    assertThat(report.files().get(0).error()).isNull();
    return new Read(report.total(), results, report.files().get(0).problems());
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "booking-api/nightly",
        "booking-api/change",
        "quayside-kiosk/browser",
        "timetable-rules/scenarios",
        "deckhand-app/device",
        "fare-tables/properties",
      })
  void everyNightIsTheSameEachTimeAndRead(String stream) throws IOException {
    for (int night = 1; night <= Story.NIGHTS; night++) {
      assertThat(file(stream, night)).isEqualTo(file(stream, night));
      Read read = read(stream, night);
      int cases = night(stream, night).stream().mapToInt(suite -> suite.cases().size()).sum();
      assertThat(read.counts().tests()).isPositive().isLessThanOrEqualTo(cases);
      assertThat(read.problems()).as("night %d", night).hasSizeLessThanOrEqualTo(1);
      if (Demo.isScenarios(stream)) {
        assertThat(read.results())
            .allSatisfy(
                result ->
                    assertThat(result.attempts().get(0).steps()).hasSizeGreaterThanOrEqualTo(3));
      }
    }
  }

  private static boolean fails(List<Suite> suites, String suite, String test) {
    return suites.stream()
        .filter(one -> one.name().endsWith(suite))
        .flatMap(one -> one.cases().stream())
        .anyMatch(one -> one.name().startsWith(test) && one.failure() != null);
  }

  private static List<Integer> nights(String stream, String suite, String test) {
    return IntStream.rangeClosed(1, Story.NIGHTS)
        .filter(night -> fails(night(stream, night), suite, test))
        .boxed()
        .toList();
  }

  @Test
  void theRoundingFaultComesIsFixedAndReturns() {
    assertThat(nights("booking-api/nightly", "FareRoundingTest", "roundsHalfUpToTheCent"))
        .containsExactly(9, 10, 11, 12, 13, 14, 27, 28, 29, 33, 34);
    assertThat(nights("booking-api/nightly", "FareRoundingTest", "keepsTheCent"))
        .containsExactly(34);
  }

  @Test
  void theOutageTakesNearlyEverythingForOneNight() throws IOException {
    Counts before = read("booking-api/nightly", 19).counts();
    Counts outage = read("booking-api/nightly", 20).counts();

    assertThat(before.failing()).isZero();
    assertThat(outage.failing()).isGreaterThan(outage.tests() * 3 / 4);
    assertThat(read("booking-api/nightly", 21).counts().failing()).isZero();
  }

  @Test
  void theKioskTestFlipsWithoutAReason() {
    List<Integer> failing = nights("quayside-kiosk/browser", "", "test_receipt_is_shown");
    long retried =
        IntStream.rangeClosed(1, Story.NIGHTS)
            .filter(
                night ->
                    night("quayside-kiosk/browser", night).stream()
                        .flatMap(suite -> suite.cases().stream())
                        .anyMatch(one -> one.failure() == null && !one.retries().isEmpty()))
            .count();

    assertThat(failing).hasSizeBetween(2, 12);
    assertThat(retried).isBetween(5L, 20L);
  }

  @Test
  void theSearchIsRenamedAndBecomesSlower() {
    double first = seconds(Catalog.SEARCH, 1);

    assertThat(seconds(Catalog.SEARCH, 17)).isGreaterThan(first * 1.4);
    assertThat(seconds(Catalog.SEARCH, 18)).as("the old name").isZero();
    assertThat(seconds(Catalog.FINDER, 18)).as("the new one").isPositive();
    assertThat(seconds(Catalog.FINDER, 34)).isGreaterThan(first * 2.5);
  }

  @Test
  void theLoadIsReadFromItsTableAndTheSearchBreaksItsPromise() throws IOException {
    List<Integer> failing = new ArrayList<>();
    for (int night = Soak.EVERY; night <= Story.NIGHTS; night += Soak.EVERY) {
      Path file = work.resolve("samples.csv");
      Soak.write(file, night);
      List<String> words = new ArrayList<>(Soak.COLUMNS);
      words.removeIf("--column"::equals);
      Read read = read(Files.readAllBytes(file), CsvColumns.of(words));
      assertThat(read.problems()).isEmpty();
      assertThat(read.results()).hasSize(20);
      failing.add(read.counts().failing());
    }
    assertThat(failing.subList(0, 6)).containsOnly(0);
    assertThat(failing.get(failing.size() - 1)).isPositive();
  }

  @Test
  void aFailingKioskLeavesAPictureOfEachTry() throws IOException {
    file("quayside-kiosk/browser", 34);
    Path shots = ReportFile.shotsOf(work.resolve(Demo.fileName("quayside-kiosk/browser")));
    try (var files = Files.list(shots)) {
      assertThat(files)
          .isNotEmpty()
          .allSatisfy(shot -> assertThat(ImageIO.read(shot.toFile()).getWidth()).isEqualTo(640));
    }
  }

  private static double seconds(String suite, int night) {
    return night("booking-api/nightly", night).stream()
        .filter(one -> one.name().equals(suite))
        .flatMap(one -> one.cases().stream())
        .mapToDouble(Case::seconds)
        .sum();
  }
}
