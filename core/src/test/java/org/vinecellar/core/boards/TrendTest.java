package org.vinecellar.core.boards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.problem.CellarException;

class TrendTest {
  private static final Instant NOW = Instant.parse("2026-11-29T22:03:00Z");

  private static RunSum sum(int passed, int failed) {
    return new RunSum(1, passed, failed, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, failed > 0 ? 1 : 0, 0, 0);
  }

  @ParameterizedTest
  @CsvSource({
    "HOUR, 2026-11-29T22:03:00Z, 2026-11-29T22:00:00Z, 2026-11-29T23:00:00Z",
    "DAY, 2026-11-29T23:59:59.999999Z, 2026-11-29T00:00:00Z, 2026-11-30T00:00:00Z",
    "WEEK, 2026-11-29T22:03:00Z, 2026-11-23T00:00:00Z, 2026-11-30T00:00:00Z",
    "WEEK, 2026-11-23T00:00:00Z, 2026-11-23T00:00:00Z, 2026-11-30T00:00:00Z",
    "WEEK, 2027-01-01T12:00:00Z, 2026-12-28T00:00:00Z, 2027-01-04T00:00:00Z"
  })
  void stepsAreThoseOfUtc(Step step, Instant moment, Instant begin, Instant next) {
    assertThat(step.begin(moment)).isEqualTo(begin);
    assertThat(step.next(begin)).isEqualTo(next);
  }

  /** In whatever order and however often they are told: each step once, and nothing lost. */
  @Test
  void eachStepIsThereOnceAndTheTotalIsThatOfTheCells() {
    Random random = new Random(14);
    for (int round = 0; round < 200; round++) {
      Step step = Step.values()[random.nextInt(3)];
      Instant from = NOW.minus(random.nextInt(9_000), ChronoUnit.MINUTES);
      Period period = new Period(from, from.plus(1 + random.nextInt(90_000), ChronoUnit.MINUTES));
      List<RunCell> cells = new ArrayList<>();
      RunSum all = RunSum.NONE;
      for (int i = random.nextInt(40); i > 0; i--) {
        long seconds = ChronoUnit.SECONDS.between(period.from(), period.to());
        Instant at = from.plusSeconds((long) (random.nextDouble() * seconds));
        RunSum sum = sum(random.nextInt(9), random.nextInt(3));
        cells.add(new RunCell(at, Arrays.asList(random.nextBoolean() ? "fares" : null), sum));
        all = all.plus(sum);
      }
      Trend trend = Trend.of(period, step, cells);
      Collections.shuffle(cells, random);
      assertThat(Trend.of(period, step, cells)).isEqualTo(trend);
      RunSum total = RunSum.NONE;
      for (Trend.Series series : trend.series()) {
        total = total.plus(series.total());
        Instant at = step.begin(from);
        for (Trend.Point point : series.points()) {
          assertThat(point.at()).isEqualTo(at);
          at = step.next(at);
        }
        assertThat(at).isAfterOrEqualTo(period.to());
        assertThat(step.begin(period.to().minusNanos(1)))
            .isEqualTo(series.points().get(series.points().size() - 1).at());
      }
      assertThat(total).isEqualTo(all);
    }
  }

  @Test
  void smallSeriesAreTakenTogetherAndNotLeftOut() {
    Period period = Period.ofDays(3, NOW);
    List<RunCell> cells = new ArrayList<>();
    for (int i = 1; i <= 9; i++) {
      cells.add(cell("s" + i, sum(i, 1)));
    }
    Trend trend = Trend.of(period, Step.DAY, cells, 2);
    assertThat(trend.series().stream().map(Trend.Series::by).toList())
        .containsExactly(List.of("s9"), List.of("s8"), List.of());
    assertThat(trend.series().stream().mapToLong(series -> series.total().tests()).sum())
        .isEqualTo(45 + 9);
    assertThat(Trend.of(period, Step.DAY, cells, 9)).isEqualTo(Trend.of(period, Step.DAY, cells));
  }

  /** A label with as many values as there are runs, over as many days as can be asked for. */
  @Test
  void thousandsOfSeriesTakeNoRoomForPoints() {
    Period period = Period.ofDays(Trend.MOST_POINTS - 1, NOW);
    List<RunCell> cells = new ArrayList<>();
    for (int i = 0; i < BoardFacts.MOST_CELLS; i++) {
      Instant at = period.from().plus(i % (Trend.MOST_POINTS - 1), ChronoUnit.DAYS);
      cells.add(new RunCell(at, List.of("agent-" + i), sum(i % 7, 1)));
    }
    Trend trend = Trend.of(period, Step.DAY, cells, 12);
    assertThat(trend.series()).hasSize(13);
    assertThat(trend.series().stream().mapToLong(one -> one.total().runs()).sum())
        .isEqualTo(BoardFacts.MOST_CELLS);
  }

  @Test
  void aStepWithoutARunIsAGapAndNotNothing() {
    Period period = Period.between(LocalDate.of(2026, 11, 1), LocalDate.of(2026, 11, 3));
    RunCell first = new RunCell(period.from(), List.of(), sum(0, 0));
    List<Trend.Point> points = Trend.of(period, Step.DAY, List.of(first)).series().get(0).points();
    assertThat(points.get(0).sum()).isEqualTo(sum(0, 0));
    assertThat(points.get(1).sum()).isNull();
    assertThat(points).hasSize(3);
  }

  @Test
  void tooManyPointsAreRefusedBeforeTheyAreCounted() {
    Period period = Period.ofDays(7_300, NOW);
    assertThatThrownBy(() -> Trend.checked(period, Step.HOUR))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("take longer steps");
    Trend.checked(period, Step.WEEK);
    assertThatThrownBy(() -> Period.ofDays(0, NOW)).isInstanceOf(CellarException.class);
    assertThatThrownBy(() -> new Period(NOW, NOW)).isInstanceOf(CellarException.class);
    assertThatThrownBy(() -> Dimension.of("label.")).isInstanceOf(CellarException.class);
    assertThat(Dimension.of("label.os.name").word()).isEqualTo("label.os.name");
  }

  @Test
  void theWorstComesFirstAndWhatIsNotKnownIsNotFine() {
    List<RunCell> now =
        List.of(cell("good", sum(99, 1)), cell("bad", sum(8, 2)), cell("idle", sum(0, 0)));
    List<RunCell> before = List.of(cell("good", sum(98, 2)), cell("gone", sum(5, 0)));
    List<Breakdown.Part> parts = Breakdown.of(now, before, 0.98).parts();
    assertThat(parts.stream().map(part -> part.by().get(0)).toList())
        .containsExactly("gone", "idle", "bad", "good");
    assertThat(parts.stream().map(Breakdown.Part::standing).toList())
        .containsExactly(
            Breakdown.Standing.UNKNOWN,
            Breakdown.Standing.UNKNOWN,
            Breakdown.Standing.MISSES,
            Breakdown.Standing.HOLDS);
    assertThat(parts.get(2).change()).isNull();
    assertThat(Objects.requireNonNull(parts.get(3).change())).isCloseTo(0.01, within(1e-9));
  }

  private static RunCell cell(@Nullable String value, RunSum sum) {
    return new RunCell(NOW, Arrays.asList(value), sum);
  }
}
