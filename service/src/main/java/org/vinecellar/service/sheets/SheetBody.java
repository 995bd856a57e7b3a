package org.vinecellar.service.sheets;

import java.util.List;
import java.util.Locale;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Sheet;

/**
 * What a panel shows, as a table from which its chart is drawn.
 *
 * @param left how many further rows there would be, after the worst; -1 when there are some that
 *     were not counted
 * @param shifts where its lines changed for good
 */
@Schema(name = "Sheet")
public record SheetBody(
    List<ColumnBody> columns, List<List<CellBody>> rows, int left, List<ShiftBody> shifts) {
  /**
   * A column.
   *
   * @param key what it tells
   * @param values of what runs are told apart by, where it tells of some of them only
   */
  @Schema(name = "SheetColumn")
  public record ColumnBody(
      String key,
      @Schema(enumeration = {"text", "time", "count", "share", "seconds"}) String unit,
      List<@Nullable String> values) {}

  /**
   * A cell.
   *
   * @param text of words and moments
   * @param number of all others; null where there is none, which is something else than 0
   * @param low where a share's interval begins
   * @param high where it ends
   * @param link to the list of what it counts; null when that cannot be listed
   */
  @Schema(name = "SheetCell")
  public record CellBody(
      @Schema(nullable = true) @Nullable String text,
      @Schema(nullable = true) @Nullable Double number,
      @Schema(nullable = true) @Nullable Double low,
      @Schema(nullable = true) @Nullable Double high,
      @Schema(nullable = true) @Nullable LinkBody link) {
    static CellBody of(Sheet.Cell cell) {
      Sheet.Link link = cell.link();
      return new CellBody(
          cell.text(),
          cell.number(),
          cell.low(),
          cell.high(),
          link == null ? null : new LinkBody(link.of().word(), link.filter()));
    }
  }

  /**
   * A change for good: not for a step or a few, and by more than the line moves otherwise.
   *
   * @param column of the line, counted from 0
   * @param row from which on it is otherwise, counted from 0
   * @param before what it was in the middle
   * @param after what it is in the middle since
   */
  @Schema(name = "SheetShift")
  public record ShiftBody(
      int column,
      int row,
      double before,
      double after,
      @Schema(nullable = true) @Nullable LinkBody link) {
    static ShiftBody of(Sheet.Shift shift) {
      Sheet.Link link = shift.link();
      return new ShiftBody(
          shift.column(),
          shift.row(),
          shift.before(),
          shift.after(),
          link == null ? null : new LinkBody(link.of().word(), link.filter()));
    }
  }

  /** A list that a filter picks. */
  @Schema(name = "SheetLink")
  public record LinkBody(
      @Schema(enumeration = {"run", "result", "test", "group"}) String of, String filter) {}

  /** As it is told. */
  public static SheetBody of(Sheet sheet) {
    return new SheetBody(
        sheet.columns().stream()
            .map(
                column ->
                    new ColumnBody(
                        column.key(),
                        column.unit().name().toLowerCase(Locale.ROOT),
                        column.values()))
            .toList(),
        sheet.rows().stream().map(row -> row.cells().stream().map(CellBody::of).toList()).toList(),
        sheet.left(),
        sheet.shifts().stream().map(ShiftBody::of).toList());
  }
}
