package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.TestResult;

/** What cases of one name become: P passed, F failed, E errored, S skipped. */
class AssemblerTest {
  private static String cases(String letters) {
    return Arrays.stream(letters.split(""))
        .map(
            letter ->
                "<testcase name='t' time='1'>"
                    + switch (letter) {
                      case "F" -> "<failure message='f'/>";
                      case "E" -> "<error message='e'/>";
                      case "S" -> "<skipped message='s'/>";
                      default -> "";
                    }
                    + "</testcase>")
        .collect(Collectors.joining("", "<testsuite name='s'>", "</testsuite>"));
  }

  @ParameterizedTest
  @CsvSource({
    // cases in one file, tests, passed, failed, errored, skipped, retried
    "P,    1, 1, 0, 0, 0, 0",
    "FP,   1, 1, 0, 0, 0, 1",
    "FFP,  1, 1, 0, 0, 0, 1",
    "FFF,  1, 0, 1, 0, 0, 1",
    "SP,   1, 1, 0, 0, 0, 1",
    "SF,   1, 0, 1, 0, 0, 1",
    "FS,   1, 0, 1, 0, 0, 1",
    "PE,   1, 0, 0, 1, 0, 1",
    "PF,   1, 0, 1, 0, 0, 1",
    "PP,   2, 2, 0, 0, 0, 0",
    "PPF,  3, 2, 1, 0, 0, 0",
    "SS,   2, 0, 0, 0, 2, 0",
    "PPPP, 4, 4, 0, 0, 0, 0",
    // the first failure might have been a test of its own: it is not hidden behind the pass
    "FPPP, 3, 2, 1, 0, 0, 1",
  })
  void ofOneFile(
      String letters, int tests, int passed, int failed, int errored, int skipped, int retried) {
    var total = new Recording().read(cases(letters)).total();

    assertThat(total.tests()).isEqualTo(tests);
    assertThat(total)
        .extracting(c -> c.passed(), c -> c.failed(), c -> c.errored(), c -> c.skipped())
        .containsExactly(passed, failed, errored, skipped);
    assertThat(total.retried()).isEqualTo(retried);
  }

  @Test
  void theSameCaseInTwoFilesCountsOnce() {
    Recording recording = new Recording();
    UploadReport report = recording.read(cases("F"), cases("F"));

    assertThat(report.total().tests()).isEqualTo(1);
    assertThat(recording.again).isEmpty();
    assertThat(report.files().get(1).problems())
        .containsExactly("1 case stands in an earlier file with the same result; counted once");
  }

  @Test
  void repetitionsAreNumberedInOrderAndKeepTheirIdentity() {
    Recording first = new Recording();
    first.read(cases("PPP"));
    Recording second = new Recording();
    second.read(cases("PPP"));

    assertThat(first.results)
        .extracting(result -> result.test().displayName())
        .containsExactly("t", "t#2", "t#3");
    assertThat(first.results)
        .extracting(TestResult::test)
        .isEqualTo(second.results.stream().map(TestResult::test).toList());
  }

  @Test
  void manyTestsStayApartAndAreFoundAgain() {
    // More suites than have a table of their own, and one suite whose table grows often.
    StringBuilder text = new StringBuilder("<testsuites>");
    for (int i = 0; i < 30_000; i++) {
      text.append("<testsuite name='s").append(i).append("'><testcase name='t'><failure/>");
      text.append("</testcase></testsuite><testcase name='t").append(i).append("'/>");
    }
    String file = text.append("</testsuites>").toString();
    Recording recording = new Recording();
    UploadReport report = recording.read(file, file.replace("<failure/>", ""));

    assertThat(recording.results.stream().map(r -> r.test().key()).distinct()).hasSize(60_000);
    assertThat(recording.results).hasSize(60_000);
    assertThat(report.total().retried()).isEqualTo(30_000);
    assertThat(report.total().passed()).isEqualTo(60_000);
  }
}
