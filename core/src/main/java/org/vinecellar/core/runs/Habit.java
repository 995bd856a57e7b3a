package org.vinecellar.core.runs;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * When the next run of a stream is due, as far as its last ones tell: at about the same time on the
 * same days of the week, or again and again after about the same time. Of a stream without such a
 * habit nothing is said.
 *
 * @param expected when it is due, about
 * @param missingFrom when it is missing if it did not come; later, since a run is only there at its
 *     end, and clocks of schedules are moved twice a year
 */
public record Habit(Instant expected, Instant missingFrom) {
  private static final int FEWEST = 6;
  private static final int DAY_MINUTES = 24 * 60;

  /** So near to the usual time of the day is every run but a few of a daily habit. */
  private static final int NEAR_MINUTES = 100;

  private static final Duration PATIENCE_OF_DAYS = Duration.ofHours(6);
  private static final Duration PATIENCE_OF_INTERVALS = Duration.ofHours(1);

  /** A stream that has been silent for so long was given up. */
  private static final Duration GIVEN_UP = Duration.ofDays(30);

  /** A longest pause of more than so many usual ones is no habit. */
  private static final int UNEVEN = 3;

  /**
   * Of the last runs of a stream.
   *
   * @param starts when they began, in any order
   * @return null when they tell nothing
   */
  public static @Nullable Habit of(List<Instant> starts) {
    List<Instant> sorted = starts.stream().sorted().toList();
    if (sorted.size() < FEWEST) {
      return null;
    }
    Habit daily = daily(sorted);
    return daily != null ? daily : interval(sorted);
  }

  /** Whether a run is missing now. */
  public boolean isMissing(Instant now) {
    return now.isAfter(missingFrom) && now.isBefore(expected.plus(GIVEN_UP));
  }

  /** At the same time of the day: on which days of the week, the last four weeks tell. */
  private static @Nullable Habit daily(List<Instant> sorted) {
    List<Integer> minutes = sorted.stream().map(Habit::minuteOfDay).sorted().toList();
    int usual = middle(minutes);
    List<Instant> near =
        sorted.stream().filter(one -> away(minuteOfDay(one), usual) <= NEAR_MINUTES).toList();
    Set<LocalDate> days = new TreeSet<>();
    near.forEach(one -> days.add(day(one, usual)));
    // A few by hand beside the nightly ones do not matter; many do.
    if (days.size() < FEWEST || near.size() * 10 < sorted.size() * 7) {
      return null;
    }
    LocalDate first = days.iterator().next();
    LocalDate last = day(near.get(near.size() - 1), usual);
    for (LocalDate day = last.plusDays(1); day.isBefore(last.plusDays(15)); day = day.plusDays(1)) {
      if (isUsual(day.getDayOfWeek(), first, last, days)) {
        Instant due = day.atStartOfDay(ZoneOffset.UTC).toInstant().plus(Duration.ofMinutes(usual));
        return new Habit(due, due.plus(PATIENCE_OF_DAYS));
      }
    }
    return null;
  }

  /** On three of the last four such days, or on both where there were two. */
  private static boolean isUsual(
      DayOfWeek of, LocalDate first, LocalDate last, Set<LocalDate> days) {
    int looked = 0;
    int came = 0;
    for (LocalDate day = last; !day.isBefore(first) && looked < 4; day = day.minusDays(1)) {
      if (day.getDayOfWeek() == of) {
        looked++;
        came += days.contains(day) ? 1 : 0;
      }
    }
    return looked >= 2 ? came * 4 >= looked * 3 : looked == 1 && came == 1 && isEveryDay(days);
  }

  /** In the first week nobody knows of weekends, but every day is every day. */
  private static boolean isEveryDay(Set<LocalDate> days) {
    LocalDate before = null;
    for (LocalDate day : days) {
      if (before != null && !day.equals(before.plusDays(1))) {
        return false;
      }
      before = day;
    }
    return days.size() >= 7;
  }

  private static @Nullable Habit interval(List<Instant> sorted) {
    List<Duration> pauses = new ArrayList<>();
    for (int i = 1; i < sorted.size(); i++) {
      pauses.add(Duration.between(sorted.get(i - 1), sorted.get(i)));
    }
    pauses.sort(null);
    Duration usual = pauses.get(pauses.size() / 2);
    Duration longest = pauses.get(pauses.size() - 1);
    if (pauses.size() < FEWEST
        || usual.toMinutes() < 10
        || longest.compareTo(usual.multipliedBy(UNEVEN)) > 0) {
      return null;
    }
    Instant last = sorted.get(sorted.size() - 1);
    return new Habit(
        last.plus(usual), last.plus(longest.multipliedBy(2)).plus(PATIENCE_OF_INTERVALS));
  }

  private static int minuteOfDay(Instant time) {
    return Math.toIntExact(Math.floorMod(time.getEpochSecond() / 60, (long) DAY_MINUTES));
  }

  private static int away(int one, int other) {
    int apart = Math.abs(one - other);
    return Math.min(apart, DAY_MINUTES - apart);
  }

  /** The minute that is nearest to all: days are circles. */
  private static int middle(List<Integer> minutes) {
    int best = minutes.get(0);
    long least = Long.MAX_VALUE;
    for (int candidate : minutes) {
      long sum = 0;
      for (int minute : minutes) {
        sum += away(minute, candidate);
      }
      if (sum < least) {
        least = sum;
        best = candidate;
      }
    }
    return best;
  }

  /**
   * The day to whose usual time a run is nearest: one a little after midnight is of the day before.
   */
  private static LocalDate day(Instant time, int usual) {
    Instant shifted = time.minus(Duration.ofMinutes(usual)).plus(Duration.ofHours(12));
    return LocalDate.ofInstant(shifted, ZoneOffset.UTC);
  }
}
