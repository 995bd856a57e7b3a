package org.vinecellar.core.formats.junitxml;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

/** What is wrong with a file, and the exact words for it. */
class BadInputTest {
  private static final String ONE = "<testsuite name='s'><testcase name='a'/></testsuite>";

  private final Recording recording = new Recording();

  private FileReport read(byte[] bytes) {
    recording.results.clear();
    recording.again.clear();
    return UploadReader.read(
            List.of(Recording.source("f.xml", bytes)), ReadLimits.DEFAULT, recording)
        .files()
        .get(0);
  }

  private FileReport read(String text) {
    return read(text.getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "`` | is empty; the test run probably ended before it wrote its results",
        "`  ` | is empty; the test run probably ended before it wrote its results",
        "PASS: 12 tests | is of no known kind (it begins with “PASS: 12 tests”); what is read"
            + " stands in docs/FORMATS.md: JUnit-style XML, TestNG, TAP, Cucumber, go test, RSpec,"
            + " Mocha, Jest, Vitest, Playwright, Newman, Bruno, GoogleTest, Open Test Reporting, NUnit, xUnit.net,"
            + " TRX, Robot Framework, CSV",
        "<html><title>Log in</title></html> | is a web page (“Log in”), not a result file; a"
            + " download or sign-in probably failed before it was saved",
        "<project/> | is of no known kind (it begins with “<project/>”); what is read"
            + " stands in docs/FORMATS.md: JUnit-style XML, TestNG, TAP, Cucumber, go test, RSpec,"
            + " Mocha, Jest, Vitest, Playwright, Newman, Bruno, GoogleTest, Open Test Reporting, NUnit, xUnit.net,"
            + " TRX, Robot Framework, CSV",
        "<testsuite><testcase name='a'> | ends too early at line 1; the test run probably ended before"
            + " its time, or the file was cut off when it was copied",
        "<testsuite><testcase name='a'></testsuite> | is not well-formed XML at line 1, column 41:"
            + " Unexpected end tag: expected </testcase>",
        "<!DOCTYPE testsuite SYSTEM 'http://evil.example/x.dtd'><testsuite/> | has a document type"
            + " declaration (DOCTYPE) at line 1; these are refused, since they can pull in other"
            + " files: write the file without it",
        "<!DOCTYPE testsuite [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><testsuite>&e;</testsuite> |"
            + " has a document type declaration (DOCTYPE) at line 1; these are refused, since they"
            + " can pull in other files: write the file without it",
        "<testsuite><testcase name='a'><failure>&lol;</failure></testcase></testsuite> | uses the"
            + " entity “lol” at line 1; only the five of XML itself are known, all others are"
            + " refused",
      })
  void isRefusedWithAReason(String text, String message) {
    FileReport report = read(text);

    assertThat(report.error()).isEqualTo(message);
  }

  @Test
  void aFileThatIsCutOffAnywhereIsRefusedAsSuch() {
    String lines = "a line of text, as long as lines are\n".repeat(3_000);
    String whole =
        "<testsuites><testsuite name='s'><testcase name='a'><failure message='m'>"
            + lines
            + "</failure><system-out><![CDATA["
            + lines
            + "]]></system-out></testcase><testcase name='b'><rerunFailure><stackTrace>"
            + lines
            + "</stackTrace></rerunFailure></testcase></testsuite></testsuites>";
    assertThat(read(whole).error()).isNull();
    for (int length = 13; length < whole.length() - 1; length += 1 + whole.length() / 997) {
      FileReport cut = read(whole.substring(0, length));
      if (length < whole.indexOf("</testcase>") + 11) {
        assertThat(cut.error())
            .as("cut after %d characters", length)
            .startsWith("ends too early at line ");
      } else {
        assertThat(cut.error()).as("cut after %d characters", length).isNull();
        assertThat(cut.brokenOff()).as("cut after %d characters", length).isTrue();
        assertThat(cut.counts().tests()).isBetween(1, 2);
      }
    }
  }

  @Test
  void whatIsWrongDeepInATextIsRefusedWithItsLine() {
    String text = "line\n".repeat(30_000);

    assertThat(
            read("<testsuite><testcase><failure>" + text + "a & b</failure></testcase></testsuite>")
                .error())
        .startsWith("is not well-formed XML at line 30001");
  }

  @Test
  void damagedGzipIsRefused() throws IOException {
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
      gzip.write(ONE.repeat(2000).getBytes(StandardCharsets.UTF_8));
    }
    byte[] half = java.util.Arrays.copyOf(packed.toByteArray(), packed.size() / 2);

