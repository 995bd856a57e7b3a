package org.vinecellar.core.reports;

import static org.vinecellar.core.boards.Sheet.Unit.COUNT;
import static org.vinecellar.core.boards.Sheet.Unit.SECONDS;
import static org.vinecellar.core.boards.Sheet.Unit.SHARE;
import static org.vinecellar.core.boards.Sheet.Unit.TEXT;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Breakdown;
import org.vinecellar.core.boards.ExplainedCell;
import org.vinecellar.core.boards.Lengths;
import org.vinecellar.core.boards.MendedCell;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunLinks;
import org.vinecellar.core.boards.RunSum;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.boards.Sheets;
import org.vinecellar.core.boards.TestSheets;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.JsonText;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.KeptTest;

/** The tables of reports, each number with the list of what it counts. */
final class ReportSheets {
  private static final double MICROS = 1e6;
  private static final int FEW_TYPES = 3;

  /** A filter with a longer word in it may be too long to be read. */
  private static final int LONGEST_WORD = 500;

  private ReportSheets() {}

  /**
   * All runs of a period.
   *
   * @param sum null when there is none
   * @param time null when there is none
   */
  record Whole(String name, Period period, @Nullable RunSum sum, @Nullable Lengths time) {}

  /** Whole periods, below each other. */
  static Sheet all(List<Whole> periods, String filter) {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("period", TEXT));
    columns.addAll(figures());
    List<Sheet.Row> rows = new ArrayList<>();
    for (Whole one : periods) {
      List<Sheet.Cell> cells = new ArrayList<>();
      cells.add(Sheet.Cell.of(one.name()));
      RunLinks links =
          new Sheets.Asked(filter, one.period(), List.of()).links(one.period(), List.of());
      cells.addAll(figures(one.sum() == null ? RunSum.NONE : one.sum(), one.time(), links));
      rows.add(new Sheet.Row(cells));
    }
    return new Sheet(columns, rows);
  }

  /** The same by what runs are told apart by, the worst first; those that ran before, too. */
  static Sheet parts(
      Breakdown breakdown, Map<List<@Nullable String>, Lengths> times, Sheets.Asked asked) {
    List<Sheet.Column> columns = new ArrayList<>();
    asked.by().forEach(one -> columns.add(Sheet.Column.of(one.word(), TEXT)));
    columns.addAll(figures());
    columns.add(Sheet.Column.of("change", SHARE));
    List<Breakdown.Part> worst = breakdown.worst();
    List<Sheet.Row> rows = new ArrayList<>();
    for (Breakdown.Part part : worst) {
      List<Sheet.Cell> cells = new ArrayList<>();
      part.by().forEach(value -> cells.add(Sheet.Cell.of(value)));
      cells.addAll(
          figures(
              part.now() == null ? RunSum.NONE : part.now(),
              times.get(part.by()),
              asked.links(asked.period(), part.by())));
      Double change = part.change();
      cells.add(change == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(change, null));
      rows.add(new Sheet.Row(cells));
    }
    return new Sheet(columns, rows, breakdown.parts().size() - worst.size());
  }

  private static List<Sheet.Column> figures() {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("runs", COUNT));
    columns.add(Sheet.Column.of("red", COUNT));
    columns.add(Sheet.Column.of("tests", COUNT));
    for (Outcome outcome : Outcome.values()) {
      columns.add(Sheet.Column.of(outcome.word(), COUNT));
    }
    columns.add(Sheet.Column.of("retried", COUNT));
    columns.add(Sheet.Column.of("rate", SHARE));
    columns.add(Sheet.Column.of("spent", SECONDS));
    columns.add(Sheet.Column.of("run median", SECONDS));
    columns.add(Sheet.Column.of("run p90", SECONDS));
    columns.add(Sheet.Column.of("run p95", SECONDS));
    columns.add(Sheet.Column.of("spent failing", SECONDS));
    columns.add(Sheet.Column.of("spent again", SECONDS));
    return columns;
  }

  private static List<Sheet.Cell> figures(RunSum sum, @Nullable Lengths time, RunLinks links) {
    List<Sheet.Cell> cells = new ArrayList<>();
    cells.add(Sheet.Cell.of(sum.runs(), links.runs()));
    cells.add(Sheet.Cell.of(sum.red(), links.red()));
    cells.add(Sheet.Cell.of(sum.tests(), links.tests()));
    for (Outcome outcome : Outcome.values()) {
      cells.add(Sheet.Cell.of(sum.of(outcome), links.outcome(outcome)));
    }
    cells.add(Sheet.Cell.of(sum.retried(), links.results("setUp eq false and attempts gt 1")));
    cells.add(Sheets.rateCell(sum, links));
    cells.add(seconds(sum.testTimeUs(), links.runs()));
    if (time == null) {
      for (int i = 0; i < 5; i++) {
        cells.add(Sheet.Cell.EMPTY);
      }
    } else {
      cells.add(seconds(time.median(), links.runs()));
      cells.add(seconds(time.p90(), links.runs()));
      cells.add(seconds(time.p95(), links.runs()));
      cells.addAll(Sheets.lost(sum, links));
    }
    return cells;
  }

  private static Sheet.Cell seconds(double micros, Sheet.@Nullable Link link) {
    return Sheet.Cell.of(micros / MICROS, link);
  }

  /** Failing results by what explains them; those that nobody explained first. */
  static Sheet causes(long unsorted, Map<String, Long> by, RunLinks links) {
    List<Sheet.Row> rows = new ArrayList<>();
    rows.add(cause("unsorted", unsorted, links.failing("not (category pr)")));
    by.forEach(
        (name, results) ->
            rows.add(cause(name, results, links.failing("category eq " + JsonText.quoted(name)))));
    return new Sheet(
        List.of(Sheet.Column.of("category", TEXT), Sheet.Column.of("failures", COUNT)), rows);
  }

  private static Sheet.Row cause(String name, long results, Sheet.Link link) {
    return new Sheet.Row(List.of(Sheet.Cell.of(name), Sheet.Cell.of(results, link)));
  }

  /** How long it took until somebody explained, and until it was fixed. */
  static Sheet explained(
      @Nullable ExplainedCell explained,
      @Nullable MendedCell mended,
      String filter,
      Period period,
      RunLinks links) {
    String found =
        "found ge "
            + JsonText.quoted(period.from().toString())
            + " and found lt "
            + JsonText.quoted(period.to().toString())
            + (filter.isBlank() ? "" : " and results[run[" + filter + "]]");
    return new Sheet(
        List.of(
            Sheet.Column.of("what", TEXT),
            Sheet.Column.of("how many", COUNT),
            Sheet.Column.of("median", SECONDS),
            Sheet.Column.of("mean", SECONDS)),
        List.of(
            new Sheet.Row(
                List.of(
                    Sheet.Cell.of("failure groups found"),
                    Sheet.Cell.of(
                        explained == null ? 0 : explained.groups(),
                        new Sheet.Link(Thing.GROUP, found)),
                    Sheet.Cell.EMPTY,
                    Sheet.Cell.EMPTY)),
            new Sheet.Row(
                List.of(
                    Sheet.Cell.of("of these explained"),
                    Sheet.Cell.of(
                        explained == null ? 0 : explained.explained(),
                        new Sheet.Link(Thing.GROUP, found + " and decision pr")),
                    known(explained == null ? null : explained.median()),
                    known(explained == null ? null : explained.mean()))),
            new Sheet.Row(
                List.of(
                    Sheet.Cell.of("tests fixed"),
                    Sheet.Cell.of(mended == null ? 0 : mended.tests(), links.changed(Change.FIXED)),
                    known(mended == null ? null : mended.median()),
                    known(mended == null ? null : mended.mean())))));
  }

  private static Sheet.Cell known(@Nullable Double seconds) {
    return seconds == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(seconds, null);
  }

  /**
   * Test by test.
   *
   * @param thrown by the number of the test
   * @param moreThrown whether there is more than that
   */
  static Sheet tests(
      List<TestTold> tests, Map<Long, List<TypeTold>> thrown, boolean moreThrown, RunLinks links) {
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("test", TEXT));
    columns.add(Sheet.Column.of("suite", TEXT));
    columns.add(Sheet.Column.of("results", COUNT));
    for (Outcome outcome : Outcome.values()) {
      columns.add(Sheet.Column.of(outcome.word(), COUNT));
    }
    columns.add(Sheet.Column.of("retried", COUNT));
    columns.add(Sheet.Column.of("rate", SHARE));
    columns.add(Sheet.Column.of("threw", TEXT));
    columns.add(Sheet.Column.of("spent", SECONDS));
    columns.add(Sheet.Column.of("median", SECONDS));
    columns.add(Sheet.Column.of("p90", SECONDS));
    columns.add(Sheet.Column.of("p95", SECONDS));
    List<Sheet.Row> rows = new ArrayList<>();
    for (TestTold one : tests) {
      String its = "nowTestId eq " + one.test().id() + " and setUp eq false";
      List<Sheet.Cell> cells = new ArrayList<>();
      cells.add(TestSheets.name(one.test()));
      cells.add(TestSheets.suite(one.test()));
      cells.add(Sheet.Cell.of(one.results(), links.results(its)));
      for (Outcome outcome : Outcome.values()) {
        cells.add(
            Sheet.Cell.of(
                one.of(outcome),
                links.results("outcome eq \"" + outcome.word() + "\" and " + its)));
      }
      cells.add(Sheet.Cell.of(one.retried(), links.results("attempts gt 1 and " + its)));
      cells.add(
          Sheets.rateCell(
              new RunSum(
                  0, one.passed(), one.failed(), one.errored(), 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0),
              null));
      cells.add(Sheet.Cell.of(threw(thrown.getOrDefault(one.test().id(), List.of()), moreThrown)));
      cells.add(seconds(one.timeUs(), links.results(its)));
      Lengths length = one.length();
      cells.add(length == null ? Sheet.Cell.EMPTY : seconds(length.median(), null));
      cells.add(length == null ? Sheet.Cell.EMPTY : seconds(length.p90(), null));
      cells.add(length == null ? Sheet.Cell.EMPTY : seconds(length.p95(), null));
      rows.add(new Sheet.Row(cells));
    }
    return new Sheet(columns, rows);
  }

  /** The first types in a few words; the table of what each test threw has them all. */
  private static @Nullable String threw(List<TypeTold> types, boolean more) {
    if (types.isEmpty()) {
      return more ? "see “What each test threw”" : null;
    }
    String first =
        types.stream()
            .limit(FEW_TYPES)
            .map(one -> simple(one.type()) + " × " + one.results())
            .collect(Collectors.joining(", "));
    return types.size() > FEW_TYPES
        ? first + " and " + (types.size() - FEW_TYPES) + " more"
        : first;
  }

  /** A class without its package. */
  private static String simple(String type) {
    int dot = type.lastIndexOf('.');
    boolean named = dot >= 0 && dot < type.length() - 1;
    return named && type.chars().noneMatch(Character::isWhitespace)
        ? type.substring(dot + 1)
        : type;
  }

  /**
   * Types of failures of all tests.
   *
   * @param untyped failing results that threw none
   */
  static Sheet types(List<TypeTold> types, long untyped, RunLinks links) {
    List<Sheet.Row> rows = new ArrayList<>();
    for (TypeTold one : types) {
      String threw = threw(one.type());
      boolean told = one.type().length() <= LONGEST_WORD;
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(one.type()),
                  Sheet.Cell.of(one.results(), told ? links.results(threw) : null),
                  Sheet.Cell.of(one.tests(), told ? links.testsWith(threw) : null),
                  Sheet.Cell.of(one.runs(), told ? links.runs("results[" + threw + "]") : null))));
    }
    if (untyped > 0) {
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of("failed without a type"),
                  Sheet.Cell.of(untyped, links.failing("not (tries[type pr])")),
                  Sheet.Cell.EMPTY,
                  Sheet.Cell.EMPTY)));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("type", TEXT),
            Sheet.Column.of("results", COUNT),
            Sheet.Column.of("different tests", COUNT),
            Sheet.Column.of("runs", COUNT)),
        rows);
  }

  /** Of what was skipped a file may tell a type, too. */
  private static String threw(String type) {
    return "setUp eq false and not (outcome eq \"skipped\") and tries[type eq "
        + JsonText.quoted(type)
        + "]";
  }

  /** Types of failures of each test. */
  static Sheet thrown(List<TypeTold> thrown, RunLinks links) {
    List<Sheet.Row> rows = new ArrayList<>();
    for (TypeTold one : thrown) {
      KeptTest test = one.test();
      if (test != null) {
        boolean told = one.type().length() <= LONGEST_WORD;
        rows.add(
            new Sheet.Row(
                List.of(
                    TestSheets.name(test),
                    TestSheets.suite(test),
                    Sheet.Cell.of(one.type()),
                    Sheet.Cell.of(
                        one.results(),
                        told
                            ? links.results(
                                "nowTestId eq " + test.id() + " and " + threw(one.type()))
                            : null))));
      }
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("test", TEXT),
            Sheet.Column.of("suite", TEXT),
            Sheet.Column.of("type", TEXT),
            Sheet.Column.of("results", COUNT)),
        rows);
  }

  /** What people did. */
  static Sheet people(List<PersonTold> people, Period period) {
    TreeSet<String> categories = new TreeSet<>();
    people.forEach(one -> categories.addAll(one.byCategory().keySet()));
    List<Sheet.Column> columns = new ArrayList<>();
    columns.add(Sheet.Column.of("who", TEXT));
    columns.add(Sheet.Column.of("explained", COUNT));
    for (String category : categories) {
      columns.add(new Sheet.Column("category", COUNT, Arrays.asList(category)));
    }
    columns.add(Sheet.Column.of("still to explain", COUNT));
    columns.add(Sheet.Column.of("overruled", COUNT));
    List<Sheet.Row> rows = new ArrayList<>();
    for (PersonTold one : people) {
      String who = JsonText.quoted(one.who());
      String made = "by eq " + who + " and " + within("made", period);
      List<Sheet.Cell> cells = new ArrayList<>();
      cells.add(Sheet.Cell.of(one.who()));
      cells.add(
          Sheet.Cell.of(one.explained(), new Sheet.Link(Thing.GROUP, "decision[" + made + "]")));
      for (String category : categories) {
        cells.add(
            Sheet.Cell.of(
                one.byCategory().getOrDefault(category, 0),
                new Sheet.Link(
                    Thing.GROUP,
                    "decision[" + made + " and category eq " + JsonText.quoted(category) + "]")));
      }
      cells.add(
          Sheet.Cell.of(
              one.assigned(),
              new Sheet.Link(Thing.GROUP, "assigned eq " + who + " and unsorted gt 0")));
      cells.add(
          Sheet.Cell.of(
              one.overruled(),
              new Sheet.Link(
                  Thing.RESULT,
                  "overruledBy eq " + who + " and " + within("overruledAt", period))));
      rows.add(new Sheet.Row(cells));
    }
    return new Sheet(columns, rows);
  }

  private static String within(String moment, Period period) {
    return moment
        + " ge "
        + JsonText.quoted(period.from().toString())
        + " and "
        + moment
        + " lt "
        + JsonText.quoted(period.to().toString());
  }
}
