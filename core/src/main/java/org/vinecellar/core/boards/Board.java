package org.vinecellar.core.boards;

import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.regex.Pattern;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.SavedUses;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * A board of a project: panels on a grid, under a name.
 *
 * @param name not blank; no other board of the project has it
 */
public record Board(String name, List<Panel> panels) {
  private static final int LONGEST_NAME = 100;
  private static final int LONGEST_TEXT = 4_000;
  private static final int MOST_PANELS = 40;
  private static final int LOWEST = 1_000;
  private static final int MOST_HEIGHT = 20;
  private static final Pattern KEY = Pattern.compile("[a-z0-9-]{1,64}");

  /** Copies the panels. */
  public Board {
    panels = List.copyOf(panels);
  }

  /**
   * A board as it is kept.
   *
   * @param version goes up with every change
   * @param changedBy who changed it last
   */
  public record Kept(long id, int version, Board board, Instant changedAt, String changedBy) {}

  /**
   * Checks all that somebody wrote, and says of which panel it is not right.
   *
   * @param clock times in filters may be told back from now
   * @param names saved filters that panels may name; those of another project cannot
   * @throws CellarException {@code INVALID_VALUE}
   */
  public void check(InstantSource clock, SavedNames names) {
    if (name.isBlank() || name.length() > LONGEST_NAME || name.indexOf('\0') >= 0) {
      throw invalid("a board needs a name of at most " + LONGEST_NAME + " characters");
    }
    if (panels.size() > MOST_PANELS) {
      throw invalid("a board has at most " + MOST_PANELS + " panels; this one " + panels.size());
    }
    for (int i = 0; i < panels.size(); i++) {
      String which = "panel " + (i + 1);
      check(panels.get(i), which, names, clock.instant());
      for (int j = 0; j < i; j++) {
        if (panels.get(j).spot().meets(panels.get(i).spot())) {
          throw invalid(which + " lies on panel " + (j + 1) + "; give each a place of its own");
        }
      }
    }
  }

  /**
   * Checks one panel.
   *
   * @param which as it is called in what is said of it
   * @throws CellarException {@code INVALID_VALUE}
   */
  public static void check(Panel panel, String which, SavedNames names, Instant now) {
    Panel.Spot spot = panel.spot();
    if (spot.x() < 0
        || spot.y() < 0
        || spot.y() > LOWEST
        || spot.width() < 2
        || spot.height() < 1
        || spot.height() > MOST_HEIGHT
        || spot.width() > Panel.Spot.COLUMNS
        || spot.x() > Panel.Spot.COLUMNS - spot.width()) {
      throw invalid(
          which
              + " does not lie on the grid: it has "
              + Panel.Spot.COLUMNS
              + " columns, and a panel takes 2 of them or more, and 1 to "
              + MOST_HEIGHT
              + " rows");
    }
    if (panel.title().length() > LONGEST_NAME || panel.text().length() > LONGEST_TEXT) {
      throw invalid(
          which + ": a title has at most " + LONGEST_NAME + " characters, a text " + LONGEST_TEXT);
    }
    if (panel.title().indexOf('\0') >= 0 || panel.text().indexOf('\0') >= 0) {
      throw invalid(which + ": a text holds a NUL character; leave it out");
    }
    Double minimum = panel.minimum();
    if (minimum != null && !(minimum >= 0 && minimum <= 1)) {
      throw invalid(which + ": minimum is " + minimum + "; it goes from 0 to 1, as in 0.98");
    }
    if (panel.by().size() > BoardFacts.MOST_DIMENSIONS) {
      throw invalid(
          which + ": runs are told apart by at most " + BoardFacts.MOST_DIMENSIONS + " things");
    }
    if (panel.kind() == PanelKind.MATRIX && panel.by().size() != 2) {
      throw invalid(
          which + ": a matrix is of two things, as in by label.env and stream: rows and columns");
    }
    String project = panel.project();
    if (project != null && !KEY.matcher(project).matches()) {
      throw invalid(
          which + ": a project is named by its key: up to 64 lower-case letters, digits and '-'");
    }
    if (project != null
        && !(SavedUses.in(panel.filter(), SavedNames.SHARED).isEmpty()
            && SavedUses.in(panel.filter(), SavedNames.MINE).isEmpty())) {
      throw invalid(
          which + ": of another project no saved filter can be named; write out what it asks");
    }
    try {
      Criterion unused =
          RunLinks.read(panel.filter(), now, project == null ? names : SavedNames.NONE);
      Period period = Period.ofDays(panel.days(), now);
      if (panel.kind().isStepwise()) {
        Trend.checked(period, panel.step());
      }
    } catch (CellarException e) {
      throw invalid(which + ": " + e.text());
    }
  }

  private static CellarException invalid(String why) {
    return new CellarException(ProblemCode.INVALID_VALUE, why);
  }
}
