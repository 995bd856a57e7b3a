package org.vinecellar.core.formats.junitxml;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;

class SuiteVariantsTest {
  /** Two suites with a test "sails" each, which fails in the first and passes in the second. */
  @ParameterizedTest
  @CsvSource({
    // root, name and host of the one, of the other, variants, failed, passed, tests in all
    "testsuites, S, reef-1, S, sable-2, ' | host=sable-2', 1, 1",
    "testsuites, S, pod-7f9c6d5b4-x8k2p, S, pod-1a2b3c4d5-q9z7w, ' | host=2', 1, 1",
    "testsuites, S, 3f2a9b1c77de, S, 0c11aa9f2b7e, ' | host=2', 1, 1",
    "testsuites, S, reef-1, T, sable-2, ' | ', 1, 1",
    "testsuites id='' name='', a.spec.ts, webkit, a.spec.ts, chromium,"
        + " 'project=webkit | project=chromium', 1, 1",
    "testsuites id='' name='', a.spec.ts, webkit, b.spec.ts, webkit,"
        + " 'project=webkit | project=webkit', 1, 1",
    "testsuites id='' name='', a.spec.ts, '', b.spec.ts, '', ' | ', 1, 1",
  })
  void suitesOfOneNameStayApart(
      String root,
      String name,
      String host,
      String otherName,
      String otherHost,
      String variants,
      int failed,
      int passed) {
    Recording recording = new Recording();
    UploadReport report =
        read(
            recording,
            "<"
                + root
                + "><testsuite name='"
                + name
                + "' hostname='"
                + host
                + "'><testcase name='sails'><failure message='no wind'/></testcase></testsuite>"
                + "<testsuite name='"
                + otherName
                + "' hostname='"
                + otherHost
                + "'><testcase name='sails'/></testsuite></testsuites>");

    assertThat(report.total().failed()).isEqualTo(failed);
    assertThat(report.total().passed()).isEqualTo(passed);
    assertThat(report.total().retried()).isZero();
    assertThat(
            recording.results.get(0).test().variant().text()
                + " | "
                + recording.results.get(1).test().variant().text())
        .isEqualTo(variants);
  }

  /** Somebody who makes up machines keeps nobody waiting, and hides no failure. */
  @Test
  void countlessMachinesAreToldApartAndNotGoneThrough() {
    StringBuilder xml = new StringBuilder("<testsuites>");
    for (int i = 0; i < 300; i++) {
      xml.append("<testsuite name='S' hostname='pod").append(i).append("x9'><testcase name='t'>");
      xml.append(i % 2 == 0 ? "<failure/>" : "").append("</testcase></testsuite>");
    }
    for (int i = 0; i < 300_000; i++) {
      xml.append("<testsuite name='S' hostname='h").append(i).append("'/>");
    }
    Recording recording = new Recording();
    UploadReport report = read(recording, xml.append("</testsuites>").toString());
    assertThat(report.total().failed()).isEqualTo(150);
    assertThat(report.total().passed()).isEqualTo(150);
  }

  private static UploadReport read(Recording recording, String xml) {
    return UploadReader.read(
        List.of(Recording.source("r.xml", xml.getBytes(StandardCharsets.UTF_8))),
        ReadLimits.DEFAULT,
        recording);
  }
}
