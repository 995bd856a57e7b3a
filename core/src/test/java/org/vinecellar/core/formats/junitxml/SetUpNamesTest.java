package org.vinecellar.core.formats.junitxml;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestResult;

/** A failing case is the same test as the passing one, unless it stands for no test at all. */
class SetUpNamesTest {
  @ParameterizedTest
  @CsvSource({
    "org.skerrow.FareTest, org.skerrow.FareTest, '',                    SETUP",
    "org.skerrow.FareTest, org.skerrow.FareTest, org.skerrow.FareTest,  SETUP",
    "org.skerrow.FareTest, org.skerrow.FareTest, initializationError,   SETUP",
    "org.skerrow.FareTest, org.skerrow.FareTest, classMethod,           SETUP",
    "org.skerrow.FareTest, org.skerrow.FareTest, adds,                  TEST",
    "boarding,             boarding scans,       boarding scans,        TEST",
    "check-berths,         check-berths,         check-berths,          TEST",
    "ctest,                tide_table,           tide_table,            TEST",
    "suite,                a.b.lower,            a.b.lower,             TEST",
    "suite,                '',                   initializationError,   TEST",
  })
  void aFailingCase(String suite, String className, String name, ResultKind kind) {
    TestResult failing = read(suite, className, name, "<error message='no quay'/>");
    TestResult passing = read(suite, className, name, "");

    assertThat(failing.kind()).isEqualTo(kind);
    assertThat(passing.kind()).isEqualTo(ResultKind.TEST);
    if (kind == ResultKind.TEST) {
      assertThat(failing.test()).isEqualTo(passing.test());
    }
  }

  private static TestResult read(String suite, String className, String name, String inner) {
    Recording recording = new Recording();
    recording.read(
        new String[] {
          "<testsuite name='"
              + suite
              + "'><testcase name='"
              + name
              + "'"
              + (className.isEmpty() ? "" : " classname='" + className + "'")
              + ">"
              + inner
              + "</testcase></testsuite>"
        });
    return recording.results.get(0);
  }
}
