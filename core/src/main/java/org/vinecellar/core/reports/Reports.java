package org.vinecellar.core.reports;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.Breakdown;
import org.vinecellar.core.boards.CauseCell;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.ExplainedCell;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.boards.GroupSheets;
import org.vinecellar.core.boards.LengthCell;
import org.vinecellar.core.boards.Lengths;
import org.vinecellar.core.boards.MendedCell;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunCell;
import org.vinecellar.core.boards.RunLinks;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.boards.Sheets;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.boards.Trend;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Makes reports from what the stores know. */
public final class Reports {
  /** So many tests, and so many of what they threw, are told at most. */
  private static final int MOST_TESTS = 10_000;

  /** Characters of all filters that the numbers of a test lead to: they hold that of the runs. */
  private static final int ROOM = 24_000_000;

  private static final int LINKS = 9;
  private static final int LINK = 250;

  private static final int MOST_PARTS = 500;
  private static final int MOST_ACROSS = 24;
  private static final Duration DAYS = Duration.ofDays(93);

  private final BoardFacts boards;
  private final FailureFacts failures;
  private final ReportFacts facts;

  /** From those. */
  public Reports(BoardFacts boards, FailureFacts failures, ReportFacts facts) {
    this.boards = boards;
    this.failures = failures;
    this.facts = facts;
  }

  /**
   * What is asked for.
   *
   * @param filter of runs; blank for all
   * @param by what runs are told apart by, in a breakdown: one to three
   */
  public record Asked(ReportKind kind, Period period, String filter, List<Dimension> by) {
    /** Copies the list. */
    public Asked {
      by = List.copyOf(by);
    }
  }

  /**
   * The report.
   *
   * @param names saved filters that it may name
   * @throws CellarException when what it asks for is not right, or too much
   */
  public Report report(int projectId, Asked asked, SavedNames names, Instant now) {
    Criterion runs = RunLinks.read(asked.filter(), now, names);
    Made made = new Made(projectId, runs, asked);
    List<Report.Table> tables =
        switch (asked.kind()) {
          case SUMMARY -> made.summary();
          case TESTS -> made.tests();
          case BREAKDOWN -> made.breakdown();
          case PEOPLE -> made.people();
        };
    return new Report(asked.kind(), asked.period(), asked.filter(), now, tables);
  }

  /** One of them, as it comes about. */
  private final class Made {
    private final int projectId;
    private final Criterion runs;
    private final Asked asked;
    private final Period period;
    private final RunLinks links;

    private Made(int projectId, Criterion runs, Asked asked) {
      this.projectId = projectId;
      this.runs = runs;
      this.asked = asked;
      this.period = asked.period();
      this.links = of(List.of()).links(period, List.of());
    }

    private Sheets.Asked of(List<Dimension> by) {
      return new Sheets.Asked(asked.filter(), period, by);
    }

    private List<Report.Table> summary() {
      List<Report.Table> tables = new ArrayList<>();
      tables.add(new Report.Table("all", "In all", "", all()));
      List<Dimension> stream = List.of(Dimension.of("stream"));
      tables.add(new Report.Table("streams", "Streams", "", parts(stream)));
      Step step = length().compareTo(DAYS) > 0 ? Step.WEEK : Step.DAY;
      Trend trend =
          Trend.of(period, step, boards.cells(projectId, runs, period, step, List.of()), 1);
      tables.add(
          new Report.Table(
              "days",
              step == Step.DAY ? "Day by day" : "Week by week",
              "",
              Sheets.outcomes(trend, of(List.of()))));
      tables.add(new Report.Table("causes", "What explains failures", "", causes()));
      tables.add(new Report.Table("explained", "How long it took", "", explained()));
      tables.add(
          new Report.Table(
              "tickets",
              "Tickets",
              "",
              GroupSheets.tickets(
                      failures.tickets(projectId, runs, period, MOST_PARTS + 1), of(List.of()))
                  .cut(MOST_PARTS)));
      return tables;
    }

    private Duration length() {
      return Duration.between(period.from(), period.to());
    }

    /** This period, and the one before it. */
    private Sheet all() {
      Period before = period.before();
      return ReportSheets.all(
          List.of(sum("this period", period), sum("the period before", before)), asked.filter());
    }

    private ReportSheets.Whole sum(String name, Period of) {
      List<RunCell> cells = boards.cells(projectId, runs, of, null, List.of());
      List<LengthCell> times = boards.lengths(projectId, runs, of, null, List.of());
      return new ReportSheets.Whole(
          name,
          of,
          cells.isEmpty() ? null : cells.get(0).sum(),
          times.isEmpty() ? null : times.get(0).run());
    }

