package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What tools leave beside results, and results that they tell twice. */
class BesideResultsTest {
  private static final String TWO =
      "<testsuite name='fares.FareTest'><testcase name='adds up to the sum'/><testcase name='rounds up by the rule'>"
          + "<failure message='late'/></testcase></testsuite>";

  @ParameterizedTest
  @ValueSource(
      strings = {
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
            + "<!DOCTYPE suite SYSTEM \"https://testng.org/testng-1.0.dtd\">\n"
            + "<suite name=\"Failed suite [Surefire suite]\" verbose=\"0\"><test name=\"t\"/></suite>",
        "<!DOCTYPE suite SYSTEM \"http://testng.org/testng-1.0.dtd\"><suite name='s'/>",
        "<?xml version=\"1.0\"?><failsafe-summary result=\"255\"><completed>2</completed></failsafe-summary>",
      })
  void whatIsNoResultIsPassedOverWithAWord(String text) {
    UploadReport report = new Recording().read(text, TWO);

    assertThat(report.unreadable()).isEmpty();
    assertThat(report.total().tests()).isEqualTo(2);
    assertThat(report.files().get(0).problems())
        .containsExactly(
            "is no file of results, but one that tools leave beside them: passed over");
  }

  @Test
  void oneRunInTwoFormatsIsNotTakenForTwoWithoutAWord() {
    String tap = "1..2\nok 1 - fares adds up to the sum\nnot ok 2 - fares rounds up by the rule\n";
    UploadReport twice = new Recording().read(TWO, tap);
    assertThat(twice.files())
        .allSatisfy(file -> assertThat(file.problems()).hasSize(1))
        .extracting(file -> file.problems().get(0).substring(0, 65))
        .containsExactly(
            "as many tests, most of them of the same names, stand in tap: if t",
            "as many tests, most of them of the same names, stand in junit-xml");

    // Other counts, other names, or the same format, are other tests.
    for (List<String> texts :
        List.of(
            List.of(TWO, "1..1\nok 1 - a\n"),
            List.of(TWO, "1..2\nok 1 - moors\nnot ok 2 - sails\n"),
            List.of(TWO, TWO.replace("fares", "boats")))) {
      assertThat(new Recording().read(texts.toArray(String[]::new)).files())
          .allSatisfy(file -> assertThat(file.problems()).isEmpty());
    }
  }
}
