package org.vinecellar.core.formats.robot;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;

class RobotReaderTest {
  private final Recording recording = new Recording();

  private TestResult only(String test) {
    return recording.results.stream()
        .filter(result -> result.test().displayName().equals(test))
        .findFirst()
        .orElseThrow();
  }

  private static String told(List<Step> steps, String indent) {
    StringBuilder text = new StringBuilder();
    for (Step step : steps) {
      text.append(indent).append(step.displayText()).append(" — ").append(step.outcome());
      step.logs().forEach(line -> text.append(" | ").append(line.text()));
      text.append('\n').append(told(step.steps(), indent + "  "));
    }
    return text.toString();
  }

  @Test
  void whatARealRunDidIsToldStepByStep() {
    UploadReport report =
        UploadReader.read(
            Recording.directory(Path.of("src/test/resources/corpus/robot")),
            ReadLimits.DEFAULT,
            recording);
    assertThat(report.files().get(0).problems()).isEmpty();
    TestResult cars = only("Cars are counted");
    assertThat(cars.test().suite().names()).containsExactly("Quay", "Boarding");
    assertThat(cars.file()).isEqualTo("ferry/quay/boarding.robot");
    assertThat(cars.line()).isZero();
    assertThat(cars.started()).isEqualTo("2026-11-26T20:58:08.309Z");
    Attempt attempt = cars.attempts().get(0);
    assertThat(attempt.failures()).extracting(f -> f.message()).containsExactly("blue != red");
    assertThat(told(attempt.steps(), ""))
        .isEqualTo(
            """
            SETUP Lower The Ramp — PASSED
              Log  ramp down — PASSED | ramp down
            FOR ${car} IN  @{CARS} — FAILED
              ${car} = red — PASSED
                Log  ${car} — PASSED | red
                Run Keyword If  '${car}' == 'blue'  Should Be Equal  ${car}  red — PASSED
              ${car} = blue — FAILED
                Log  ${car} — PASSED | blue
                Run Keyword If  '${car}' == 'blue'  Should Be Equal  ${car}  red — FAILED
                  Should Be Equal  ${car}  red — FAILED | blue != red
            TEARDOWN Raise The Ramp — PASSED
              Log  ramp up — PASSED | ramp up
            """);
    assertThat(only("Foot passengers board").tags())
        .containsExactly("boarding", "owner-crew", "smoke");
    assertThat(only("Both go wrong").attempts().get(0).failures())
        .extracting(f -> f.type() + ": " + f.message())
        .containsExactly("null: hull scratched", "teardown: ramp jammed");
    assertThat(only("The gangway holds").attempts().get(0).failures())
        .extracting(f -> f.type() + ": " + f.message())
        .containsExactly("setup: gangway stuck");
    TestResult setUp = only("Fail (set-up)");
    assertThat(setUp.test().suite().names()).containsExactly("Quay", "Closed");
    assertThat(setUp.attempts().get(0).failures().get(0).message()).isEqualTo("no harbour master");
    assertThat(only("Fail (teardown)").attempts().get(0).failures().get(0).message())
        .isEqualTo("the lights stay on");
  }

  /** What the framework writes beside it for build servers is the same run. */
  @Test
  void theSameRunInJUnitStyleXmlIsNamed() {
    StringBuilder xunit = new StringBuilder("<testsuite name='Quay'>");
    StringBuilder own = new StringBuilder("<robot generator='Robot 4'><suite name='Quay'>");
    for (int i = 0; i < 12; i++) {
      boolean kept = i > 9;
      String failure = kept ? "<failure message='Parent suite setup failed: x'/>" : "";
      xunit.append("<testcase classname='Ferry.Quay' name='moors at berth " + i + "'>" + failure);
      xunit.append("</testcase>");
      String status = kept ? "FAIL'>Parent suite setup failed:\nx" : "PASS'>";
      own.append("<test name='moors at berth " + i + "'><status status='" + status);
      own.append("</status></test>");
    }
    UploadReport report = recording.read(xunit + "</testsuite>", own + "</suite></robot>");
    assertThat(report.files())
        .allSatisfy(
            file ->
                assertThat(file.problems())
                    .anyMatch(problem -> problem.contains("the same run in another format")));
  }