    private Sheet parts(List<Dimension> by) {
      Breakdown breakdown =
          Breakdown.of(
              boards.cells(projectId, runs, period, null, by),
              boards.cells(projectId, runs, period.before(), null, by),
              null);
      Map<List<@Nullable String>, Lengths> times = new HashMap<>();
      boards
          .lengths(projectId, runs, period, null, by)
          .forEach(cell -> times.put(cell.by(), cell.run()));
      return ReportSheets.parts(breakdown, times, of(by));
    }

    private Sheet causes() {
      Map<String, Long> by = new TreeMap<>();
      long unsorted = 0;
      for (CauseCell cell : boards.causes(projectId, runs, period, Step.WEEK)) {
        String category = cell.category();
        if (category == null) {
          unsorted += cell.results();
        } else {
          by.merge(category, cell.results(), Long::sum);
        }
      }
      return ReportSheets.causes(unsorted, by, links);
    }

    private Sheet explained() {
      List<MendedCell> mended = failures.mended(projectId, runs, period, null);
      List<ExplainedCell> explained = failures.explaining(projectId, runs, period, null);
      return ReportSheets.explained(
          explained.isEmpty() ? null : explained.get(0),
          mended.isEmpty() ? null : mended.get(0),
          asked.filter(),
          period,
          links);
    }

    private List<Report.Table> tests() {
      int most = Math.min(MOST_TESTS, ROOM / (LINKS * (LINK + asked.filter().length())));
      List<TestTold> tests = facts.tests(projectId, runs, period, most + 1);
      List<TestTold> told = tests.subList(0, Math.min(most, tests.size()));
      List<TypeTold> thrown =
          facts.types(
              projectId,
              runs,
              period,
              told.stream().map(one -> one.test().id()).toList(),
              most + 1);
      Map<Long, List<TypeTold>> byTest = new HashMap<>();
      for (TypeTold one : thrown) {
        byTest
            .computeIfAbsent(Objects.requireNonNull(one.test()).id(), id -> new ArrayList<>())
            .add(one);
      }
      String note =
          tests.size() > most
              ? "The "
                  + most
                  + " tests that failed most; more ran. A filter of runs that picks fewer tells of"
                  + " the others."
              : "";
      return List.of(
          new Report.Table(
              "tests",
              "Tests",
              note,
              ReportSheets.tests(tests, byTest, thrown.size() > most, links).cut(most)),
          new Report.Table(
              "types",
              "What was thrown",
              "Results of which a try failed so, also those that passed when they were tried"
                  + " again.",
              ReportSheets.types(
                      facts.types(projectId, runs, period, null, MOST_PARTS + 1),
                      facts.untyped(projectId, runs, period),
                      links)
                  .cut(MOST_PARTS + 1)),
          new Report.Table(
              "thrown",
              "What each test threw",
              note,
              ReportSheets.thrown(thrown, links).cut(most)));
    }

    private List<Report.Table> breakdown() {
      if (asked.by().isEmpty() || asked.by().size() > BoardFacts.MOST_DIMENSIONS) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "say by what runs are told apart: one to "
                + BoardFacts.MOST_DIMENSIONS
                + " of stream, branch, or a label such as label.env");
      }
      List<Report.Table> tables = new ArrayList<>();
      tables.add(new Report.Table("parts", "Side by side", "", parts(asked.by())));
      Dimension stream = Dimension.of("stream");
      if (asked.by().size() == 1 && !asked.by().contains(stream)) {
        List<Dimension> two = List.of(stream, asked.by().get(0));
        List<RunCell> cells = boards.cells(projectId, runs, period, null, two);
        long across = cells.stream().map(cell -> cell.by().get(1)).distinct().count();
        if (across <= MOST_ACROSS) {
          tables.add(
              new Report.Table(
                  "matrix", "Pass rate of each stream", "", Sheets.matrix(cells, of(two))));
        }
      }
      return tables;
    }

    private List<Report.Table> people() {
      return List.of(
          new Report.Table(
              "people",
              "Who did what",
              asked.filter().isBlank()
                  ? ""
                  : "Of all runs: no filter of runs tells what people did.",
              ReportSheets.people(facts.people(projectId, period, MOST_PARTS + 1), period)
                  .cut(MOST_PARTS)));
    }
  }
}
