package org.vinecellar.core.formats.tap;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestResult;

/** TAP as it is written, and as it is broken: '/' stands for the end of a line in the tables. */
class TapReaderTest {
  private final Recording recording = new Recording();

  private FileReport read(byte[] bytes) {
    return UploadReader.read(
            List.of(Recording.source("out/fares.tap", bytes)), ReadLimits.DEFAULT, recording)
        .files()
        .get(0);
  }

  private FileReport read(String text) {
    return read(text.getBytes(StandardCharsets.UTF_8));
  }

  /** As in {@code fares › inner › adds PASSED}, in order. */
  private String results() {
    return recording.results.stream()
        .map(
            result ->
                result.test().suite()
                    + " › "
                    + result.test().displayName()
                    + " "
                    + result.outcome())
        .collect(Collectors.joining("/"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "1..2/ok 1 - adds/not ok 2 - rounds | fares › adds PASSED/fares › rounds FAILED",
        "TAP version 14/1..1/ok | fares › test 1 PASSED",
        "ok 1/ok 2/1..2 | fares › test 1 PASSED/fares › test 2 PASSED",
        "1..1/ok 1 # SKIP no berth | fares › test 1 SKIPPED",
        "1..1/not ok 1 adds # skipped: no berth | fares › adds SKIPPED",
        "1..2/not ok 1 a # TODO later/ok 2 b # todo | fares › a SKIPPED/fares › b PASSED",
        "1..1/not ok 1 - a \\# TODO b | fares › a # TODO b FAILED",
        "1..1/ok 1 - adds(int)[3] | fares › adds(int)[3] PASSED",
        "# Subtest: in/    ok 1 - a/    1..1/ok 1 - in/1..1 | fares › in › a PASSED",
        "    # Subtest: in/    ok 1 - a/    1..1/ok 1 - in/1..1 | fares › in › a PASSED",
        "1..1/    1..1/    ok 1 - a/ok 1 - bare | fares › bare › a PASSED",
        "1..1/        ok 1 - a/        1..1/    ok 1 - in/    1..1/ok 1 - out |"
            + " fares › out › in › a PASSED",
        "1..1/    1..1/    ok 1 - a/not ok 1 - b |"
            + " fares › b › a PASSED/fares › b › (set-up of the suite) ERRORED",
        "1..1/    1..1/    not ok 1 - a/not ok 1 - b | fares › b › a FAILED",
        "1..1/# Subtest: none/    1..0 # SKIP no berth/ok 1 - none # SKIP no berth |"
            + " fares › none SKIPPED",
        "1..3/ok 1 - a/Bail out! no database |"
            + " fares › a PASSED/fares › (set-up of the suite) ERRORED",
        "printed before/1..1/ok 1 - a | fares › a PASSED",
        "1..1/not ok 1 - out # time=60.5ms {/    ok 1 - a/    not ok 2 - in {/        not ok 1 - b/"
            + "        1..1/    }/    1..2/} |"
            + " fares › out › a PASSED/fares › out › in › b FAILED",
        "1..2/not ok 1 - out/  ---/  at: 1/  .../{/    1..1/    ok 1 - a/}/ok 2 - b |"
            + " fares › out › a PASSED/fares › out › (set-up of the suite) ERRORED/fares › b PASSED",
        "1..2/ok 1 - none # time=3ms {/    1..0/}/ok 2 - not # SKIP no berth {/    1..0/} |"
            + " fares › none PASSED/fares › not SKIPPED",
        "1..2/ok 1 - if (tide) {/ok 2 - b # time=1.5s | fares › if (tide) { PASSED/fares › b PASSED",
        "TAP version 14/1..1/ok 1 - b # TODO later | fares › b SKIPPED",
        "1..2/ok 1 - a/1..1/ok 1 - a/ok 2 - b | fares › a PASSED/fares › a#2 PASSED/fares › b PASSED",
        "1..1/not ok 1 - a/---/message: unindented/...|fares › a FAILED",
      })
  void points(String text, String results) {
    assertThat(read(text.replace('/', '\n')).error()).isNull();
    assertThat(results()).isEqualTo(results);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "1..3/ok 1/ok 2 | broken off: the plan is of 3 tests, but there are 2",
        "1..1/ok 1/ok 2 | the plan is of 1 test, but there are 2",
        "ok 1 - a/ok 2 - b |"
            + " broken off: there is no plan (1..N), so nobody knows which tests are missing",
        "1..1/ok 1 - a {/    ok 1 - b/    1..1 | the subtest “a” has no end (})",
        "1..3/ok 1/Bail out! no database | the run was given up: Bail out! no database",
        "1..1/ok 1 - a/  ---/  x: 1 | a YAML block has no end (...)",
        "1..2/ok 1 - a/  ---/  x: 1/ok 2 - b | a YAML block before line 5 has no end (...)",
        "1..1/# Subtest: in/    ok 1 - a/    1..2/ok 1 - in |"
            + " the plan of the subtest “in” is of 2 tests, but there is 1",
        "1..0/# Subtest: in/    ok 1 - a/    1..1 | the subtest “in” has no result of its own",
      })
  void whatDoesNotAddUpIsSaid(String text, String problem) {
    FileReport report = read(text.replace('/', '\n'));

    assertThat(report.error()).isNull();
    assertThat(report.problems()).containsExactly(problem);
  }

