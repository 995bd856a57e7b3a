package org.vinecellar.core.ingest;

import java.time.Instant;
import org.vinecellar.core.results.TestResult;

/**
 * Whether a file tells itself from every other run's: by when its tests began, or by durations that
 * would not be the same again by chance. A file of neither may well be the same every night.
 */
final class Dated {
  /** One in sixteen million. */
  private static final int ENOUGH_BITS = 24;

  /** Durations vary by a quarter and more from run to run; a millisecond is what files tell. */
  private static final long STEP_MICROS = 4000;

  private int bits;

  void see(TestResult result) {
    if (bits >= ENOUGH_BITS) {
      return;
    }
    Instant started = result.started();
    bits += started != null ? ENOUGH_BITS : bits(result.durationMicros());
  }

  private static int bits(long micros) {
    return micros < STEP_MICROS ? 0 : 64 - Long.numberOfLeadingZeros(micros / STEP_MICROS);
  }

  boolean isDated() {
    return bits >= ENOUGH_BITS;
  }
}