  /** By the public schemas of versions that came before and after. */
  @Test
  void olderAndNewerSchemasAreReadToo() {
    String old =
        """
        <robot generator="Robot 3.1.2 (Python 3.7)" generated="20190101 10:00:00.000" rpa="false">
        <suite id="s1" name="Quay"><kw name="Open" type="setup"><status status="PASS"/></kw>
        <test id="s1-t1" name="boards"><kw name="Get" library="BuiltIn"><arguments><arg>a</arg>
        </arguments><assign><var>${x}</var></assign><status status="FAIL" starttime="N/A"
        endtime="N/A"></status></kw><kw name="${i} IN [ 1 ]" type="for"><kw name="${i} = 1"
        type="foritem"><status status="PASS"/></kw><status status="PASS"/></kw>
        <tags><tag>smoke</tag></tags>
        <status status="FAIL" starttime="20190101 10:00:00.000" endtime="20190101 10:00:01.500"
        critical="no">1 != 2</status></test><status status="FAIL"/></suite>
        <statistics><total><stat fail="0" pass="0">Critical Tests</stat>
        <stat fail="1" pass="0">All Tests</stat></total></statistics></robot>
        """;
    String recent =
        """
        <robot generator="Robot 7.1 (Python 3.12)" generated="2025-01-01T10:00:00.000000"
        schemaversion="5"><suite id="s1" name="Pier" source="/w/pier.robot">
        <test id="s1-t1" name="boards" line="7"><if><branch type="IF" condition="$x > 1">
        <kw name="Log" owner="BuiltIn"><msg time="2025-01-01T10:00:00.100000" level="INFO"
        html="true">&lt;a>&lt;img src="shots/quay.png">&lt;/a>&lt;img src="data:image/png;base64,aGk=">
        &lt;img src="https://x.example/y.png"></msg><arg>x</arg>
        <status status="PASS" start="2025-01-01T10:00:00" elapsed="0.25"/></kw>
        <status status="PASS" start="2025-01-01T10:00:00" elapsed="0.25"/></branch>
        <branch type="ELSE"><return><value>1</value><status status="NOT RUN"/></return>
        <status status="NOT RUN"/></branch><status status="PASS"/></if>
        <try><branch type="EXCEPT" pattern_type="GLOB"><pattern>late*</pattern><status
        status="NOT RUN"/></branch><status status="PASS"/></try>
        <status status="PASS" start="2025-01-01T10:00:00" elapsed="1.5"/></test>
        <test name="left out"><tag>robot:exit</tag><status status="FAIL">Failure occurred and exit-on-failure mode is in use.</status></test>
        <status status="FAIL"/></suite></robot>
        """;
    UploadReport report = recording.read(old, recent);

    assertThat(report.total()).isEqualTo(new Counts(1, 1, 0, 0, 1, 0, 1));
    TestResult before = recording.results.get(0);
    assertThat(before.durationMicros()).isEqualTo(1_500_000);
    assertThat(before.tags()).containsExactly("smoke");
    assertThat(before.properties()).containsEntry("critical", "no");
    assertThat(told(before.attempts().get(0).steps(), ""))
        .isEqualTo("${x} = Get  a — FAILED\nFOR ${i} IN [ 1 ] — PASSED\n  ${i} = 1 — PASSED\n");
    TestResult after = recording.results.get(1);
    assertThat(after.line()).isEqualTo(7);
    assertThat(after.durationMicros()).isEqualTo(1_500_000);
    assertThat(after.attempts().get(0).attachments())
        .extracting(one -> one.name() + " " + one.path())
        .containsExactly("quay.png shots/quay.png", "picture-2.png null");
    assertThat(told(after.attempts().get(0).steps(), ""))
        .startsWith("IF — PASSED\n  IF $x > 1 — PASSED\n    Log  x — PASSED | <a><img src=")
        .contains(
            "  ELSE — SKIPPED\n    RETURN 1 — SKIPPED\nTRY — PASSED\n  EXCEPT late* — SKIPPED");
    assertThat(recording.results.get(2).tags()).isEmpty();
    assertThat(recording.results.get(3).attempts().get(0).failures().get(0).message())
        .as("nothing that it holds says why its suite failed")
        .contains("the status of the suite “Pier”");
  }

  @Test
  void theTestThatRanWhenTheFileEndsIsErrored() {
    String cut =
        "<robot generator='Robot 4'><suite name='S'><test name='a'><status status='PASS'/></test>"
            + "<test name='b'><kw name='Log'><msg level='INFO'>hal";
    UploadReport report = recording.read(cut);
    assertThat(report.brokenOff()).isTrue();
    assertThat(recording.results)
        .extracting(result -> result.test().displayName() + " " + result.outcome())
        .containsExactly("a " + Outcome.PASSED, "b " + Outcome.ERRORED);
    String deep = "<kw name='k'>".repeat(200) + "</kw>".repeat(200);
    UploadReport whole =
        new Recording()
            .read(
                "<robot generator='r'><suite name='S'><test name='a'>"
                    + deep
                    + "<status status='FAIL'>calls itself</status></test></suite></robot>");
    assertThat(whole.total().failed()).isEqualTo(1);
    assertThat(whole.files().get(0).problems())
        .containsExactly("keywords inside more than 80 others are left out");
  }
}
