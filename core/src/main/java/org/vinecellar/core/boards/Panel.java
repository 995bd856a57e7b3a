package org.vinecellar.core.boards;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A chart or table on a board.
 *
 * @param title may be blank: then it is called by its kind
 * @param text below the title; of a panel of words all that it shows
 * @param filter of runs; blank for all
 * @param days its period: so many latest ones
 * @param by what runs are told apart by
 * @param minimum a pass rate that each part must hold, from 0 to 1; null for none
 * @param project whose runs it tells of, by its key; null for that of the board
 */
public record Panel(
    String title,
    String text,
    PanelKind kind,
    Spot spot,
    String filter,
    int days,
    Step step,
    List<Dimension> by,
    @Nullable Double minimum,
    @Nullable String project) {
  /** Copies the list. */
  public Panel {
    by = List.copyOf(by);
  }

  /** The same with another filter. */
  public Panel with(String next) {
    return new Panel(title, text, kind, spot, next, days, step, by, minimum, project);
  }

  /**
   * Where it stands on the board's grid, which has twelve columns.
   *
   * @param x column of its left edge, from 0
   * @param y row of its upper edge, from 0
   * @param width columns that it takes, from 2
   * @param height rows that it takes, from 1
   */
  public record Spot(int x, int y, int width, int height) {
    /** How many columns there are. */
    public static final int COLUMNS = 12;

    /** Whether two take the same place. */
    boolean meets(Spot o) {
      return x < o.x + o.width && o.x < x + width && y < o.y + o.height && o.y < y + height;
    }
  }
}