    assertThat(read(half).error()).startsWith("is gzip by its first bytes, but is damaged");
  }

  @Test
  void aFileAboveTheLimitIsRefused() {
    ReadLimits small = new ReadLimits(1000, 100, 10, 100, 1000, 10, 10);
    UploadReport report =
        UploadReader.read(
            List.of(Recording.source("f.xml", ONE.repeat(100).getBytes(StandardCharsets.UTF_8))),
            small,
            recording);

    assertThat(report.files().get(0).error())
        .isEqualTo("is larger than 1000 bytes; split it into several files");
  }

  @ParameterizedTest
  @ValueSource(strings = {"UTF-8", "UTF-16LE", "UTF-16BE", "ISO-8859-1", "windows-1252"})
  void everyEncodingIsRead(String charset) {
    boolean wide = charset.startsWith("UTF-16");
    String text =
        (wide ? "\uFEFF" : "")
            + "<?xml version='1.0' encoding='"
            + (wide ? "UTF-16" : charset)
            + "'?><testsuite name='Höfn'><testcase name='Île'/></testsuite>";

    FileReport report = read(text.getBytes(Charset.forName(charset)));

    assertThat(report.error()).isNull();
    assertThat(recording.results.get(0).test().name()).isEqualTo("Île");
    assertThat(recording.results.get(0).test().suite().name()).isEqualTo("Höfn");
  }

  @Test
  void wrongUtf8IsReplacedAndReported() {
    String text = "<testsuite name='s'><testcase name='a?b'/></testsuite>";
    byte[] bytes = text.getBytes(StandardCharsets.ISO_8859_1);
    bytes[text.indexOf('?')] = (byte) 0xE5;

    FileReport report = read(bytes);

    assertThat(recording.results.get(0).test().name()).isEqualTo("a\uFFFDb");
    assertThat(report.problems())
        .containsExactly("1 character that XML does not allow, or wrong UTF-8, replaced");
  }

  @Test
  void controlCharactersAreReplacedAndTheRestIsKept() {
    read(
        "<testsuite><testcase name='a'><failure message='bell \u0007, &#8;, &#x1b;[31mred'>"
            + "\u0000 and ]]> here<![CDATA[&#7; stays]]></failure></testcase></testsuite>");

    var failure = recording.results.get(0).attempts().get(0).failures().get(0);
    assertThat(failure.message()).isEqualTo("bell \uFFFD, \uFFFD, \u001B[31mred");
    assertThat(failure.trace()).isEqualTo("\uFFFD and ]]> here&#7; stays");
  }

  @ParameterizedTest
  @CsvSource({"-1", "NaN", "soon", "'1,2,3'"})
  void oddTimesAreNoDurationOrRead(String time) {
    read("<testsuite><testcase name='a' time='" + time + "'/></testsuite>");

    long micros = recording.results.get(0).durationMicros();
    assertThat(micros).isIn(TestResult.NO_DURATION, 123_000_000L);
  }

  @Test
  void twoHundredNestedSuitesAreReadAndFarTooManyRefused() {
    assertThat(read(nested(200)).error()).isNull();
    assertThat(recording.results.get(0).test().suite().depth()).isEqualTo(200);
    assertThat(read(nested(600)).error()).isEqualTo("nests suites deeper than 512 at line 1");
  }

  private static String nested(int depth) {
    String open =
        IntStream.range(0, depth)
            .mapToObj(i -> "<testsuite name='s" + i + "'>")
            .collect(Collectors.joining());
    return open + "<testcase name='a'/>" + "</testsuite>".repeat(depth);
  }

  @Test
  void longNamesAndMessagesAreKept() {
    String name = "n".repeat(10_000);
    String message = "m".repeat(5_000_000);
    read(
        "<testsuite><testcase name='"
            + name
            + "'><failure>"
            + message
            + "</failure></testcase></testsuite>");

    TestResult result = recording.results.get(0);
    assertThat(result.test().name()).isEqualTo(name);
    assertThat(result.attempts().get(0).failures().get(0).trace()).isEqualTo(message);
    assertThat(read("<testsuite><testcase name='" + name.repeat(3) + "'/></testsuite>").error())
        .isEqualTo("has a name of 30000 characters at line 1; at most 20000 are taken");
  }

  @Test
  void aHeaderThatPromisesMoreIsReported() {
    FileReport report =
        read("<testsuite name='s' tests='3' failures='9'><testcase name='a'/></testsuite>");

    assertThat(report.problems())
        .containsExactly("suite “s” (line 1) says it has 3 tests, but holds 1");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "<failure/><skipped/> | SKIPPED",
        "<error/> | ERRORED",
        "<error/><failure/> | FAILED",
        "<failure/><failure/> | FAILED",
        "<skipped/> | SKIPPED",
        "<flakyError><stackTrace>x</stackTrace></flakyError> | PASSED",
        "<failure/><rerunFailure/> | FAILED",
        "<unknown><deep/></unknown> | PASSED",
      })
  void childrenTellTheOutcome(String children, Outcome outcome) {
    read("<testsuite><testcase name='a'>" + children + "</testcase></testsuite>");

    assertThat(recording.results.get(0).outcome()).isEqualTo(outcome);
  }
}
