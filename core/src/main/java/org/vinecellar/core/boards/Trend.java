package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What runs came to over a period, step by step. A step in which no run began is a gap: it has no
 * sum, which is something else than a sum of nothing.
 *
 * @param series one for each combination of values there is; the largest first
 */
public record Trend(Period period, Step step, List<Series> series) {
  /** More points than these nobody can tell apart. */
  public static final int MOST_POINTS = 1_500;

  /** Copies the series. */
  public Trend {
    series = List.copyOf(series);
  }

  /**
   * The runs with the same values.
   *
   * @param points one for each step of the period
   * @param total of them all
   */
  public record Series(List<@Nullable String> by, List<Point> points, RunSum total) {}

  /**
   * @param sum null when no run began in it
   */
  public record Point(Instant at, @Nullable RunSum sum) {}

  /** Puts cells in order, and gaps between them; every combination of values is a series. */
  public static Trend of(Period period, Step step, List<RunCell> cells) {
    return of(period, step, cells, Integer.MAX_VALUE);
  }

  /**
   * Puts cells in order, and gaps between them. The largest series stand for themselves, all others
   * as one, which has no values: nothing is left out. Points are only made for what stands for
   * itself, since a label may have as many values as there are runs.
   *
   * @param cells of that period and those steps, in any order; several of a step with the same
   *     values are taken together
   * @param most how many series there may be besides that of all others
   * @throws CellarException when the period has too many of these steps
   */
  public static Trend of(Period period, Step step, List<RunCell> cells, int most) {
    checked(period, step);
    Map<List<@Nullable String>, Map<Instant, RunSum>> sums = new HashMap<>();
    Map<List<@Nullable String>, Long> sizes = new HashMap<>();
    for (RunCell cell : cells) {
      sums.computeIfAbsent(cell.by(), by -> new HashMap<>())
          .merge(step.begin(cell.at()), cell.sum(), RunSum::plus);
      sizes.merge(cell.by(), cell.sum().tests(), Long::sum);
    }
    List<List<@Nullable String>> order = new ArrayList<>(sums.keySet());
    order.sort(
        (one, other) -> {
          int larger = Long.compare(sizes.getOrDefault(other, 0L), sizes.getOrDefault(one, 0L));
          return larger != 0 ? larger : compare(one, other);
        });
    List<Series> series = new ArrayList<>();
    Map<Instant, RunSum> others = new HashMap<>();
    for (List<@Nullable String> by : order) {
      Map<Instant, RunSum> its = Objects.requireNonNull(sums.get(by));
      if (series.size() < most) {
        series.add(series(period, step, by, its));
      } else {
        its.forEach((at, sum) -> others.merge(at, sum, RunSum::plus));
      }
    }
    if (!others.isEmpty()) {
      series.add(series(period, step, List.of(), others));
    }
    return new Trend(period, step, series);
  }

  /**
   * Whether it can be told, before anybody counts.
   *
   * @throws CellarException when the period has too many of these steps
   */
  public static void checked(Period period, Step step) {
    long points = step.between(period.from(), period.to());
    if (points > MOST_POINTS) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "from "
              + period.from()
              + " to "
              + period.to()
              + " are "
              + points
              + " points by "
              + step.word()
              + "; there can be "
              + MOST_POINTS
              + ": take longer steps, or a shorter period");
    }
  }

  private static Series series(
      Period period, Step step, List<@Nullable String> by, Map<Instant, RunSum> sums) {
    List<Point> points = new ArrayList<>();
    RunSum total = RunSum.NONE;
    for (Instant at = step.begin(period.from()); at.isBefore(period.to()); at = step.next(at)) {
      RunSum sum = sums.get(at);
      points.add(new Point(at, sum));
      total = sum == null ? total : total.plus(sum);
    }
    return new Series(by, points, total);
  }

  /** Value by value; none comes last. */
  static int compare(List<@Nullable String> one, List<@Nullable String> other) {
    for (int i = 0; i < one.size(); i++) {
      String a = one.get(i);
      String b = other.get(i);
      if (!Objects.equals(a, b)) {
        return a == null ? 1 : b == null ? -1 : a.compareTo(b);
      }
    }
    return 0;
  }
}
