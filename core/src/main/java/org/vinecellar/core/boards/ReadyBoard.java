package org.vinecellar.core.boards;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.JsonText;

/** Boards to begin with. They are copied, and then are like any other. */
public enum ReadyBoard {
  /** For who works on one stream. */
  STREAM("One stream", "how one stream is doing, day by day"),
  /** For who leads several teams. */
  TEAMS("All teams", "every team beside the others, the worst first"),
  /** For who decides whether something goes out. */
  RELEASE("Release", "whether the main branch is fit, by team and by environment");

  private static final int MONTH = 30;
  private static final int FORTNIGHT = 14;
  private static final double FIT = 0.98;

  private final String title;
  private final String meaning;

  ReadyBoard(String title, String meaning) {
    this.title = title;
    this.meaning = meaning;
  }

  /** As it is written. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The one that is written so. */
  public static Optional<ReadyBoard> ofWord(String word) {
    return Arrays.stream(values()).filter(one -> one.word().equals(word)).findFirst();
  }

  /** What it is called at first. */
  public String title() {
    return title;
  }

  /** For people. */
  public String meaning() {
    return meaning;
  }

  /**
   * The board.
   *
   * @param name that it shall have
   * @param stream of which it tells; null for all
   */
  public Board board(String name, @Nullable String stream) {
    String filter = stream == null ? "" : "stream eq " + JsonText.quoted(stream);
    return new Board(
        name,
        switch (this) {
          case STREAM -> ofStream(filter);
          case TEAMS -> ofTeams(filter);
          case RELEASE -> ofRelease(filter);
        });
  }

  private static List<Panel> ofStream(String filter) {
    return List.of(
        panel("Latest run", PanelKind.LATEST, spot(0, 0, 4, 4), filter, MONTH),
        panel("Results", PanelKind.OUTCOMES, spot(4, 0, 8, 4), filter, MONTH),
        panel("Pass rate", PanelKind.RATE, spot(0, 4, 6, 4), filter, MONTH),
        panel("Time of tests", PanelKind.TIME, spot(6, 4, 6, 4), filter, MONTH),
        panel("Tests that failed most", PanelKind.WORST, spot(0, 8, 6, 5), filter, FORTNIGHT),
        panel("What explains failures", PanelKind.CAUSES, spot(6, 8, 6, 5), filter, MONTH),
        panel("Flaky tests", PanelKind.FLAKY, spot(0, 13, 6, 4), filter, MONTH),
        panel("Tests that came and went", PanelKind.GROWTH, spot(6, 13, 6, 4), filter, MONTH));
  }

  private static List<Panel> ofTeams(String filter) {
    List<String> team = List.of("label.team");
    return List.of(
        apart("Teams", spot(0, 0, 6, 4), filter, team, FIT),
        lines("Pass rate by team", PanelKind.RATE, spot(6, 0, 6, 4), filter, team),
        panel("Results of all", PanelKind.OUTCOMES, spot(0, 4, 6, 4), filter, MONTH),
        lines("Time of tests by team", PanelKind.TIME, spot(6, 4, 6, 4), filter, team),
        apart("Streams", spot(0, 8, 12, 6), filter, List.of("label.team", "stream"), FIT),
        panel("Tests that failed most", PanelKind.WORST, spot(0, 14, 6, 5), filter, FORTNIGHT),
        panel("What explains failures", PanelKind.CAUSES, spot(6, 14, 6, 5), filter, MONTH),
        panel("Failure groups", PanelKind.GROUPS, spot(0, 19, 12, 5), filter, FORTNIGHT));
  }

  private static List<Panel> ofRelease(String filter) {
    String main = (filter.isEmpty() ? "" : filter + " and ") + "branch eq \"main\"";
    return List.of(
        apart("Streams on main", spot(0, 0, 7, 5), main, List.of("stream"), FIT),
        panel("Latest run on main", PanelKind.LATEST, spot(7, 0, 5, 5), main, FORTNIGHT),
        panel("Results on main", PanelKind.OUTCOMES, spot(0, 5, 12, 4), main, FORTNIGHT),
        new Panel(
            "Teams in each environment",
            "",
            PanelKind.MATRIX,
            spot(0, 9, 6, 5),
            main,
            FORTNIGHT,
            Step.DAY,
            dimensions(List.of("label.team", "label.env")),
            null,
            null),
        panel("Tickets", PanelKind.TICKETS, spot(6, 9, 6, 5), main, FORTNIGHT),
        panel("Tests that failed most", PanelKind.WORST, spot(0, 14, 6, 5), main, FORTNIGHT),
        panel("What explains failures", PanelKind.CAUSES, spot(6, 14, 6, 5), main, FORTNIGHT),
        panel("Failure groups", PanelKind.GROUPS, spot(0, 19, 12, 5), main, FORTNIGHT));
  }

  private static Panel.Spot spot(int x, int y, int width, int height) {
    return new Panel.Spot(x, y, width, height);
  }

  private static Panel panel(
      String title, PanelKind kind, Panel.Spot spot, String filter, int days) {
    return new Panel(title, "", kind, spot, filter, days, Step.DAY, List.of(), null, null);
  }

  private static Panel lines(
      String title, PanelKind kind, Panel.Spot spot, String filter, List<String> by) {
    return new Panel(title, "", kind, spot, filter, MONTH, Step.DAY, dimensions(by), null, null);
  }

  private static Panel apart(
      String title, Panel.Spot spot, String filter, List<String> by, @Nullable Double minimum) {
    return new Panel(
        title,
        "",
        PanelKind.BREAKDOWN,
        spot,
        filter,
        FORTNIGHT,
        Step.DAY,
        dimensions(by),
        minimum,
        null);
  }

  private static List<Dimension> dimensions(List<String> by) {
    return by.stream().map(Dimension::of).toList();
  }
}
