package org.vinecellar.core.ingest;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * When a part ran, as far as its files can be believed: the clocks of the machines that tests run
 * on may be off, and one part must not date the whole run.
 *
 * @param started null when not told, or not believed
 * @param ended null when not told, or not believed
 * @param problem what is wrong with the times; null for nothing
 */
public record PartTimes(
    @Nullable Instant started, @Nullable Instant ended, @Nullable String problem) {
  /** Before there were tests to collect. */
  private static final Instant EARLIEST = Instant.parse("2000-01-01T00:00:00Z");

  /** Parts of one run do not lie further apart. */
  private static final Duration FURTHEST = Duration.ofDays(1);

  /**
   * Results that are sent so late without a word are mostly those of a clock that was never set.
   */
  private static final Duration LONG_BEFORE = Duration.ofDays(7);

  /**
   * Judges what files tell.
   *
   * @param started null when they tell nothing
   * @param ended null when they tell nothing
   * @param runStarted when the run began as its parts until now tell; null for the first part
   * @param sent when it was, as its sender says; else when it arrived
   * @param arrived when the part arrived
   */
  public static PartTimes of(
      @Nullable Instant started,
      @Nullable Instant ended,
      @Nullable Instant runStarted,
      Instant sent,
      Instant arrived) {
    if (started == null) {
      return new PartTimes(null, ended, null);
    }
    if (started.isAfter(arrived.plus(FURTHEST))) {
      return new PartTimes(
          null, null, off(started, "in the future; the time of its arrival is used"));
    }
    if (runStarted != null && Duration.between(started, runStarted).abs().compareTo(FURTHEST) > 0) {
      return new PartTimes(
          null, null, off(started, "more than a day from the start of its run; they are left out"));
    }
    Duration before = Duration.between(started, sent);
    return new PartTimes(
        started,
        ended,
        runStarted == null && before.compareTo(LONG_BEFORE) > 0
            ? off(
                started, before.toDays() + " days before they came; the run takes its place there")
            : null);
  }

  /** Whether a sender can mean such a time: nothing runs tomorrow. */
  public static boolean isPossible(Instant at, Instant now) {
    return !at.isAfter(now.plus(FURTHEST));
  }

  /** When a part began; null when that cannot be believed, as from a clock that was never set. */
  public static @Nullable Instant believed(@Nullable Instant started, Instant arrived) {
    return started == null || started.isBefore(EARLIEST) || started.isAfter(arrived.plus(FURTHEST))
        ? null
        : started;
  }

  private static String off(Instant started, String what) {
    return "its times begin at " + started + ", " + what + ". Is the clock of its machine right?";
  }
}
