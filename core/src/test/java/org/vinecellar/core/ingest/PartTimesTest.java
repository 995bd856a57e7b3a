package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PartTimesTest {
  private static final Instant ARRIVED = Instant.parse("2026-11-20T06:00:00Z");

  @ParameterizedTest
  @CsvSource({
    // starts, run started, believed, told
    ",                     2026-11-20T05:00:00Z, false, ",
    "2026-11-20T05:30:00Z, 2026-11-20T05:00:00Z, true,  ",
    "2026-11-19T23:30:00Z, 2026-11-20T05:00:00Z, true,  ",
    "2026-11-20T23:30:00Z, ,                     true,  ",
    "2026-11-14T00:00:00Z, ,                     true,  ",
    "2019-01-01T00:00:00Z, ,                     true, 2880 days before they came; the run takes",
    "2019-01-01T00:00:00Z, 2019-01-01T05:00:00Z, true,  ",
    "1970-01-01T00:00:00Z, 2026-11-20T05:00:00Z, false, more than a day from the start of its run",
    "2026-11-20T05:30:00Z, 1970-01-01T00:00:00Z, false, more than a day from the start of its run",
    "2038-01-19T03:14:07Z, ,                     false, in the future",
  })
  void aClockThatIsOffIsNotBelieved(
      @Nullable Instant started,
      @Nullable Instant runStarted,
      boolean believed,
      @Nullable String told) {
    PartTimes times = PartTimes.of(started, started, runStarted, ARRIVED, ARRIVED);

    assertThat(times.started() != null).isEqualTo(believed);
    assertThat(times.problem() == null ? "" : times.problem()).contains(told == null ? "" : told);
    assertThat(times.problem() == null).isEqualTo(told == null);
  }
}
