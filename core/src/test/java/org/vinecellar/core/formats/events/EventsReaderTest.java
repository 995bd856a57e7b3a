package org.vinecellar.core.formats.events;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

class EventsReaderTest {
  private final Recording recording = new Recording();

  @Test
  void testsMayOverlapAndHaveAllThereIs() {
    UploadReport report =
        recording.read(
            """
            {"event":"run","properties":{"runner":"tide-check 3"}}
            {"event":"test started","id":"1","suite":["Tides","Holm"],"test":"high water","parameters":"spring","time":"2026-11-20T06:00:00Z","file":"tides.txt","line":12,"tags":["smoke"]}
            {"event":"test started","id":"2","suite":["Tides"],"test":"low water","time":"2026-11-20T06:00:00Z"}
            {"event":"step","id":"1","keyword":"Given","text":"the gauge","outcome":"failed","ms":4,"message":"stuck"}
            {"event":"log","id":"1","level":"WARN","time":"2026-11-20T06:00:01Z","text":"slow"}
            {"event":"attachment","id":"1","name":"gauge.json","content":"eyJhIjoxfQ=="}
            {"event":"property","id":"2","name":"berth","value":"B"}
            {"event":"test finished","id":"2","outcome":"passed","time":"2026-11-20T06:00:02Z"}
            {"event":"test finished","id":"1","outcome":"failed","ms":1200,"type":"TideError","message":"06:42","trace":"at x"}
            {"event":"set-up failed","suite":["Tides","Langey"],"message":"no gauge"}
            {"event":"run finished"}
            """);

    assertThat(report.files().get(0).problems()).isEmpty();
    assertThat(report.total()).isEqualTo(new Counts(1, 1, 0, 0, 0, 0, 1));
    assertThat(report.properties()).containsEntry("runner", "tide-check 3");
    TestResult low = recording.results.get(0);
    assertThat(low.durationMicros()).isEqualTo(2_000_000);
    assertThat(low.properties()).containsEntry("berth", "B");
    TestResult high = recording.results.get(1);
    assertThat(high.test().displayName()).isEqualTo("high water[spring]");
    assertThat(high.test().suite().names()).containsExactly("Tides", "Holm");
    assertThat(high.tags()).containsExactly("smoke");
    assertThat(high.line()).isEqualTo(12);
    Attempt attempt = high.attempts().get(0);
    assertThat(attempt.durationMicros()).isEqualTo(1_200_000);
    assertThat(attempt.steps().get(0).displayText()).isEqualTo("Given the gauge");
    assertThat(attempt.steps().get(0).outcome()).isEqualTo(Outcome.FAILED);
    assertThat(attempt.logs().get(0).level()).isEqualTo("WARN");
    assertThat(attempt.attachments().get(0).name()).isEqualTo("gauge.json");
  }

  @ParameterizedTest
  @CsvSource({
    // what the second start says, then tests, failed, retried, problems
    "',\"attempt\":2', 1, 0, 1, 0",
    "',\"attempt\":1', 2, 1, 0, 0",
    "'', 2, 1, 0, 1",
    "',\"attempt\":\"two\"', 2, 1, 0, 2",
  })
  void aTestThatComesAgainIsTriedAgainWhenItSaysSo(
      String second, int tests, int failed, int retried, int problems) {
    UploadReport report =
        recording.read(
            """
            {"event":"run"}
            {"event":"test started","id":"1","test":"a","attempt":1}
            {"event":"test finished","id":"1","outcome":"failed","message":"late"}
            {"event":"test started","id":"1","test":"a"%s}
            {"event":"test finished","id":"1","outcome":"passed"}
            {"event":"run finished"}
            """
                .formatted(second));

    assertThat(report.total().tests()).isEqualTo(tests);
    assertThat(report.total().failed()).isEqualTo(failed);
    assertThat(report.total().retried()).isEqualTo(retried);
    assertThat(report.files().get(0).problems()).hasSize(problems);
  }

  @Test
  void whatMakesNoSenseIsNamedAndTheRestIsKept() {
    UploadReport report =
        recording.read(
            """
            {"event":"run"}
            {"event":"test started","id":"1"}
            {"event":"test finished","id":"9","outcome":"passed"}
            {"event":"log","id":"9","text":"x"}
            {"event":"sail"}
            not JSON
            {"event":"test started","id":"1","test":"a"}
            {"event":"test finished","id":"1","outcome":"purple"}
            {"event":"test started","id":"2","test":"b"}
            """);

    assertThat(report.total()).isEqualTo(new Counts(0, 0, 2, 0, 0, 0));
    assertThat(report.files().get(0).brokenOff()).isTrue();
    assertThat(report.files().get(0).problems())
        .containsExactly(
            "line 2 starts a test without “id” or “test”; it was left out",
            "line 3 ends a test that has not begun; it was left out",
            "line 4 is of no test that is under way; it was left out",
            "line 5 has the event “sail”, which is not known",
            "line 6 is no JSON object and was left out",
            "line 8 has the outcome “purple”, which is not known: errored",
            "broken off: it has no “run finished”: the test run ended before its time");
  }
}
