package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
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

  /**
   * The largest series, and all others as one, which has no values: nothing is left out.
   *
   * @param most how many there may be besides that one
   */
  public Trend largest(int most) {
    if (series.size() <= most) {
      return this;
    }
    List<RunCell> others = new ArrayList<>();
    for (Series one : series.subList(most, series.size())) {
      for (Point point : one.points()) {
        if (point.sum() != null) {
          others.add(new RunCell(point.at(), List.of(), point.sum()));
        }
      }
    }
    List<Series> all = new ArrayList<>(series.subList(0, most));
    all.addAll(of(period, step, others).series());
    return new Trend(period, step, all);
  }

  /**
   * Puts cells in order, and gaps between them.
   *
   * @param cells of that period and those steps, in any order; several of a step with the same
   *     values are taken together
   * @throws CellarException when the period has too many of these steps
   */
  public static Trend of(Period period, Step step, List<RunCell> cells) {
    checked(period, step);
    Map<List<@Nullable String>, Map<Instant, RunSum>> sums = new LinkedHashMap<>();
    for (RunCell cell : cells) {
      sums.computeIfAbsent(cell.by(), by -> new HashMap<>())
          .merge(step.begin(cell.at()), cell.sum(), RunSum::plus);
    }
    List<Series> series = new ArrayList<>();
    sums.forEach((by, at) -> series.add(series(period, step, by, at)));
    series.sort(
        (one, other) -> {
          int larger = Long.compare(other.total().tests(), one.total().tests());
          return larger != 0 ? larger : compare(one.by(), other.by());
        });
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
