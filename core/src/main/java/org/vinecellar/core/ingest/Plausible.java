package org.vinecellar.core.ingest;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestResult;

/**
 * Whether durations can be what they say: no test ends after its results arrived, nor lasts longer
 * than the job that ran it. Those of a file that counts milliseconds where its format says seconds
 * do.
 */
final class Plausible {
  /** Clocks of two machines may be so far apart. */
  private static final Duration TOLERANCE = Duration.ofMinutes(10);

  private final @Nullable Instant latestEnd;
  private final long longestMicros;
  private int count;
  private @Nullable String first;

  /**
   * @param arrived null when not known
   * @param jobMillis how long the job ran; null when not known
   */
  Plausible(@Nullable Instant arrived, @Nullable Long jobMillis) {
    this.latestEnd = arrived == null ? null : arrived.plus(TOLERANCE);
    this.longestMicros =
        jobMillis == null ? Long.MAX_VALUE : (jobMillis + TOLERANCE.toMillis()) * 1000;
  }

  void see(TestResult result) {
    long micros = result.durationMicros();
    Instant started = result.started();
    boolean ends =
        latestEnd != null
            && started != null
            && started.isBefore(latestEnd)
            && started.plus(micros, ChronoUnit.MICROS).isAfter(latestEnd);
    if (micros > 0 && (ends || micros > longestMicros) && count++ == 0) {
      first =
          String.format(
              Locale.ROOT,
              "“%s” would have lasted %d s, which is %s",
              cut(result.test().displayName()),
              micros / 1_000_000,
              ends ? "until after it arrived" : "longer than its job");
    }
  }

  private static String cut(String name) {
    return name.length() <= 100 ? name : name.substring(0, 99) + "…";
  }

  /** What cannot be; null for nothing. */
  @Nullable String problem() {
    return first == null
        ? null
        : first
            + (count == 1 ? "" : ", and so would " + (count - 1) + " more")
            + ": the file's durations are probably in another unit than its format says";
  }
}
