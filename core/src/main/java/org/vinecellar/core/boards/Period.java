package org.vinecellar.core.boards;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * From one moment to another.
 *
 * @param from the first moment
 * @param to the first moment after it
 */
public record Period(Instant from, Instant to) {
  private static final int MOST_DAYS = 7_320;
  private static final int EARLIEST = 1970;
  private static final int LATEST = 9998;

  /** Checks that it has a length. */
  public Period {
    if (!from.isBefore(to)) {
      throw invalid("a period ends after it begins; this one goes from " + from + " to " + to);
    }
  }

  /**
   * The latest days, today with them: whole days of UTC.
   *
   * @param days from 1 to 7320, some twenty years
   */
  public static Period ofDays(int days, Instant now) {
    if (days < 1 || days > MOST_DAYS) {
      throw invalid("days is " + days + "; it goes from 1 to " + MOST_DAYS);
    }
    Instant tomorrow = Step.DAY.next(Step.DAY.begin(now));
    return new Period(tomorrow.minus(days, ChronoUnit.DAYS), tomorrow);
  }

  /** From the beginning of one day to the end of another, both of UTC. */
  public static Period between(LocalDate first, LocalDate last) {
    for (LocalDate day : List.of(first, last)) {
      if (day.getYear() < EARLIEST || day.getYear() > LATEST) {
        throw invalid(day + " is no day that a run could begin; take one from 1970 to 9998");
      }
    }
    if (last.isBefore(first)) {
      throw invalid("the period ends on " + last + ", before it begins on " + first);
    }
    if (ChronoUnit.DAYS.between(first, last) >= MOST_DAYS) {
      throw invalid("a period has at most " + MOST_DAYS + " days");
    }
    return new Period(
        first.atStartOfDay().toInstant(ZoneOffset.UTC),
        last.plusDays(1).atStartOfDay().toInstant(ZoneOffset.UTC));
  }

  /** The one before it, as long as this. */
  public Period before() {
    return new Period(from.minus(Duration.between(from, to)), from);
  }

  /** Whether a moment lies in it. */
  public boolean has(Instant moment) {
    return !moment.isBefore(from) && moment.isBefore(to);
  }

  private static CellarException invalid(String why) {
    return new CellarException(ProblemCode.INVALID_VALUE, why);
  }
}
