package org.vinecellar.core.formats.csv;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;

class CsvReaderTest {
  private final Recording recording = new Recording();

  private UploadReport read(String table, String... columns) {
    return UploadReader.read(
        List.of(Recording.source("t.csv", table.getBytes(StandardCharsets.UTF_8))),
        ReadLimits.DEFAULT,
        UploadReader.Hints.of(CsvColumns.of(List.of(columns))),
        new AttachmentFiles<>(),
        recording);
  }

  @Test
  void usualHeadingsNeedNoMapping() {
    UploadReport report =
        read(
            """
            Suite,Test,Status,Time (s),Message,Tags,Berth
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

  /** The file of a load is a thousand times too long when its unit is guessed. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          Duration (ms) | 1250     |              | 1250000
          elapsedMillis | 1250     |              | 1250000
          time_s        | 1.25     |              | 1250000
          took in min   | 2        |              | 120000000
          elapsed       | 1250 ms  |              | 1250000
          elapsed       | 00:01:02 |              | 62000000
          elapsed       | 0        |              | 0
          elapsed       | 1250     | ms=elapsed   | 1250000
          elapsed       | 1250     | s=elapsed    | 1250000000
          Dauer         | 1.250,5  | us=Dauer     | -1
          Dauer         | 1250     | us=Dauer     | 1250
          elapsed       | 1250     |              | asked
          Time          | 1.25     |              | asked
          duration      | 1,5      |              | asked
          Dauer         | 7        | =Dauer       | asked
          ms            | 7        | =ms          | 7000
          """)
  void durationsWithoutAUnitAreAskedFor(
      String heading, String cell, @Nullable String told, String micros) {
    String table =
        "label;success;" + heading + ";timeStamp\nlist;true;" + cell + ";1795651200123\n";
    List<String> columns = new ArrayList<>(List.of("test=label", "started=timeStamp"));
    if (told != null) {
      columns.add("duration" + (told.startsWith("=") ? "" : " ") + told);
    }

    UploadReport report = read(table, columns.toArray(String[]::new));

    if (micros.equals("asked")) {
      assertThat(report.files().get(0).error())
          .isEqualTo(
              "does not tell whether “%1$s” %2$s is seconds or milliseconds; say --column 'duration"
                  + " s=%1$s' or --column 'duration ms=%1$s' (us, ns and min are known too), or name"
                  + " it so in its heading",
              heading, cell);
    } else {
      assertThat(report.files().get(0).error()).isNull();
      TestResult result = recording.results.get(0);
      assertThat(result.durationMicros()).isEqualTo(Long.parseLong(micros));
      assertThat(result.started()).isEqualTo("2026-11-26T00:00:00.123Z");
    }
  }

  @Test
  void whatIsNotKnownIsSaid() {
    assertThat(read("Prüfung;Ergebnis;Dauer\nKai;ok;7\n").files().get(0).error())
        .startsWith("looks like a table, but which columns hold the test and its outcome")
        .endsWith("its columns are “Prüfung”, “Ergebnis”, “Dauer”");
    assertThat(read("name,status\na,ok\n", "duration s=Tok").files().get(0).error())
        .isEqualTo("has no column “Tok”; its columns are “name”, “status”");
    assertThatThrownBy(() -> CsvColumns.of(List.of("titel=Prüfung")))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("“titel=Prüfung” is not of the form FIELD=HEADING")
        .hasMessageContaining("outcome, output, parameters");
    UploadReport cut = read("test,status,message\na,pass,\nb,fail,\"half\nof it");
    assertThat(cut.files().get(0).brokenOff()).isTrue();
    assertThat(cut.total().passed()).isEqualTo(1);
  }
}
