package org.vinecellar.client.history;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.client.history.ImportPlan.Found;
import org.vinecellar.client.history.ImportPlan.PlannedPart;
import org.vinecellar.client.history.ImportPlan.PlannedRun;
import org.vinecellar.core.problem.CellarException;

class ImportPlanTest {
  private static final Instant WRITTEN = Instant.parse("2026-01-02T03:04:05Z");

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{stream}/{at}/{part}.xml | nightly/2026-11-20/api.xml | {stream=nightly, at=2026-11-20, part=api}",
        "{stream}/{stream}/{run}/* | booking-api/nightly/812/r.xml | {stream=booking-api/nightly, run=812}",
        "{at}/{at}/{at}/** | 2026/11/20/deep/er/r.xml | {at=2026-11-20}",
        "{label.team}-{branch}.xml | fares-main.xml | {label.team=fares, branch=main}",
        "a+(b).{part} | a+(b).c | {part=c}",
        "{run}/*.xml | 1/2/r.xml | ",
        "{run}.xml | .xml | ",
        "{run}.xml | 1.xmlx | ",
      })
  void aLayoutReadsWhatAPathTells(String layout, String path, @Nullable String said) {
    assertThat(new Layout(layout).read(path).map(Object::toString).orElse(null)).isEqualTo(said);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{stream}/{time} | there is no placeholder {time}; there are {stream}",
        "{stream}/{at | the brace at character 10 is never closed",
        "{label.} | there is no placeholder {label.}",
      })
  void aLayoutThatCannotBeUsedSaysWhy(String layout, String told) {
    assertThatThrownBy(() -> new Layout(layout))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining(told);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-20, 2026-11-20T00:00:00Z",
    "20261120, 2026-11-20T00:00:00Z",
    "2026-11-20T06-30, 2026-11-20T06:30:00Z",
    "2026-11-20_06.30.15, 2026-11-20T06:30:15Z",
    "20261120T063015Z, 2026-11-20T06:30:15Z",
    "202611200630, 2026-11-20T06:30:00Z",
    "2026-11-20T06:30:15+02:00, 2026-11-20T04:30:15Z",
    "2026-11-20T06:30:15.123Z, 2026-11-20T06:30:15Z",
    "1763620215, 2025-11-20T06:30:15Z",
    "1763620215000, 2025-11-20T06:30:15Z",
    "2026-13-20,",
    "2026-11-20T25-00,",
    "build-7,",
    "2026,",
  })
  void timesAreReadAsFileNamesHoldThem(String text, @Nullable Instant time) {
    assertThat(Times.read(text).orElse(null)).isEqualTo(time);
  }

  private static Found found(String layout, String path) {
    return new Found(Path.of(path), path, new Layout(layout).read(path).orElseThrow(), WRITTEN);
  }

  @RepeatedTest(10)
  void runsGoByTimeWhateverTheOrderOfTheFiles(RepetitionInfo info) {
    String layout = "{stream}/{at}/{part}-*.xml";
    List<Found> files = new ArrayList<>();
    for (String path :
        List.of(
            "b/2026-01-03/web-1.xml",
            "a/2026-01-01/api-1.xml",
            "a/2026-01-01/api-2.xml",
            "a/2026-01-01/web-1.xml",
            "a/2026-01-04/api-1.xml",
            "b/2026-01-02/api-1.xml")) {
      files.add(found(layout, path));
    }
    Collections.shuffle(files, new Random(info.getCurrentRepetition()));

    List<PlannedRun> runs = ImportPlan.of(files, null);

    assertThat(runs)
        .extracting(run -> run.stream() + " " + run.key() + " " + run.parts().size())
        .containsExactly(
            "a import 2026-01-01 2",
            "b import 2026-01-02 1",
            "b import 2026-01-03 1",
            "a import 2026-01-04 1");
    PlannedPart api = runs.get(0).parts().get(0);
    assertThat(api.name()).isEqualTo("api");
    assertThat(api.files())
        .containsExactly(Path.of("a/2026-01-01/api-1.xml"), Path.of("a/2026-01-01/api-2.xml"));
  }

  @Test
  void withoutATimeTheFolderIsTheRunAndTheFileTellsWhen() {
    List<PlannedRun> runs =
        ImportPlan.of(List.of(found("*/r{part}.xml", "x/r1.xml"), found("**", "y/r1.xml")), "s");

    assertThat(runs).extracting(PlannedRun::key).containsExactly("import x", "import y");
    assertThat(runs).extracting(PlannedRun::at).containsOnly(WRITTEN);
  }

  @Test
  void whatIsNotToldIsAskedFor() {
    assertThatThrownBy(() -> ImportPlan.of(List.of(found("{run}.xml", "1.xml")), null))
        .hasMessageContaining("nothing tells the stream of 1.xml");
    Found late = new Found(Path.of("x"), "x", Map.of("at", "soon"), WRITTEN);
    assertThatThrownBy(() -> ImportPlan.of(List.of(late), "s"))
        .hasMessageContaining("“soon” in x is not a time");
  }
}
