package org.vinecellar.core.formats.csv;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

class CsvReaderTest {
  private final Recording recording = new Recording();

  private UploadReport read(String table, String... columns) {
    return UploadReader.read(
        List.of(Recording.source("t.csv", table.getBytes(StandardCharsets.UTF_8))),
        ReadLimits.DEFAULT,
        new UploadReader.Hints(CsvColumns.of(List.of(columns)), Variant.NONE, null),
        new AttachmentFiles<>(),
        recording);
  }

  @Test
  void usualHeadingsNeedNoMapping() {
    UploadReport report =
        read(
            """
            Suite,Test,Status,Time,Message,Tags,Berth
            Fares > Night,"adds ""½"", twice",pass,1.25,,smoke slow,B
            Fares,refunds,FAILED,"0,5","expected 12.50
            but was 12.40",,
            Fares,crashes,error,,,,
            Fares,waits,pending,x,later,,
            Fares,odd,purple,,,,
            Fares,,pass,,,,
            """);

    assertThat(report.total()).isEqualTo(new Counts(1, 1, 2, 1, 0, 0));
    assertThat(report.files().get(0).problems())
        .containsExactly(
            "row 5 has a duration that is none",
            "row 6 has the outcome “purple”, which is not known: errored",
            "row 7 names no test or no outcome and was left out");
    TestResult adds = recording.results.get(0);
    assertThat(adds.test().displayName()).isEqualTo("adds \"½\", twice");
    assertThat(adds.test().suite().names()).containsExactly("Fares", "Night");
    assertThat(adds.durationMicros()).isEqualTo(1_250_000);
    assertThat(adds.tags()).containsExactly("smoke", "slow");
    assertThat(adds.properties()).isEqualTo(java.util.Map.of("Berth", "B"));
    assertThat(recording.results.get(1).attempts().get(0).failures().get(0).message())
        .isEqualTo("expected 12.50\nbut was 12.40");
  }

  @Test
  void othersAreMappedAndMayBePartedBySemicolons() {
    UploadReport report =
        read(
            "Prüfung;Ergebnis;Dauer\nKai;bestanden;7\nSteg;ok;9\n",
            "test=Prüfung",
            "outcome=Ergebnis",
            "duration ms=Dauer");

    assertThat(report.total()).isEqualTo(new Counts(1, 0, 1, 0, 0, 0));
    assertThat(recording.results.get(1).durationMicros()).isEqualTo(9_000);
  }

  @Test
  void whatIsNotKnownIsSaid() {
    assertThat(read("Prüfung;Ergebnis;Dauer\nKai;ok;7\n").files().get(0).error())
        .startsWith("looks like a table, but which columns hold the test and its outcome");
    assertThatThrownBy(() -> CsvColumns.of(List.of("titel=Prüfung")))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("“titel=Prüfung” is not of the form FIELD=HEADING")
        .hasMessageContaining("outcome, output, parameters");
    UploadReport cut = read("test,status,message\na,pass,\nb,fail,\"half\nof it");
    assertThat(cut.files().get(0).brokenOff()).isTrue();
    assertThat(cut.total().passed()).isEqualTo(1);
  }
}
