package org.vinecellar.core.formats.testng;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;

class TestNgReaderTest {
  private final Recording recording = new Recording();

  private FileReport read(String test, String groups, String methods) {
    String xml =
        "<testng-results><reporter-output/><suite name='all'><groups>"
            + groups
            + "</groups><test name='"
            + test
            + "'><class name='org.skerrow.FareTest'>"
            + methods
            + "</class></test></suite></testng-results>";
    return recording.read(xml).files().get(0);
  }

  private String results() {
    return recording.results.stream()
        .map(result -> result.test().displayName() + " " + result.outcome())
        .collect(Collectors.joining(", "));
  }

  private static String exception(String message) {
    return "<exception class='x.Y'><message>\n  <![CDATA["
        + message
        + "]]>\n</message><full-stacktrace><![CDATA[x.Y: "
        + message
        + "\nat a.B.c(B.java:1)\n]]></full-stacktrace></exception>";
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "<test-method name='a' status='PASS'/> | a PASSED",
        "<test-method name='a' status='FAIL'/> | a FAILED",
        "<test-method name='a' status='SKIP'/> | a SKIPPED",
        "<test-method name='a' status='LOST'/> | a ERRORED",
        "<test-method name='up' is-config='true' status='PASS'/><test-method name='a' status='PASS'/>"
            + " | a PASSED",
        "<test-method name='a' status='PASS'><params><param><value>  <![CDATA[1]]> </value></param>"
            + "<param><value is-null='true'/></param></params></test-method> | a[1, null] PASSED",
      })
  void methods(String methods, String results) {
    assertThat(read("Surefire test", "", methods).error()).isNull();
    assertThat(results()).isEqualTo(results);
  }

  @Test
  void aFailedConfigurationKeepsTestsFromBeingReached() {
    FileReport report =
        read(
            "Surefire test",
            "",
            "<test-method name='up' is-config='true' status='FAIL'>"
                + exception("no crew")
                + "</test-method><test-method name='a' status='SKIP'>"
                + exception("no crew")
                + "</test-method><test-method name='b' status='SKIP'>"
                + exception("b() depends on not successfully finished methods")
                + "</test-method><test-method name='c' status='SKIP'>"
                + exception("not today")
                + "</test-method>");

    assertThat(results()).isEqualTo("up (set-up) ERRORED, a NOT_REACHED, b NOT_REACHED, c SKIPPED");
    assertThat(report.counts()).isEqualTo(new Counts(0, 0, 0, 1, 2, 0, 1));
  }

  @Test
  void aTryThatWasRepeatedIsAnAttempt() {
    FileReport report =
        read(
            "Surefire test",
            "",
            "<test-method name='a' status='SKIP' retried='true'>"
                + exception("once")
                + "</test-method><test-method name='a' status='PASS'/>");

    assertThat(report.counts().passed()).isEqualTo(1);
    assertThat(report.counts().retried()).isEqualTo(1);
  }

  @Test
  void groupsOutputAttributesAndTimesAreKept() {
    read(
        "chromium",
        "<group name='smoke'><method name='a' class='org.skerrow.FareTest'/></group>"
            + "<group name='slow'><method name='a' class='org.skerrow.FareTest'/></group>",
        "<test-method name='a' status='FAIL' duration-ms='18' description='adds fares'"
            + " started-at='2026-11-23T08:12:48 UTC'>"
            + exception("oh")
            + "<reporter-output><line><![CDATA[printed]]></line><line>more</line></reporter-output>"
            + "<attributes><attribute name='ticket'><![CDATA[QS-7]]></attribute></attributes>"
            + "</test-method>");

    TestResult result = recording.results.get(0);
    var attempt = result.attempts().get(0);
    assertThat(result.test().suite().names()).containsExactly("chromium", "org.skerrow.FareTest");
    assertThat(result.durationMicros()).isEqualTo(18_000);
    assertThat(result.started()).hasToString("2026-11-23T08:12:48Z");
    assertThat(result.properties())
        .containsEntry("ticket", "QS-7")
        .containsEntry("description", "adds fares");
    assertThat(result.tags()).containsExactly("smoke", "slow");
    assertThat(attempt.stdout()).isEqualTo("printed\nmore");
    assertThat(attempt.failures().get(0).message()).isEqualTo("oh");
    assertThat(attempt.failures().get(0).trace()).isEqualTo("x.Y: oh\nat a.B.c(B.java:1)");
  }

  @Test
  void hostileSizesAreBounded() {
    String value = "<param><value><![CDATA[" + "x".repeat(1000) + "]]></value></param>";
    read(
        "Surefire test",
        "<group name='g'><method name='a' class='org.skerrow.FareTest'/></group>".repeat(5000),
        "<test-method name='a' status='PASS'><params>"
            + value.repeat(100)
            + "</params></test-method>");

    TestResult result = recording.results.get(0);
    assertThat(result.test().parameters()).hasSize(20_000).endsWith("…");
    assertThat(result.tags()).hasSize(100);
  }

  @Test
  void whatIsWrongIsSaid() {
    assertThat(recording.read("<testng-results><suite><test>").files().get(0).error())
        .startsWith("ends too early at line 1");
    assertThat(read("t", "", "<test-method name='a' status='LOST'/>").problems())
        .containsExactly("status “LOST” at line 1 is not known");
  }
}
