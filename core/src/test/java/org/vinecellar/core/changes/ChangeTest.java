package org.vinecellar.core.changes;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Outcome;

class ChangeTest {
  @ParameterizedTest
  @CsvSource({
    "PASSED,  PASSED,      false, ",
    "PASSED,  FAILED,      false, NEW_FAILING",
    "SKIPPED, ERRORED,     false, NEW_FAILING",
    ",        FAILED,      false, NEW_FAILING",
    "FAILED,  ERRORED,     true,  FAILING_AS_BEFORE",
    "ERRORED, PASSED,      false, FIXED",
    "FAILED,  PASSED,      true,  PASSED_ON_RETRY",
    "PASSED,  PASSED,      true,  PASSED_ON_RETRY",
    "FAILED,  SKIPPED,     false, ",
    "FAILED,  NOT_REACHED, false, ",
    ",        PASSED,      false, ADDED",
    ",        SKIPPED,     false, ADDED",
    "PASSED,  ,            false, GONE",
    ",        ,            false, ",
  })
  void between(Outcome before, Outcome now, boolean onRetry, Change change) {
    assertThat(Change.between(before, now, onRetry)).isEqualTo(change);
  }
}
