package org.vinecellar.core.boards;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.DoubleUnaryOperator;
import org.vinecellar.core.statistics.ChangePoints;

/**
 * Where the lines of a sheet changed for good: not for a day, and by more than they move otherwise.
 * Of numbers without a change fewer than one row of thirty in twenty is told to have one, also when
 * they are skewed, have a weekly rhythm, or an outage of up to four steps.
 */
final class Shifts {
  /** Steps on each side at least. */
  private static final int LEAST = 5;

  private static final double NOISE = 2.2;
  private static final double EXPLAINED = 0.3;

  /** Of a rate, a smaller one is none that anybody asks about. */
  private static final ChangePoints OF_SHARES = new ChangePoints(LEAST, 0.01, NOISE, EXPLAINED);

  /** Of lengths of time, compared as logarithms. */
  private static final ChangePoints OF_SECONDS =
      new ChangePoints(LEAST, Math.log(1.25), NOISE, EXPLAINED);

  /** Seconds that are added: below that, clocks tell nothing. */
  private static final double FLOOR = 0.05;

  /** What is new in a long period is little of it: the latest steps are looked at by themselves. */
  private static final int LATEST = 30;

  /** Of the numbers of a stretch so many are nearer to its middle than to that beside it. */
  private static final double MOST = 0.75;

  private Shifts() {}

  /** The same with where its lines changed; of several columns that tell of all runs the first. */
  static Sheet marked(Sheet sheet) {
    List<Sheet.Shift> shifts = new ArrayList<>();
    boolean told = false;
    for (int column = 1; column < sheet.columns().size(); column++) {
      Sheet.Column head = sheet.columns().get(column);
      boolean whole = head.values().isEmpty();
      if (!(whole && told)) {
        switch (head.unit()) {
          case SHARE -> add(sheet, column, OF_SHARES, x -> x, shifts);
          case SECONDS -> add(sheet, column, OF_SECONDS, x -> Math.log(x + FLOOR), shifts);
          default -> {}
        }
      }
      told |= whole;
    }
    return new Sheet(sheet.columns(), sheet.rows(), sheet.left(), shifts);
  }

  private static void add(
      Sheet sheet,
      int column,
      ChangePoints points,
      DoubleUnaryOperator scale,
      List<Sheet.Shift> shifts) {
    List<Integer> rows = new ArrayList<>();
    List<Double> numbers = new ArrayList<>();
    for (int row = 0; row < sheet.rows().size(); row++) {
      Double number = sheet.rows().get(row).cells().get(column).number();
      if (number != null) {
        rows.add(row);
        numbers.add(number);
      }
    }
    double[] all = numbers.stream().mapToDouble(one -> one).toArray();
    List<Integer> cuts = cuts(points, Arrays.stream(all).map(scale).toArray());
    int from = 0;
    for (int i = 0; i < cuts.size(); i++) {
      int cut = cuts.get(i);
      int to = i + 1 < cuts.size() ? cuts.get(i + 1) : all.length;
      int row = rows.get(cut);
      shifts.add(
          new Sheet.Shift(
              column,
              row,
              ChangePoints.median(all, from, cut),
              ChangePoints.median(all, cut, to),
              sheet.rows().get(row).cells().get(column).link()));
      from = cut;
    }
  }

  private static List<Integer> cuts(ChangePoints points, double[] all) {
    List<Integer> cuts = new ArrayList<>(points.in(all));
    int from = Math.max(cuts.isEmpty() ? 0 : cuts.get(cuts.size() - 1), all.length - LATEST);
    if (from > 0) {
      points.in(Arrays.copyOfRange(all, from, all.length)).forEach(cut -> cuts.add(from + cut));
    }
    return kept(cuts, all);
  }

  /**
   * Without those that an outage of a few steps makes: what is said of a stretch has to hold for
   * most of its numbers, and for the first of them.
   */
  private static List<Integer> kept(List<Integer> cuts, double[] all) {
    List<Integer> kept = new ArrayList<>();
    int from = 0;
    for (int i = 0; i < cuts.size(); i++) {
      int cut = cuts.get(i);
      int to = i + 1 < cuts.size() ? cuts.get(i + 1) : all.length;
      double before = ChangePoints.median(all, from, cut);
      double after = ChangePoints.median(all, cut, to);
      if (share(all, cut, cut + 1, after, before) > 0
          && share(all, cut, to, after, before) >= MOST
          && share(all, from, cut, before, after) >= MOST) {
        kept.add(cut);
        from = cut;
      }
    }
    return kept;
  }

  /** How many of some numbers are nearer to one than to another. */
  private static double share(double[] all, int from, int to, double one, double other) {
    return (double)
            Arrays.stream(all, from, to)
                .filter(number -> Math.abs(number - one) < Math.abs(number - other))
                .count()
        / (to - from);
  }
}
