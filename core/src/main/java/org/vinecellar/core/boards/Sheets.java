package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.JsonText;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.statistics.Share;

/** Sheets of panels, each number with the list of what it counts. */
public final class Sheets {
  private static final double MICROS = 1e6;
  private static final int MOST_ACROSS = 24;
  private static final int MOST_DOWN = 200;

  private Sheets() {}

  /**
   * What was asked for, in a trend or a breakdown.
   *
   * @param filter of runs; null or blank for all
   */
  public record Asked(@Nullable String filter, Period period, List<Dimension> by) {
    /** Copies the list. */
    public Asked {
      by = List.copyOf(by);
    }

    /** Of the runs with these values. */
    public RunLinks links(Period period, List<@Nullable String> values) {
      return new RunLinks(RunPick.of(filter, period, by, values));
    }
  }

  /** Results by outcome; a trend whose runs are not told apart. */
  public static Sheet outcomes(Trend trend, Asked asked) {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("at", Sheet.Unit.TIME));
    columns.addAll(outcomeColumns());
    columns.add(Sheet.Column.of("runs", Sheet.Unit.COUNT));
    return steps(
        trend,
        columns,
        (sum, at) -> {
          RunLinks links = asked.links(at, List.of());
          List<Sheet.Cell> cells = outcomeCells(sum, links);
          cells.add(Sheet.Cell.of(sum.runs(), links.runs()));
          return cells;
        });
  }

  /**
   * A run by outcome.
   *
   * @param run null when there is none; then the sheet has no row
   */
  public static Sheet latest(@Nullable RunSummary run) {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("at", Sheet.Unit.TIME));
    columns.add(Sheet.Column.of("run", Sheet.Unit.TEXT));
    columns.addAll(outcomeColumns());
    columns.add(Sheet.Column.of(Change.NEW_FAILING.word(), Sheet.Unit.COUNT));
    columns.add(Sheet.Column.of(Change.FIXED.word(), Sheet.Unit.COUNT));
    if (run == null) {
      return new Sheet(columns, List.of());
    }
    RunLinks links = RunLinks.of(run);
    List<Sheet.Cell> cells = new ArrayList<>();
    cells.add(Sheet.Cell.of(run.times().started().toString()));
    cells.add(new Sheet.Cell(run.stream() + "#" + run.number(), null, null, null, links.runs()));
    Counts counts = run.counts();
    for (Outcome outcome : Outcome.values()) {
      cells.add(Sheet.Cell.of(counts.of(outcome), links.outcome(outcome)));
    }
    cells.add(change(run.changes().newFailing(), Change.NEW_FAILING, links));
    cells.add(change(run.changes().fixed(), Change.FIXED, links));
    return new Sheet(columns, List.of(new Sheet.Row(cells)));
  }

  private static Sheet.Cell change(long number, Change change, RunLinks links) {
    return Sheet.Cell.of(number, links.changed(change));
  }

  private static List<Sheet.Column> outcomeColumns() {
    return Arrays.stream(Outcome.values())
        .map(outcome -> Sheet.Column.of(outcome.word(), Sheet.Unit.COUNT))
        .toList();
  }

  private static List<Sheet.Cell> outcomeCells(RunSum sum, RunLinks links) {
    List<Sheet.Cell> cells = new ArrayList<>();
    for (Outcome outcome : Outcome.values()) {
      cells.add(Sheet.Cell.of(sum.of(outcome), links.outcome(outcome)));
    }
    return cells;
  }

  /**
   * How many tests came, went, got another name, failed anew and were fixed; runs are not told
   * apart.
   *
   * @param gone by when a step begins
   */
  public static Sheet growth(Trend trend, Map<Instant, Long> gone, Asked asked) {
    return steps(
        trend,
        List.of(
            Sheet.Column.of("at", Sheet.Unit.TIME),
            Sheet.Column.of("added", Sheet.Unit.COUNT),
            Sheet.Column.of("gone", Sheet.Unit.COUNT),
            Sheet.Column.of(Change.RENAMED.word(), Sheet.Unit.COUNT),
            Sheet.Column.of(Change.NEW_FAILING.word(), Sheet.Unit.COUNT),
            Sheet.Column.of(Change.FIXED.word(), Sheet.Unit.COUNT)),
        (sum, at) -> {
          RunLinks links = asked.links(at, List.of());
          return List.of(
              change(sum.added(), Change.ADDED, links),
              Sheet.Cell.of(gone.getOrDefault(trend.step().begin(at.from()), 0L), links.gone()),
              change(sum.renamed(), Change.RENAMED, links),
              change(sum.newFailing(), Change.NEW_FAILING, links),
              change(sum.fixed(), Change.FIXED, links));
        });
  }

  /** Runs one by one, the latest last. */
  public static Sheet runs(List<RunSummary> latestFirst) {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("at", Sheet.Unit.TIME));
    columns.addAll(outcomeColumns());
    columns.add(Sheet.Column.of("run", Sheet.Unit.TEXT));
    columns.add(Sheet.Column.of("rate", Sheet.Unit.SHARE));
    columns.add(Sheet.Column.of("time", Sheet.Unit.SECONDS));
    columns.add(Sheet.Column.of(Change.NEW_FAILING.word(), Sheet.Unit.COUNT));
    List<Sheet.Row> rows = new ArrayList<>();
    for (int i = latestFirst.size() - 1; i >= 0; i--) {
      RunSummary run = latestFirst.get(i);
      RunLinks links = RunLinks.of(run);
      List<Sheet.Cell> cells = new ArrayList<>();
      cells.add(Sheet.Cell.of(run.times().started().toString()));
      Counts counts = run.counts();
      for (Outcome outcome : Outcome.values()) {
        cells.add(Sheet.Cell.of(counts.of(outcome), links.outcome(outcome)));
      }
      cells.add(new Sheet.Cell(run.stream() + "#" + run.number(), null, null, null, links.runs()));
      int ended = counts.passed() + counts.failing();
      cells.add(
          ended == 0
              ? Sheet.Cell.EMPTY
              : Sheet.Cell.of((double) counts.passed() / ended, links.runs()));
      cells.add(Sheet.Cell.of(run.durationMicros() / MICROS, links.runs()));
      cells.add(change(run.changes().newFailing(), Change.NEW_FAILING, links));
      rows.add(new Sheet.Row(cells));
    }
    return new Sheet(columns, rows);
  }

  /**
   * Pass rates by two things: the values of one are rows, those of the other columns.
   *
   * @param cells of the whole period
   */
  public static Sheet matrix(List<RunCell> cells, Asked asked) {
    Map<List<@Nullable String>, RunSum> by = new HashMap<>();
    Map<Optional<String>, Long> rows = new HashMap<>();
    Map<Optional<String>, Long> across = new HashMap<>();
    for (RunCell cell : cells) {
      by.merge(cell.by(), cell.sum(), RunSum::plus);
      rows.merge(Optional.ofNullable(cell.by().get(0)), cell.sum().tests(), Long::sum);
      across.merge(Optional.ofNullable(cell.by().get(1)), cell.sum().tests(), Long::sum);
    }
    if (across.size() > MOST_ACROSS) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          asked.by().get(1).word()
              + " has "
              + across.size()
              + " values, and a matrix at most "
              + MOST_ACROSS
              + " columns; put it first, or let the filter pick fewer runs");
    }
    List<Optional<String>> columns = largest(across, MOST_ACROSS);
    List<Sheet.Column> heads = new ArrayList<>();
    heads.add(Sheet.Column.of(asked.by().get(0).word(), Sheet.Unit.TEXT));
    for (Optional<String> value : columns) {
      List<@Nullable String> values = new ArrayList<>();
      values.add(value.orElse(null));
      heads.add(new Sheet.Column("rate", Sheet.Unit.SHARE, values));
    }
    List<Sheet.Row> told = new ArrayList<>();
    for (Optional<String> row : largest(rows, MOST_DOWN)) {
      List<Sheet.Cell> one = new ArrayList<>();
      one.add(Sheet.Cell.of(row.orElse(null)));
      for (Optional<String> column : columns) {
        List<@Nullable String> values = new ArrayList<>();
        values.add(row.orElse(null));
        values.add(column.orElse(null));
        RunSum sum = by.get(values);
        one.add(
            sum == null ? Sheet.Cell.EMPTY : rateCell(sum, asked.links(asked.period(), values)));
      }
      told.add(new Sheet.Row(one));
    }
    return new Sheet(heads, told, Math.max(0, rows.size() - MOST_DOWN));
  }

  /** The values with most results, then by name. */
  private static List<Optional<String>> largest(Map<Optional<String>, Long> values, int most) {
    return values.entrySet().stream()
        .sorted(
            Map.Entry.<Optional<String>, Long>comparingByValue()
                .reversed()
                .thenComparing(one -> one.getKey().orElse("")))
        .limit(most)
        .map(Map.Entry::getKey)
        .toList();
  }

  /** What is told of one step that had a run. */
  private interface Cells {
    List<Sheet.Cell> of(RunSum sum, Period at);
  }

  /** A row for each step; what no run began in has no numbers. */
  private static Sheet steps(Trend trend, List<Sheet.Column> columns, Cells cells) {
    List<Sheet.Row> rows = new ArrayList<>();
    List<Trend.Point> points =
        trend.series().isEmpty() ? List.of() : trend.series().get(0).points();
    for (Trend.Point point : points) {
      List<Sheet.Cell> row = new ArrayList<>();
      row.add(Sheet.Cell.of(point.at().toString()));
      RunSum sum = point.sum();
      if (sum == null) {
        columns.subList(1, columns.size()).forEach(column -> row.add(Sheet.Cell.EMPTY));
      } else {
        row.addAll(cells.of(sum, trend.step().within(point.at(), trend.period())));
      }
      rows.add(new Sheet.Row(row));
    }
    return new Sheet(columns, rows);
  }

  /** The pass rate, a column for each series. */
  public static Sheet rate(Trend trend, Asked asked) {
    return lines(trend, asked, "rate", Sheet.Unit.SHARE, Sheets::rateCell);
  }

  /**
   * How long the tests of a run took, in the mean of the runs of a step; a column for each series.
   */
  public static Sheet time(Trend trend, Asked asked) {
    return lines(
        trend,
        asked,
        "time",
        Sheet.Unit.SECONDS,
        (sum, links) ->
            Sheet.Cell.of(
                sum.testTimeUs() / MICROS / sum.runs(), links == null ? null : links.runs()));
  }

  /**
   * How long runs took: half of those of a step, nine of ten and nineteen of twenty took no longer.
   */
  static Sheet lengths(List<LengthCell> cells, Step step, Asked asked) {
    Map<Instant, Lengths> by = new HashMap<>();
    cells.forEach(cell -> by.put(cell.at(), cell.run()));
    List<Sheet.Row> rows = new ArrayList<>();
    Period period = asked.period();
    for (Instant at = step.begin(period.from()); at.isBefore(period.to()); at = step.next(at)) {
      Lengths run = by.get(at);
      Sheet.Link runs = asked.links(step.within(at, period), List.of()).runs();
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(at.toString()),
                  run == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(run.median() / MICROS, runs),
                  run == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(run.p90() / MICROS, runs),
                  run == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(run.p95() / MICROS, runs))));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("at", Sheet.Unit.TIME),
            Sheet.Column.of("median", Sheet.Unit.SECONDS),
            Sheet.Column.of("p90", Sheet.Unit.SECONDS),
            Sheet.Column.of("p95", Sheet.Unit.SECONDS)),
        rows);
  }

  /** How long was spent on what failed and on tries that were not the last. */
  static Sheet lost(Trend trend, Asked asked) {
    return steps(
        trend,
        List.of(
            Sheet.Column.of("at", Sheet.Unit.TIME),
            Sheet.Column.of("spent failing", Sheet.Unit.SECONDS),
            Sheet.Column.of("spent again", Sheet.Unit.SECONDS)),
        (sum, at) -> lost(sum, asked.links(at, List.of())));
  }

  /** What was spent on failing, and on trying again. */
  public static List<Sheet.Cell> lost(RunSum sum, RunLinks links) {
    return List.of(
        Sheet.Cell.of(
            sum.failingUs() / MICROS,
            sum.failed() + sum.errored() == 0 ? null : links.failing("setUp eq false")),
        Sheet.Cell.of(
            sum.againUs() / MICROS,
            sum.retried() == 0 ? null : links.results("setUp eq false and attempts gt 1")));
  }

  /** One number of a sum. */
  private interface OfSum {
    Sheet.Cell of(RunSum sum, @Nullable RunLinks links);
  }

  /** The pass rate with its interval; without a number when nothing came to an end. */
  public static Sheet.Cell rateCell(RunSum sum, @Nullable RunLinks links) {
    Share share = sum.passRate();
    Sheet.Link link = links == null ? null : links.runs();
    return share.all() == 0
        ? new Sheet.Cell(null, null, null, null, link)
        : new Sheet.Cell(
            null, (double) share.some() / share.all(), share.low(), share.high(), link);
  }

  private static Sheet lines(Trend trend, Asked asked, String key, Sheet.Unit unit, OfSum what) {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("at", Sheet.Unit.TIME));
    trend.series().forEach(one -> columns.add(new Sheet.Column(key, unit, one.by())));
    List<Sheet.Row> rows = new ArrayList<>();
    int steps = trend.series().isEmpty() ? 0 : trend.series().get(0).points().size();
    for (int step = 0; step < steps; step++) {
      List<Sheet.Cell> row = new ArrayList<>();
      row.add(Sheet.Cell.of(trend.series().get(0).points().get(step).at().toString()));
      for (Trend.Series one : trend.series()) {
        Trend.Point point = one.points().get(step);
        RunSum sum = point.sum();
        // Those that were taken together have no values, and so no filter.
        boolean told = one.by().size() == asked.by().size();
        Period at = trend.step().within(point.at(), trend.period());
        row.add(
            sum == null ? Sheet.Cell.EMPTY : what.of(sum, told ? asked.links(at, one.by()) : null));
      }
      rows.add(new Sheet.Row(row));
    }
    return new Sheet(columns, rows);
  }

  /** Runs by what they are told apart by, against the period before. */
  public static Sheet breakdown(Breakdown breakdown, Asked asked) {
    List<Sheet.Column> columns = new ArrayList<>();
    asked.by().forEach(one -> columns.add(Sheet.Column.of(one.word(), Sheet.Unit.TEXT)));
    columns.add(Sheet.Column.of("rate", Sheet.Unit.SHARE));
    columns.add(Sheet.Column.of("change", Sheet.Unit.SHARE));
    columns.add(Sheet.Column.of("standing", Sheet.Unit.TEXT));
    columns.add(Sheet.Column.of("failed", Sheet.Unit.COUNT));
    columns.add(Sheet.Column.of("errored", Sheet.Unit.COUNT));
    columns.add(Sheet.Column.of("tests", Sheet.Unit.COUNT));
    columns.add(Sheet.Column.of("red", Sheet.Unit.COUNT));
    columns.add(Sheet.Column.of("runs", Sheet.Unit.COUNT));
    List<Breakdown.Part> worst = breakdown.worst();
    return new Sheet(
        columns,
        worst.stream().map(part -> part(part, asked)).toList(),
        breakdown.parts().size() - worst.size());
  }

  private static Sheet.Row part(Breakdown.Part part, Asked asked) {
    List<Sheet.Cell> cells = new ArrayList<>();
    part.by().forEach(value -> cells.add(Sheet.Cell.of(value)));
    RunLinks links = asked.links(asked.period(), part.by());
    RunSum now = part.now();
    Double change = part.change();
    cells.add(now == null ? Sheet.Cell.EMPTY : rateCell(now, links));
    cells.add(change == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(change, null));
    cells.add(Sheet.Cell.of(part.standing().word()));
    if (now == null) {
      for (int i = 0; i < 5; i++) {
        cells.add(Sheet.Cell.EMPTY);
      }
    } else {
      cells.add(Sheet.Cell.of(now.failed(), links.outcome(Outcome.FAILED)));
      cells.add(Sheet.Cell.of(now.errored(), links.outcome(Outcome.ERRORED)));
      cells.add(Sheet.Cell.of(now.tests(), links.tests()));
      cells.add(Sheet.Cell.of(now.red(), links.red()));
      cells.add(Sheet.Cell.of(now.runs(), links.runs()));
    }
    return new Sheet.Row(cells);
  }

  /** Failing results by category, a column for each; those that nobody explained come first. */
  public static Sheet causes(List<CauseCell> cells, Step step, Asked asked) {
    Map<String, Map<Instant, Long>> by = new TreeMap<>();
    Map<Instant, Long> unsorted = new HashMap<>();
    for (CauseCell cell : cells) {
      (cell.category() == null
              ? unsorted
              : by.computeIfAbsent(cell.category(), c -> new HashMap<>()))
          .merge(cell.at(), cell.results(), Long::sum);
    }
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("at", Sheet.Unit.TIME));
    columns.add(Sheet.Column.of("unsorted", Sheet.Unit.COUNT));
    by.keySet()
        .forEach(
            name -> columns.add(new Sheet.Column("category", Sheet.Unit.COUNT, List.of(name))));
    List<Sheet.Row> rows = new ArrayList<>();
    Period period = asked.period();
    for (Instant at = step.begin(period.from()); at.isBefore(period.to()); at = step.next(at)) {
      RunLinks links = asked.links(step.within(at, period), List.of());
      List<Sheet.Cell> row = new ArrayList<>();
      row.add(Sheet.Cell.of(at.toString()));
      row.add(Sheet.Cell.of(unsorted.getOrDefault(at, 0L), links.failing("not (category pr)")));
      for (Map.Entry<String, Map<Instant, Long>> one : by.entrySet()) {
        row.add(
            Sheet.Cell.of(
                one.getValue().getOrDefault(at, 0L),
                links.failing("category eq " + JsonText.quoted(one.getKey()))));
      }
      rows.add(new Sheet.Row(row));
    }
    return new Sheet(columns, rows);
  }
}
