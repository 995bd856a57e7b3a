package org.vinecellar.core.boards;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.trust.ranks.Rank;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.core.trust.ranks.RankStore.Ranked;

/** Makes the sheets of panels from what the stores know. */
public final class Panels {
  /** More lines than these nobody can tell apart; the others are taken together. */
  private static final int MOST_LINES = 12;

  private static final int MOST_ROWS = 50;
  private static final int MOST_RUNS = 60;

  private final BoardFacts facts;
  private final FailureFacts failures;
  private final RankStore ranks;
  private final RunStore runs;

  /** From those. */
  public Panels(BoardFacts facts, FailureFacts failures, RankStore ranks, RunStore runs) {
    this.facts = facts;
    this.failures = failures;
    this.ranks = ranks;
    this.runs = runs;
  }

  /**
   * What the whole board is switched to, for one look.
   *
   * @param filter of runs, beside that of each panel; null or blank for none
   * @param days in place of each panel's; null for none
   */
  public record Switch(@Nullable String filter, @Nullable Integer days) {
    /** To nothing. */
    public static final Switch NONE = new Switch(null, null);

    private String filter(Panel panel) {
      boolean none = filter == null || filter.isBlank();
      if (panel.filter().isBlank()) {
        return none ? "" : String.valueOf(filter);
      }
      return none ? panel.filter() : "(" + panel.filter() + ") and (" + filter + ")";
    }
  }

  /**
   * The sheet of a panel.
   *
   * @param names saved filters that it, or the switch, may name
   * @throws org.vinecellar.core.problem.CellarException when what it asks for is not right, or too
   *     much
   */
  public Sheet sheet(int projectId, Panel panel, Switch board, SavedNames names, Instant now) {
    Integer days = board.days();
    Period period = Period.ofDays(days == null ? panel.days() : days, now);
    String filter = board.filter(panel);
    Criterion criterion = RunLinks.read(filter, now, names);
    Sheets.Asked asked =
        new Sheets.Asked(filter, period, panel.kind().isApart() ? panel.by() : List.of());
    Sheet sheet = sheet(projectId, panel, filter, criterion, asked, names, now);
    return panel.kind().isListed() ? sheet.cut(MOST_ROWS) : sheet;
  }

  private Sheet sheet(
      int projectId,
      Panel panel,
      String filter,
      Criterion criterion,
      Sheets.Asked asked,
      SavedNames names,
      Instant now) {
    Period period = asked.period();
    return switch (panel.kind()) {
      case OUTCOMES -> Sheets.outcomes(trend(projectId, criterion, panel, asked), asked);
      case GROWTH -> {
        Trend trend = trend(projectId, criterion, panel, asked);
        yield Sheets.growth(trend, facts.gone(projectId, criterion, period, panel.step()), asked);
      }
      case RATE -> Shifts.marked(Sheets.rate(trend(projectId, criterion, panel, asked), asked));
      case TIME -> Shifts.marked(Sheets.time(trend(projectId, criterion, panel, asked), asked));
      case LOST -> Sheets.lost(trend(projectId, criterion, panel, asked), asked);
      case LENGTHS -> {
        Trend.checked(period, panel.step());
        yield Shifts.marked(
            Sheets.lengths(
                facts.lengths(projectId, criterion, period, panel.step(), List.of()),
                panel.step(),
                asked));
      }
      case LATEST -> Sheets.latest(latest(projectId, filter, period, names, now));
      case BREAKDOWN ->
          Sheets.breakdown(
              Breakdown.of(
                  facts.cells(projectId, criterion, period, null, asked.by()),
                  facts.cells(projectId, criterion, period.before(), null, asked.by()),
                  panel.minimum()),
              asked);
      case WORST ->
          TestSheets.worst(facts.failing(projectId, criterion, period, MOST_ROWS + 1), asked);
      case CAUSES -> {
        Trend.checked(period, panel.step());
        yield Sheets.causes(
            facts.causes(projectId, criterion, period, panel.step()), panel.step(), asked);
      }
      case RUNS -> Sheets.runs(runs(projectId, filter, period, names, MOST_RUNS, now));
      case MATRIX ->
          Sheets.matrix(facts.cells(projectId, criterion, period, null, asked.by()), asked);
      case FLAKY ->
          TestSheets.flaky(failures.flaky(projectId, criterion, period, MOST_ROWS + 1), asked);
      case SLOWEST, SLOWING ->
          TestSheets.slow(
              slow(projectId, panel.kind(), criterion, period, now),
              panel.kind() == PanelKind.SLOWING);
      case GROUPS ->
          GroupSheets.groups(failures.groups(projectId, criterion, period, MOST_ROWS + 1), asked);
      case TICKETS ->
          GroupSheets.tickets(failures.tickets(projectId, criterion, period, MOST_ROWS + 1), asked);
      case EXPLAINING -> {
        Trend.checked(period, panel.step());
        yield GroupSheets.explaining(
            failures.explaining(projectId, criterion, period, panel.step()),
            panel.step(),
            period,
            filter);
      }
      case MENDING -> {
        Trend.checked(period, panel.step());
        yield GroupSheets.mending(
            failures.mended(projectId, criterion, period, panel.step()), panel.step(), asked);
      }
      case PEOPLE -> GroupSheets.people(failures.people(projectId, period, MOST_ROWS + 1), period);
      case TEXT -> new Sheet(List.of(), List.of());
    };
  }

  private Trend trend(int projectId, Criterion criterion, Panel panel, Sheets.Asked asked) {
    Trend.checked(asked.period(), panel.step());
    return Trend.of(
        asked.period(),
        panel.step(),
        facts.cells(projectId, criterion, asked.period(), panel.step(), asked.by()),
        MOST_LINES);
  }

  private @Nullable RunSummary latest(
      int projectId, String filter, Period period, SavedNames names, Instant now) {
    List<RunSummary> latest = runs(projectId, filter, period, names, 1, now);
    return latest.isEmpty() ? null : latest.get(0);
  }

  /** The latest ones first. */
  private List<RunSummary> runs(
      int projectId, String filter, Period period, SavedNames names, int limit, Instant now) {
    String pick = RunPick.of(filter, period, List.of(), List.of());
    return runs.runs(
        projectId,
        new RunQuery(null, Resolver.read(pick, Thing.RUN, now, names), Optional.empty(), limit));
  }

  /** Of streams that have such a run. */
  private List<Ranked> slow(
      int projectId, PanelKind kind, Criterion runs, Period period, Instant now) {
    Rank by = kind == PanelKind.SLOWING ? Rank.SLOWING : Rank.SLOWEST;
    LocalDate today = LocalDate.ofInstant(now, ZoneOffset.UTC);
    List<RunCell> streams =
        facts.cells(projectId, runs, period, null, List.of(Dimension.of("stream")));
    List<String> names =
        streams.stream().map(stream -> Objects.requireNonNull(stream.by().get(0))).toList();
    return ranks.ranked(
        projectId,
        new RankStore.Question(by, names, Criterion.EVERYTHING, today, 0, MOST_ROWS + 1));
  }
}