  /** What a plan does not keep is a failed run by the standard: never green. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "1..3/ok 1/ok 2",
        "1..1/ok 1/ok 2",
        "ok 1 - a/ok 2 - b",
        "1..1/# Subtest: in/    ok 1 - a/    1..2/ok 1 - in",
      })
  void anotherNumberThanPlannedIsRed(String text) {
    UploadReport report = recording.read(text.replace('/', '\n'));
    assertThat(report.total().setUps()).isEqualTo(1);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ok - first/not ok - second | looks like TAP, but has no plan (1..N)",
        "1..1000000000/ok 1 - a | plans 1000000000 tests at line 1; at most 5000000 are taken",
        "TAP version 13/1..99999999999/ok 1 | plans 99999999999 tests at line 2",
      })
  void whyItIsRefusedIsSaid(String text, String error) {
    assertThat(read(text.replace('/', '\n')).error()).startsWith(error);
  }

  @Test
  void diagnosticsBecomeMessageTraceDurationAndProperties() {
    read(
        """
        TAP version 13
        1..1
        loading …
        not ok 1 - rounds
          ---
          duration_ms: 12.5
          error: |-
            Expected values to be strictly equal:

            12.50 !== 12.49

          name: 'AssertionError'
          stack: |-
            Test.run (/app/fares.mjs:4:34)
          operator: strictEqual
          data: {rows: [1, 2]}
          ...
        # behind it
        """);

    TestResult result = recording.results.get(0);
    var failure = result.attempts().get(0).failures().get(0);
    assertThat(result.durationMicros()).isEqualTo(12_500);
    assertThat(failure.type()).isEqualTo("AssertionError");
    assertThat(failure.message()).startsWith("Expected values").endsWith("12.50 !== 12.49");
    assertThat(failure.trace()).isEqualTo("Test.run (/app/fares.mjs:4:34)\nbehind it");
    assertThat(result.properties()).containsEntry("operator", "strictEqual").containsKey("data");
    assertThat(result.attempts().get(0).stdout()).isEqualTo("loading …");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a: &a [x,x]\n  b: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a,*a,*a,*a]\n  c: [*b,*b,*b,*b,*b,*b]",
        "!!java.net.URL [http://evil.example]",
        "a: [1, 2",
        "\t- tabs",
        "plain words",
        "a: &x [*x]",
      })
  void diagnosticsThatAreNoPlainYamlDoNoHarm(String yaml) {
    FileReport report = read("1..1\nnot ok 1 - a\n  ---\n  " + yaml + "\n  ...\n");

    assertThat(report.error()).isNull();
    assertThat(results()).isEqualTo("fares › a FAILED");
  }

  @ParameterizedTest
  @ValueSource(strings = {"UTF-8", "UTF-16LE", "UTF-16BE"})
  void aByteOrderMarkIsNoPartOfIt(String charset) {
    read("\uFEFF1..1\r\nok 1 - Île d’Höfn 🚢\r\n".getBytes(Charset.forName(charset)));

    assertThat(results()).isEqualTo("fares › Île d’Höfn 🚢 PASSED");
  }

  @ParameterizedTest
  @ValueSource(strings = {"okay then", "1. first\n2. second", "{\"ok\": 1}"})
  void otherTextsAreNotTakenForIt(String text) {
    assertThat(read(text).error()).startsWith("is of no known kind");
  }

  @Test
  void limitsHold() {
    String name = "n".repeat(30_000);
    assertThat(read("1..1\nok 1 - " + name).error())
        .isEqualTo("has a name of 30000 characters at line 2; at most 20000 are taken");
    assertThat(read("1..1\n# Subtest: " + name).error())
        .isEqualTo("has a name of 30000 characters at line 2; at most 20000 are taken");
    String deep =
        IntStream.range(0, 600)
            .mapToObj(i -> " ".repeat(i) + "# Subtest: s" + i)
            .collect(Collectors.joining("\n"));
    assertThat(read("1..1\n" + deep).error()).startsWith("nests subtests deeper than 512");
    assertThat(read(BOUNDED, "1..1\nok 1\n" + "#\n".repeat(500)).error())
        .isEqualTo("is larger than 1000 bytes; split it into several files");
    assertThat(read(BOUNDED, "1..5\n" + "ok\n".repeat(9)).error())
        .isEqualTo("has more than 5 test points; split it into several files");
  }

  /** Bytes, cases, depth, name, text, properties, problems. */
  private static final ReadLimits BOUNDED = new ReadLimits(1000, 5, 10, 100, 60, 2, 2);

