package org.vinecellar.core.runs;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is due, of streams as teams have them; 1 October 2026 is a Thursday. */
class HabitTest {
  private static final LocalDate FIRST = LocalDate.parse("2026-10-01");
  private static final Set<DayOfWeek> WEEKEND = Set.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);

  private static Instant at(LocalDate day, String time) {
    return Instant.parse(day + "T" + time + ":00Z");
  }

  private static Habit known(List<Instant> starts) {
    return Objects.requireNonNull(Habit.of(starts));
  }

  @ParameterizedTest
  @CsvSource({
    // days of the stream, on which of them it runs, when the next is due
    "30, every,    2026-10-31",
    "7,  every,    2026-10-08",
    "20, weekdays, 2026-10-21",
    "23, weekdays, 2026-10-26",
    "12, weekdays, 2026-10-15",
    "30, sundays,  ",
    "70, sundays,  2026-12-13",
    "5,  every,    ",
  })
  void aNightlyRunIsDueAtItsTimeOnItsDays(int length, String kind, @Nullable LocalDate due) {
    Random random = new Random(length);
    List<Instant> starts = new ArrayList<>();
    for (int i = 0; i < length; i++) {
      LocalDate day = FIRST.plusDays(i);
      boolean runs =
          switch (kind) {
            case "weekdays" -> !WEEKEND.contains(day.getDayOfWeek());
            case "sundays" -> day.getDayOfWeek() == DayOfWeek.SUNDAY;
            default -> true;
          };
      if (runs) {
        starts.add(at(day, "23:50").plusSeconds(random.nextInt(1800)));
      }
    }
    if (due == null) {
      assertThat(Habit.of(starts)).isNull();
      return;
    }
    Habit habit = known(starts);
    Instant expected = habit.expected();
    assertThat(Duration.between(at(due, "23:50"), expected))
        .isBetween(Duration.ZERO, Duration.ofMinutes(31));
    assertThat(habit.isMissing(expected.plus(Duration.ofHours(5)))).isFalse();
    assertThat(habit.isMissing(expected.plus(Duration.ofHours(7)))).isTrue();
    assertThat(habit.isMissing(expected.plus(Duration.ofDays(31)))).as("given up").isFalse();
  }

  /** Clocks of schedules are put back; the night in which they are is not missing. */
  @Test
  void summerTimeChangesNothing() {
    ZoneId zone = ZoneId.of("Europe/Oslo");
    List<Instant> starts = new ArrayList<>();
    for (int i = 0; i < 40; i++) {
      starts.add(FIRST.plusDays(i).atTime(4, 0).atZone(zone).toInstant());
      Habit habit = Habit.of(starts);
      Instant next = FIRST.plusDays(i + 1L).atTime(4, 0).atZone(zone).toInstant();
      assertThat(habit == null || !habit.isMissing(next.plus(Duration.ofHours(3)))).isTrue();
    }
  }

  @Test
  void runsByHandBesideTheNightsDoNotHideAMissingOne() {
    List<Instant> starts = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      starts.add(at(FIRST.plusDays(i), "02:00"));
    }
    starts.add(at(FIRST.plusDays(20), "11:30"));
    assertThat(known(starts).expected()).isEqualTo(at(FIRST.plusDays(20), "02:00"));
  }

  @Test
  void ofIntervalsTheLongestTwiceIsMissing() {
    List<Instant> starts = new ArrayList<>();
    Instant first = FIRST.atStartOfDay(ZoneOffset.UTC).toInstant();
    for (int i = 0; i < 30; i++) {
      starts.add(first.plus(Duration.ofMinutes(120L * i + i % 3 * 10)));
    }
    Instant last = starts.get(29);
    Habit habit = known(starts);
    assertThat(habit.isMissing(last.plus(Duration.ofHours(5)))).isFalse();
    assertThat(habit.isMissing(last.plus(Duration.ofHours(6)))).isTrue();
  }

  /** What runs on each push, as people push, is never missing. */
  @Test
  void withoutAHabitNothingIsSaid() {
    for (int seed = 1; seed <= 200; seed++) {
      Random random = new Random(seed);
      List<Instant> starts = new ArrayList<>();
      for (int i = 0; i < 28; i++) {
        LocalDate day = FIRST.plusDays(i);
        int pushes = WEEKEND.contains(day.getDayOfWeek()) ? 0 : random.nextInt(4);
        for (int push = 0; push < pushes; push++) {
          starts.add(at(day, "07:00").plusSeconds(random.nextInt(11 * 3600)));
        }
      }
      List<Instant> last = starts.subList(Math.max(0, starts.size() - 30), starts.size());
      assertThat(Habit.of(last)).as("seed %d", seed).isNull();
    }
  }
}
