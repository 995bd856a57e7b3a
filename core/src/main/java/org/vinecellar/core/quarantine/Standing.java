package org.vinecellar.core.quarantine;

import java.time.LocalDate;
import java.util.Locale;

/** Where a quarantine stands. */
public enum Standing {
  /** It holds, and the test still needs it. */
  HOLDS,
  /** Its last day is near. */
  ENDING,
  /** Its last day is past: failures count again, and nobody has said what became of it. */
  OVER,
  /** The test has been clean for long enough to come back. */
  CLEAN,
  /** No run has the test any more. */
  GONE,
  /** Somebody ended it. */
  ENDED;

  /** It is said beforehand by so many days. */
  public static final int SOON = 3;

  /** The name in the API, e.g. {@code holds}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** Whether failures of runs that begin today are let pass. */
  public boolean isHolding() {
    return this != OVER && this != ENDED;
  }

  /**
   * Of one that nobody ended.
   *
   * @param today in UTC
   */
  static Standing of(LocalDate until, LocalDate today, Lately lately) {
    if (until.isBefore(today)) {
      return OVER;
    }
    if (lately.isGone()) {
      return GONE;
    }
    if (lately.isClean()) {
      return CLEAN;
    }
    return until.isAfter(today.plusDays(SOON)) ? HOLDS : ENDING;
  }
}