  private FileReport read(ReadLimits limits, String text) {
    return UploadReader.read(
            List.of(Recording.source("fares.tap", text.getBytes(StandardCharsets.UTF_8))),
            limits,
            recording)
        .files()
        .get(0);
  }

  @Test
  void whatIsPrintedBelongsToThePointAfterIt() {
    FileReport report =
        read(
            "TAP version 14\n1..2\nfor a\n\nok 1 - a\n  for b\nnot ok 2 - b\nSegmentation fault\n");

    assertThat(recording.results)
        .extracting(result -> result.attempts().get(0).stdout())
        .containsExactly("for a", "  for b");
    assertThat(report.problems())
        .containsExactly(
            "what was printed after the last test is in the raw file only: “Segmentation fault”");
  }

  @Test
  void commentsBehindAPointAreItsOwn() {
    read("1..3\n# for nobody\nnot ok 1 - a\n# of a\n# again\nok 2 - b\n# of b\nok 3 - c\n");

    assertThat(recording.results.get(0).attempts().get(0).failures().get(0).trace())
        .isEqualTo("of a\nagain");
    assertThat(recording.results)
        .extracting(result -> result.attempts().get(0).stdout())
        .containsExactly(null, "of b", null);
  }

  @Test
  void whatIsTooLongEndsWithAMark() {
    String lines = "a line of twenty char\n".repeat(9);
    read(BOUNDED, "1..1\n" + lines + "not ok 1\n" + lines.replace("a line", "# line"));

    var attempt = recording.results.get(0).attempts().get(0);
    assertThat(attempt.stdout())
        .isEqualTo(
            "a line of twenty char\na line of twenty char\n… cut here: longer than 60 characters");
    assertThat(attempt.failures().get(0).trace()).endsWith("… cut here: longer than 60 characters");
  }

  @Test
  void aDeepBareNestIsNamedFromTheInsideOut() {
    StringBuilder text = new StringBuilder("TAP version 14\n");
    int depth = 300;
    text.append(" ".repeat(depth * 4)).append("ok 1 - leaf\n");
    for (int level = depth - 1; level >= 0; level--) {
      text.append(" ".repeat(level * 4)).append("ok 1 - level").append(level).append('\n');
    }
    text.append("1..1\n");

    assertThat(read(text.toString()).problems()).isEmpty();
    assertThat(recording.results).hasSize(1);
    List<String> suites = recording.results.get(0).test().suite().names();
    assertThat(suites).hasSize(depth + 1).startsWith("fares", "level0", "level1");
    assertThat(suites.get(depth)).isEqualTo("level299");
  }

  @Test
  void theFileNamesTheOutermostSuite() {
    assertThat(TapReader.suiteOf("out/fares.tap")).isEqualTo("fares");
    assertThat(TapReader.suiteOf("C:\\out\\fares.test.tap.gz")).isEqualTo("fares.test");
    assertThat(TapReader.suiteOf("fares")).isEqualTo("fares");
    assertThat(TapReader.suiteOf(".tap")).isEqualTo(".tap");
  }

  private static final String[] PIECES = {
    "1..2",
    "1..0 # SKIP x",
    "ok",
    "ok 1 - a",
    "not ok 2 - b",
    "ok 3 # TODO c",
    "# Subtest: in",
    "  ---",
    "  ...",
    "    x: [",
    "    y: 1",
    "Bail out! z",
    "# comment",
    "printed",
    "",
    "TAP version 14",
    "pragma +strict",
    "not ok",
    "\u0000\u001B[31m",
    "    ok 1 - deep",
    "not ok 2 - out # time=1ms {",
    "{",
    "}",
  };

  @RepeatedTest(400)
  void anythingIsReadOrRefusedWithAReason(RepetitionInfo info) {
    Random random = new Random(info.getCurrentRepetition());
    StringBuilder text = new StringBuilder("TAP version 14\n");
    int points = 0;
    for (int i = random.nextInt(40); i > 0; i--) {
      text.append(" ".repeat(4 * random.nextInt(4))).append(PIECES[random.nextInt(PIECES.length)]);
      text.append(random.nextInt(20) == 0 ? "" : "\n");
    }
    FileReport report = read(text.toString());

    assertThat(report.error() == null ? "fine" : report.error()).isNotBlank();
    for (TestResult result : recording.results) {
      boolean ofTheWhole =
          result.kind() == ResultKind.SETUP && result.test().suite().names().isEmpty();
      if (!ofTheWhole) {
        assertThat(result.test().suite().names().get(0)).isEqualTo("fares");
      }
      points += result.kind() == ResultKind.TEST ? 1 : 0;
    }
    assertThat(points).isLessThanOrEqualTo(text.toString().split("ok", -1).length - 1);
  }
}
