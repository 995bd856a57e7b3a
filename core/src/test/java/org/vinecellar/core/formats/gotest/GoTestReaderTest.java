package org.vinecellar.core.formats.gotest;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;

class GoTestReaderTest {
  private final Recording recording = new Recording();

  private static String event(String action, String test, String more) {
    return "{\"Time\":\"2026-11-20T06:00:00Z\",\"Action\":\""
        + action
        + "\",\"Package\":\"p\""
        + (test.isEmpty() ? "" : ",\"Test\":\"" + test + "\"")
        + more
        + "}\n";
  }

  private static String output(String test, String text) {
    return event("output", test, ",\"Output\":\"" + text + "\\n\"");
  }

  private TestResult only(String name) {
    return recording.results.stream()
        .filter(result -> result.test().displayName().equals(name))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void aTimeOutLeavesTestsWithoutAnEnd() {
    UploadReport report =
        recording.read(
            event("run", "TestA", "")
                + event("pass", "TestA", ",\"Elapsed\":1.5")
                + event("run", "TestSlow", "")
                + output("TestSlow", "panic: test timed out after 1s")
                + event("run", "TestOther", "")
                + event("fail", "", ",\"Elapsed\":2"));

    assertThat(report.total()).isEqualTo(new Counts(1, 0, 2, 0, 0, 0));
    assertThat(only("TestSlow").attempts().get(0).firstLine())
        .isEqualTo("panic: test timed out after 1s");
    assertThat(only("TestOther").attempts().get(0).firstLine()).startsWith("the test has no end");
    assertThat(only("TestA").durationMicros()).isEqualTo(1_500_000);
  }

  /** A program between the two may write the events anew. */
  @Test
  void blanksBetweenTheWordsOfAnEventMeanNothing() {
    UploadReport report =
        recording.read(
            (event("run", "TestA", "") + event("pass", "TestA", "") + event("pass", "", ""))
                .replace(":\"", ": \"")
                .replace(",\"", ", \""));
    assertThat(report.total()).isEqualTo(new Counts(1, 0, 0, 0, 0, 0));
  }

  @Test
  void aParentCountsOnlyWhenItFailsByItself() {
    UploadReport report =
        recording.read(
            event("run", "TestRows", "")
                + event("run", "TestRows/a", "")
                + event("pass", "TestRows/a", "")
                + output("TestRows", "    x_test.go:9: rows left over")
                + event("fail", "TestRows", "")
                + event("run", "TestMore", "")
                + event("run", "TestMore/b", "")
                + event("fail", "TestMore/b", "")
                + event("fail", "TestMore", "")
                + event("fail", "", ""));

    assertThat(report.total()).isEqualTo(new Counts(1, 2, 0, 0, 0, 0));
    assertThat(only("TestRows").attempts().get(0).firstLine()).isEqualTo("rows left over");
    assertThat(only("b").test().suite().names()).containsExactly("p", "TestMore");
  }

  @Test
  void aStreamThatStopsIsMarkedAndABuildFailureIsTheSetUp() {
    UploadReport broken =
        recording.read(
            "{\"ImportPath\":\"p\",\"Action\":\"build-output\",\"Output\":\"a.go:5: undefined\\n\"}\n"
                + "{\"ImportPath\":\"p\",\"Action\":\"build-fail\"}\n"
                + event("start", "", "")
                + event("fail", "", ",\"Elapsed\":0,\"FailedBuild\":\"p\"")
                + event("run", "TestLast", "")
                + "{\"Time\":\"2026");

    assertThat(broken.total()).isEqualTo(new Counts(0, 0, 1, 0, 0, 0, 1));
    assertThat(broken.files().get(0).brokenOff()).isTrue();
    assertThat(recording.results.get(0).attempts().get(0).failures().get(0).trace())
        .isEqualTo("a.go:5: undefined");
  }
}
