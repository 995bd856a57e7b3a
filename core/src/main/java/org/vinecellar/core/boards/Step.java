package org.vinecellar.core.boards;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Arrays;
import java.util.Locale;
import java.util.stream.Collectors;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** How long each point of a trend is. Days and hours are those of UTC, weeks begin on Monday. */
public enum Step {
  HOUR,
  DAY,
  WEEK;

  /**
   * The one that is written so.
   *
   * @throws CellarException when none is
   */
  public static Step of(String word) {
    return Arrays.stream(values())
        .filter(step -> step.word().equals(word))
        .findFirst()
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.INVALID_VALUE,
                    "step is “"
                        + word
                        + "”; it can be "
                        + Arrays.stream(values())
                            .map(Step::word)
                            .collect(Collectors.joining(", "))));
  }

  /** As it is written. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** When the one began that a moment lies in. */
  public Instant begin(Instant moment) {
    ZonedDateTime time = moment.atZone(ZoneOffset.UTC);
    return switch (this) {
      case HOUR -> time.truncatedTo(ChronoUnit.HOURS).toInstant();
      case DAY -> time.truncatedTo(ChronoUnit.DAYS).toInstant();
      case WEEK ->
          time.truncatedTo(ChronoUnit.DAYS)
              .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY))
              .toInstant();
    };
  }

  /** When the next one begins. */
  public Instant next(Instant begin) {
    return begin.plus(hours(), ChronoUnit.HOURS);
  }

  /** The part of a period that the one lies in which begins then. */
  public Period within(Instant begin, Period period) {
    Instant next = next(begin);
    return new Period(
        begin.isBefore(period.from()) ? period.from() : begin,
        next.isAfter(period.to()) ? period.to() : next);
  }

  /** How many of them there are at most from one moment to another. */
  public long between(Instant from, Instant to) {
    return ChronoUnit.HOURS.between(begin(from), to) / hours() + 1;
  }

  private int hours() {
    return switch (this) {
      case HOUR -> 1;
      case DAY -> 24;
      case WEEK -> 7 * 24;
    };
  }
}
