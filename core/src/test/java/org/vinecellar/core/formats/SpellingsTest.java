package org.vinecellar.core.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Durations and times as frameworks spell them. */
class SpellingsTest {
  @ParameterizedTest
  @CsvSource({
    "0, 0",
    "1.25, 1250000",
    "12345.678901, 12345678901",
    "0.0000004, 0",
    "8.9e-05, 89",
    "1.5E+1, 15000000",
    "'1,234.5', 1234500000",
    "'1,234,567', 1234567000000",
    "'0,25', 250000",
    "1.1s, 1100000",
    "12 ms, 12000",
    "01:02:03.5, 3723500000",
    "02:30, 150000000",
    ".5, 500000",
    "7., 7000000",
    "-1, -1",
    "NaN, -1",
    "Infinity, -1",
    "'', -1",
    "1.2.3, -1",
    "99999999999999, -1",
  })
  void seconds(String text, long micros) {
    assertThat(Seconds.toMicros(text)).isEqualTo(micros);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-20T03:00:00, 2026-11-20T03:00:00Z",
    "2026-11-20T03:00:00.123456+02:00, 2026-11-20T01:00:00.123456Z",
    "2026-11-20T03:00:00+0200, 2026-11-20T01:00:00Z",
    "2026-11-20 03:00:00 UTC, 2026-11-20T03:00:00Z",
    "'Fri, 20 Nov 2026 03:00:00 GMT', 2026-11-20T03:00:00Z",
    "1970-01-01T00:00:00, ",
    "0001-01-01T00:00:00, ",
    "yesterday evening, ",
  })
  void times(String text, Instant instant) {
    assertThat(Timestamps.parse(text)).isEqualTo(instant);
  }
}
