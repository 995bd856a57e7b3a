package org.vinecellar.core.boards;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.JsonText;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.ranks.RankStore.Ranked;

/** Sheets with a row for each test. */
public final class TestSheets {
  private static final Sheet.Column TEST = Sheet.Column.of("test", Sheet.Unit.TEXT);
  private static final Sheet.Column SUITE = Sheet.Column.of("suite", Sheet.Unit.TEXT);
  private static final Sheet.Column STREAM = Sheet.Column.of("stream", Sheet.Unit.TEXT);
  private static final double MILLIS = 1e3;

  private TestSheets() {}

  /** What a test is called, with where it leads. */
  public static Sheet.Cell name(KeptTest test) {
    String variant = String.join(", ", test.variant().values());
    String name =
        test.name()
            + (test.parameters() == null ? "" : test.parameters())
            + (variant.isEmpty() ? "" : " (" + variant + ")");
    return new Sheet.Cell(name, null, null, null, new Sheet.Link(Thing.TEST, "id eq " + test.id()));
  }

  /** The innermost suite that a test is in. */
  public static Sheet.Cell suite(KeptTest test) {
    List<String> suite = test.suite();
    return Sheet.Cell.of(suite.isEmpty() ? null : suite.get(suite.size() - 1));
  }

  /** Tests that failed most often. */
  public static Sheet worst(List<TestFailures> tests, Sheets.Asked asked) {
    RunLinks links = asked.links(asked.period(), List.of());
    return new Sheet(
        List.of(
            TEST,
            SUITE,
            Sheet.Column.of("failed", Sheet.Unit.COUNT),
            Sheet.Column.of("errored", Sheet.Unit.COUNT),
            Sheet.Column.of("runs", Sheet.Unit.COUNT)),
        tests.stream().map(one -> worst(one, links)).toList());
  }

  private static Sheet.Row worst(TestFailures one, RunLinks links) {
    KeptTest test = one.test();
    String its = "nowTestId eq " + test.id();
    return new Sheet.Row(
        List.of(
            name(test),
            suite(test),
            Sheet.Cell.of(one.failed(), links.results("outcome eq \"failed\" and " + its)),
            Sheet.Cell.of(one.errored(), links.results("outcome eq \"errored\" and " + its)),
            Sheet.Cell.of(
                one.runs(),
                links.runs(
                    "results[(outcome eq \"failed\" or outcome eq \"errored\") and "
                        + its
                        + "]"))));
  }

  /** Tests that are taken for flaky, and what they did. */
  static Sheet flaky(List<FlakyTest> tests, Sheets.Asked asked) {
    List<Sheet.Row> rows = new ArrayList<>();
    for (FlakyTest one : tests) {
      RunLinks links =
          asked
              .links(asked.period(), List.of())
              .within("stream eq " + JsonText.quoted(one.stream()));
      String its = "nowTestId eq " + one.test().id();
      rows.add(
          new Sheet.Row(
              List.of(
                  name(one.test()),
                  Sheet.Cell.of(one.stream()),
                  new Sheet.Cell(null, one.rate(), one.low(), one.high(), null),
                  Sheet.Cell.of(one.failing(), links.failing(its)),
                  Sheet.Cell.of(
                      one.retried(),
                      links.results(
                          "outcome eq \""
                              + Outcome.PASSED.word()
                              + "\" and attempts gt 1 and "
                              + its)))));
    }
    return new Sheet(
        List.of(
            TEST,
            STREAM,
            Sheet.Column.of("by chance", Sheet.Unit.SHARE),
            Sheet.Column.of("failing", Sheet.Unit.COUNT),
            Sheet.Column.of("passed on retry", Sheet.Unit.COUNT)),
        rows);
  }

  /**
   * Tests by how long they take.
   *
   * @param slowing whether it is told how long they took before, and since when they do not
   */
  static Sheet slow(List<Ranked> tests, boolean slowing) {
    List<Sheet.Column> columns = new ArrayList<>(List.of(TEST, STREAM));
    columns.add(Sheet.Column.of("now", Sheet.Unit.SECONDS));
    if (slowing) {
      columns.add(Sheet.Column.of("before", Sheet.Unit.SECONDS));
      columns.add(Sheet.Column.of("since", Sheet.Unit.TEXT));
    }
    List<Sheet.Row> rows = new ArrayList<>();
    for (Ranked one : tests) {
      List<Sheet.Cell> cells = new ArrayList<>();
      cells.add(name(one.test()));
      cells.add(Sheet.Cell.of(one.stream()));
      cells.add(seconds(one.millis()));
      if (slowing) {
        cells.add(seconds(one.before()));
        Integer since = one.slowerSince();
        cells.add(
            since == null
                ? Sheet.Cell.EMPTY
                : new Sheet.Cell(
                    "#" + since, null, null, null, RunLinks.of(one.stream(), since).runs()));
      }
      rows.add(new Sheet.Row(cells));
    }
    return new Sheet(columns, rows);
  }

  private static Sheet.Cell seconds(@Nullable Double millis) {
    return millis == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(millis / MILLIS, null);
  }
}
