package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** By what a file is told from those of other nights. */
class DatedTest {
  @ParameterizedTest
  @CsvSource({
    "-1, 1000, , false",
    "1000, 1000, , false",
    "120000, 1, , false",
    "120000, 10, , true",
    "3600000000, 1, , false",
    "-1, 1, 2026-11-20T06:00:00Z, true",
  })
  void byTimesAndByDurationsThatDoNotComeTwice(
      long micros, int tests, @Nullable Instant started, boolean told) {
    Dated dated = new Dated();
    for (int i = 0; i < tests; i++) {
      dated.see(
          TestResult.of(
              TestId.of(SuitePath.ROOT, "t" + i, null),
              ResultKind.TEST,
              List.of(new Attempt(Outcome.PASSED, micros, List.of(), null, null)),
              started,
              Map.of(),
              null,
              0));
    }
    assertThat(dated.isDated()).isEqualTo(told);
  }
}
