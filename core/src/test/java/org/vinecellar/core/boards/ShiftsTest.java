package org.vinecellar.core.boards;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.filters.Thing;

class ShiftsTest {
  private static final Instant BEGIN = Instant.parse("2026-09-01T00:00:00Z");
  private static final Sheet.Link RUNS = new Sheet.Link(Thing.RUN, "stream eq \"a\"");

  /** A line; what is no number is a gap. */
  private static Sheet sheet(Sheet.Unit unit, int steps, IntToDoubleFunction number) {
    List<Sheet.Row> rows = new ArrayList<>();
    for (int row = 0; row < steps; row++) {
      double one = number.applyAsDouble(row);
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(BEGIN.plus(Duration.ofDays(row)).toString()),
                  Double.isNaN(one) ? Sheet.Cell.EMPTY : Sheet.Cell.of(one, RUNS))));
    }
    return new Sheet(
        List.of(Sheet.Column.of("at", Sheet.Unit.TIME), Sheet.Column.of("rate", unit)), rows);
  }

  private static List<Sheet.Shift> shifts(Sheet.Unit unit, int steps, IntToDoubleFunction number) {
    return Shifts.marked(sheet(unit, steps, number)).shifts();
  }

  private static List<Integer> rows(List<Sheet.Shift> shifts) {
    return shifts.stream().map(Sheet.Shift::row).toList();
  }

  @Test
  void whatFellForGoodIsTold() {
    List<Sheet.Shift> shifts =
        shifts(Sheet.Unit.SHARE, 30, row -> (row < 20 ? 0.99 : 0.93) + 0.002 * (row % 3));
    assertThat(shifts).singleElement().isEqualTo(new Sheet.Shift(1, 20, 0.992, 0.932, RUNS));
  }

  @Test
  void whatHadNoRunIsNoChangeAndHidesNone() {
    IntToDoubleFunction weekdays =
        row -> row % 7 > 4 ? Double.NaN : row < 21 ? 30 + row % 2 : 50 + row % 2;
    assertThat(rows(shifts(Sheet.Unit.SECONDS, 42, weekdays))).containsExactly(21);
    assertThat(shifts(Sheet.Unit.SHARE, 0, row -> 1)).isEmpty();
    assertThat(shifts(Sheet.Unit.SHARE, 30, row -> Double.NaN)).isEmpty();
    assertThat(shifts(Sheet.Unit.SHARE, 30, row -> row == 7 ? 0.2 : Double.NaN)).isEmpty();
  }

  @Test
  void whatIsNewInALongTimeIsFoundToo() {
    assertThat(
            rows(shifts(Sheet.Unit.SHARE, 365, row -> (row < 358 ? 1 : 0.9) - 0.004 * (row % 2))))
        .containsExactly(358);
  }

  @Test
  void whatMovesByLessThanAnybodyAsksAboutIsNone() {
    assertThat(shifts(Sheet.Unit.SHARE, 30, row -> row < 15 ? 0.999 : 0.992)).isEmpty();
    assertThat(shifts(Sheet.Unit.SECONDS, 30, row -> row < 15 ? 100 : 120)).isEmpty();
    assertThat(shifts(Sheet.Unit.COUNT, 30, row -> row < 15 ? 1 : 100)).isEmpty();
  }

  /** Chance, in many forms, is hardly ever told as a change. */
  @ParameterizedTest
  @CsvSource({"even,30", "even,90", "skewed,30", "skewed,90", "rare,30", "outage,30", "week,60"})
  void chanceIsNoChange(String kind, int steps) {
    Random random = new Random(steps + kind.hashCode());
    int told = 0;
    for (int round = 0; round < 400; round++) {
      int outage = random.nextInt(steps);
      told += shifts(Sheet.Unit.SHARE, steps, row -> chance(kind, row, outage, random)).size();
    }
    assertThat(told).isLessThanOrEqualTo(16);
  }

  private static double chance(String kind, int row, int outage, Random random) {
    double noise =
        switch (kind) {
          case "even" -> 0.02 * random.nextGaussian();
          case "skewed" -> 0.03 * Math.log(1 - random.nextDouble());
          case "rare" -> random.nextInt(5) > 0 ? 0 : 0.1 * Math.log(1 - random.nextDouble());
          case "outage" -> row >= outage && row < outage + 3 ? -0.6 : 0.01 * random.nextGaussian();
          default -> 0.01 * random.nextGaussian() - (row % 7 > 4 ? 0.03 : 0);
        };
    return Math.max(0, Math.min(1, 0.9 + noise));
  }

  /** What is three times as high as what moves by itself is found, where it is. */
  @ParameterizedTest
  @CsvSource({"30,15", "30,8", "60,40"})
  void whatIsHighIsFound(int steps, int at) {
    Random random = new Random(at);
    int found = 0;
    for (int round = 0; round < 200; round++) {
      List<Integer> rows =
          rows(
              shifts(
                  Sheet.Unit.SHARE,
                  steps,
                  row -> (row < at ? 0.97 : 0.89) + 0.02 * random.nextGaussian()));
      found += rows.stream().anyMatch(row -> Math.abs(row - at) <= 1) ? 1 : 0;
    }
    assertThat(found).isGreaterThan(180);
  }

  @Test
  void whoMaySeeNumbersAloneIsLedNowhere() {
    Sheet alone = Shifts.marked(sheet(Sheet.Unit.SHARE, 30, row -> row < 15 ? 1 : 0.8)).alone();
    assertThat(alone.shifts()).hasSize(1).allMatch(shift -> shift.link() == null);
  }
}
