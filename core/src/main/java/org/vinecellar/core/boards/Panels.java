package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.RunSummary;

/** Makes the sheets of panels from what the stores know. */
public final class Panels {
  /** More lines than these nobody can tell apart; the others are taken together. */
  private static final int MOST_LINES = 12;

  private static final int MOST_TESTS = 50;

  private final BoardFacts facts;
  private final RunStore runs;

  /** From those. */
  public Panels(BoardFacts facts, RunStore runs) {
    this.facts = facts;
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
    return switch (panel.kind()) {
      case OUTCOMES -> Sheets.outcomes(trend(projectId, criterion, panel, asked), asked);
      case GROWTH -> Sheets.growth(trend(projectId, criterion, panel, asked), asked);
      case RATE -> Sheets.rate(trend(projectId, criterion, panel, asked), asked);
      case TIME -> Sheets.time(trend(projectId, criterion, panel, asked), asked);
      case LATEST -> Sheets.latest(latest(projectId, filter, period, names, now));
      case BREAKDOWN ->
          Sheets.breakdown(
              Breakdown.of(
                  facts.cells(projectId, criterion, period, null, asked.by()),
                  facts.cells(projectId, criterion, period.before(), null, asked.by()),
                  panel.minimum()),
              asked);
      case WORST -> Sheets.worst(facts.failing(projectId, criterion, period, MOST_TESTS), asked);
      case CAUSES -> {
        Trend.checked(period, panel.step());
        yield Sheets.causes(
            facts.causes(projectId, criterion, period, panel.step()), panel.step(), asked);
      }
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
    String pick = RunPick.of(filter, period, List.of(), List.of());
    List<RunSummary> latest =
        runs.runs(
            projectId,
            new RunQuery(null, Resolver.read(pick, Thing.RUN, now, names), Optional.empty(), 1));
    return latest.isEmpty() ? null : latest.get(0);
  }
}
