package org.vinecellar.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** One range from a place on; anything else is the whole. */
class ByteRangeTest {
  @ParameterizedTest
  @CsvSource({
    ", 100, 0-99, 200",
    "bytes=0-, 100, 0-99, 206",
    "bytes=10-19, 100, 10-19, 206",
    "bytes=90-500, 100, 90-99, 206",
    "bytes=99-99, 100, 99-99, 206",
    "bytes=100-, 100, 0-99, 200",
    "bytes=20-10, 100, 0-99, 200",
    "bytes=-5, 100, 0-99, 200",
    "'bytes=0-1,5-6', 100, 0-99, 200",
    "lines=0-1, 100, 0-99, 200",
    "bytes=0-, 0, 0--1, 200",
    "bytes=99999999999999999999-, 100, 0-99, 200",
  })
  void isWhatTheHeaderAsksFor(@Nullable String header, long size, String range, int status) {
    ByteRange read = ByteRange.of(header, size);

    assertThat(read.from() + "-" + read.to()).isEqualTo(range);
    assertThat(read.status()).isEqualTo(status);
    assertThat(read.count()).isEqualTo(read.to() - read.from() + 1);
  }
}
