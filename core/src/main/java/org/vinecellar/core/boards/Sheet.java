package org.vinecellar.core.boards;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Thing;

/**
 * What a panel shows, as a table: the chart, the table and every file of it are made from this, so
 * that none of them can say something else.
 *
 * @param columns what stands in each cell of a row
 * @param rows in the order in which they are shown
 * @param left how many further rows there would be; {@link #SOME} when they were not counted
 * @param shifts where its lines changed for good, line by line, the oldest first
 */
public record Sheet(List<Column> columns, List<Row> rows, int left, List<Shift> shifts) {
  /** Copies the lists. */
  public Sheet {
    columns = List.copyOf(columns);
    rows = List.copyOf(rows);
    shifts = List.copyOf(shifts);
  }

  /** Without a change. */
  public Sheet(List<Column> columns, List<Row> rows, int left) {
    this(columns, rows, left, List.of());
  }

  /** In place of how many further rows there would be: there are some. */
  public static final int SOME = -1;

  /** The same with so many rows at most. */
  public Sheet cut(int most) {
    return rows.size() > most ? new Sheet(columns, rows.subList(0, most), SOME) : this;
  }

  /** The same, leading nowhere: for whoever may see the numbers alone. */
  public Sheet alone() {
    return new Sheet(
        columns,
        rows.stream()
            .map(
                row ->
                    new Row(
                        row.cells().stream()
                            .map(c -> new Cell(c.text(), c.number(), c.low(), c.high(), null))
                            .toList()))
            .toList(),
        left,
        shifts.stream()
            .map(s -> new Shift(s.column(), s.row(), s.before(), s.after(), null))
            .toList());
  }

  /**
   * A change for good.
   *
   * @param column of the line
   * @param row from which on it is otherwise
   * @param before what it was in the middle until then, since the change before that
   * @param after what it is in the middle since then, until the next one
   * @param link to the runs of that row; null when they cannot be listed
   */
  public record Shift(int column, int row, double before, double after, @Nullable Link link) {}

  /** With all its rows. */
  public Sheet(List<Column> columns, List<Row> rows) {
    this(columns, rows, 0);
  }

  /** What a column's values are. */
  public enum Unit {
    /** Words. */
    TEXT,
    /** A moment. */
    TIME,
    /** So many. */
    COUNT,
    /** From 0 to 1. */
    SHARE,
    /** A length of time. */
    SECONDS
  }

  /**
   * A column.
   *
   * @param key what it tells: the same for the same thing in every sheet
   * @param values of what runs are told apart by, where it tells of some of them only
   */
  public record Column(String key, Unit unit, List<@Nullable String> values) {
    /** Copies the values. */
    public Column {
      values = Collections.unmodifiableList(new ArrayList<>(values));
    }

    /** As the heading of a table. */
    public String title() {
      return values.isEmpty()
          ? key
          : key
              + " "
              + values.stream()
                  .map(value -> value == null ? "none" : value)
                  .collect(Collectors.joining(" · "));
    }

    /** One that tells of all runs. */
    public static Column of(String key, Unit unit) {
      return new Column(key, unit, List.of());
    }
  }

  /** A row; a cell for each column. */
  public record Row(List<Cell> cells) {
    /** Copies the cells. */
    public Row {
      cells = List.copyOf(cells);
    }
  }

  /**
   * A cell.
   *
   * @param text of words, and of a moment in ISO 8601; null otherwise, and where there is none
   * @param number of all others; null where there is none, which is something else than 0
   * @param low where the interval begins that has a share's true value in 19 of 20 cases
   * @param high where it ends
   * @param link to the list of what it counts; null when it counts nothing that could be listed
   */
  public record Cell(
      @Nullable String text,
      @Nullable Double number,
      @Nullable Double low,
      @Nullable Double high,
      @Nullable Link link) {
    /** Nothing is known. */
    public static final Cell EMPTY = new Cell(null, null, null, null, null);

    /** Words, or a moment. */
    public static Cell of(@Nullable String text) {
      return new Cell(text, null, null, null, null);
    }

    /** A number, and where it leads. */
    public static Cell of(double number, @Nullable Link link) {
      return new Cell(null, number, null, null, link);
    }
  }

  /**
   * A list that is picked by a filter. As many stand in it as the number says that leads there; of
   * a share or a length of time it is what that was made of.
   */
  public record Link(Thing of, String filter) {}
}
