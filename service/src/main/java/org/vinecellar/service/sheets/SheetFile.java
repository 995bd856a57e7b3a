package org.vinecellar.service.sheets;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.boards.Sheet.Unit;
import org.vinecellar.service.web.SheetText;

/** A panel's sheet as a file. Shares are told with the ends of their intervals. */
public enum SheetFile {
  /** RFC 4180, UTF-8, with a heading. */
  CSV("text/csv; charset=utf-8") {
    @Override
    public void write(String title, Sheet sheet, OutputStream out) throws IOException {
      Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
      CSVPrinter table = new CSVPrinter(writer, CSVFormat.RFC4180);
      table.printRecord(
          columns(sheet).stream().map(one -> SheetText.harmless(one.title())).toList());
      for (Sheet.Row row : sheet.rows()) {
        List<@Nullable Object> cells = new ArrayList<>();
        for (Part part : columns(sheet)) {
          Sheet.Cell cell = row.cells().get(part.column());
          String text = cell.text();
          cells.add(part.isText() ? SheetText.harmless(text == null ? "" : text) : part.of(cell));
        }
        table.printRecord(cells);
      }
      table.flush();
    }
  },
  /** Office Open XML (ECMA-376): numbers are numbers, and texts never formulas. */
  XLSX("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet") {
    @Override
    public void write(String title, Sheet sheet, OutputStream out) throws IOException {
      workbook(Map.of(title, sheet), out);
    }
  },
  /** A table of GitHub Flavored Markdown. */
  MD("text/markdown; charset=utf-8") {
    @Override
    public void write(String title, Sheet sheet, OutputStream out) throws IOException {
      Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
      List<Part> columns = columns(sheet);
      writer.write(line(columns.stream().map(Part::title).toList()));
      writer.write(line(columns.stream().map(one -> one.isText() ? "---" : "---:").toList()));
      for (Sheet.Row row : sheet.rows()) {
        List<String> cells = new ArrayList<>();
        for (Part part : columns) {
          Sheet.Cell cell = row.cells().get(part.column());
          String text = cell.text();
          Object number = part.of(cell);
          cells.add(part.isText() ? (text == null ? "" : text) : number == null ? "" : "" + number);
        }
        writer.write(line(cells));
      }
      writer.flush();
    }
  };

  /** Of a column, in characters. */
  private static final int WIDEST = 60;

  private static final int MOST_OF_NAME = 31;

  /** What programs take at most: letters in a cell, and rows, of which one is the heading. */
  private static final int MOST_OF_CELL = 32_767;

  private static final int MOST_ROWS = 1_048_576 - 2;

  private static final int NARROWEST = 8;

  private final String type;

  SheetFile(String type) {
    this.type = type;
  }

  /** Its media type. */
  public String type() {
    return type;
  }

  /** What its name ends in. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The one that is written so. */
  public static Optional<SheetFile> ofWord(String word) {
    return Arrays.stream(values()).filter(one -> one.word().equals(word)).findFirst();
  }

  /**
   * Writes it, and leaves the stream open.
   *
   * @param title of the panel
   */
  public abstract void write(String title, Sheet sheet, OutputStream out) throws IOException;

  /** Which number of a cell. */
  private enum Which {
    ITSELF,
    LOW,
    HIGH
  }

  /** A column of the file. */
  private record Part(int column, String title, Unit unit, Which which) {
    boolean isText() {
      return unit == Unit.TEXT || unit == Unit.TIME;
    }

    /** The number; whole where it counts. */
    @Nullable Object of(Sheet.Cell cell) {
      Double number =
          switch (which) {
            case ITSELF -> cell.number();
            case LOW -> cell.low();
            case HIGH -> cell.high();
          };
      return number == null || unit != Unit.COUNT ? number : (Object) Math.round(number);
    }
  }

  private static List<Part> columns(Sheet sheet) {
    List<Part> parts = new ArrayList<>();
    for (int i = 0; i < sheet.columns().size(); i++) {
      Sheet.Column column = sheet.columns().get(i);
      int at = i;
      parts.add(new Part(i, column.title(), column.unit(), Which.ITSELF));
      if (sheet.rows().stream().anyMatch(row -> row.cells().get(at).low() != null)) {
        parts.add(new Part(i, column.title() + " low", column.unit(), Which.LOW));
        parts.add(new Part(i, column.title() + " high", column.unit(), Which.HIGH));
      }
    }
    return parts;
  }

  /**
   * Several sheets in one file (ECMA-376); leaves the stream open.
   *
   * @param sheets by their titles
   */
  public static void workbook(Map<String, Sheet> sheets, OutputStream out) throws IOException {
    Workbook book = new Workbook(out, "Vine Cellar", null);
    Set<String> taken = new HashSet<>();
    for (Map.Entry<String, Sheet> one : sheets.entrySet()) {
      page(book.newWorksheet(name(one.getKey(), taken)), one.getValue());
    }
    book.finish();
  }

  /**
   * A name that a sheet may have and no other has, whatever their letters' case: up to 31
   * characters (ECMA-376, part 1, section 18.2.19), none of which stands for something in a
   * reference to a cell.
   */
  private static String name(String title, Set<String> taken) {
    String plain = title.replaceAll("[\\[\\]:*?/\\\\\\p{C}]", " ").strip();
    plain = plain.replaceAll("^'+|'+$", "").strip();
    plain = plain.isEmpty() ? "Sheet" : plain;
    String name = first(plain, MOST_OF_NAME).replaceAll("[' ]+$", "");
    for (int more = 2; !taken.add(name.toLowerCase(Locale.ROOT)); more++) {
      String number = " " + more;
      name = first(plain, MOST_OF_NAME - number.length()) + number;
    }
    return name;
  }

  /** What a cell can hold of a text; where that is not all of it, its end says so. */
  private static String shown(String text) {
    return text.length() <= MOST_OF_CELL ? text : first(text, MOST_OF_CELL - 1) + "…";
  }

  /** At most so many characters, of which none is cut in two. */
  private static String first(String text, int most) {
    if (text.length() <= most) {
      return text;
    }
    return text.substring(0, Character.isHighSurrogate(text.charAt(most - 1)) ? most - 1 : most);
  }

  /** As wide as what stands in it, and on paper as wide as a page that lies across. */
  private static void page(Worksheet page, Sheet whole) {
    Sheet sheet = whole.cut(MOST_ROWS);
    List<Part> columns = columns(sheet);
    for (int i = 0; i < columns.size(); i++) {
      Part part = columns.get(i);
      page.value(0, i, part.title());
      page.style(0, i).bold().horizontalAlignment(part.isText() ? "left" : "right").set();
      page.width(i, Math.min(WIDEST, Math.max(NARROWEST, longest(sheet, part) + 2)));
    }
    page.freezePane(0, 1);
    page.pageOrientation("landscape");
    page.setFitToPage(true);
    page.fitToWidth((short) 1);
    page.fitToHeight((short) 0);
    page.repeatRows(0);
    for (int r = 0; r < sheet.rows().size(); r++) {
      for (int i = 0; i < columns.size(); i++) {
        fill(page, r + 1, i, columns.get(i), sheet.rows().get(r));
      }
    }
    if (sheet.left() != 0) {
      page.value(sheet.rows().size() + 1, 0, "More follow that are not told here.");
    }
  }

  private static int longest(Sheet sheet, Part part) {
    int longest = part.title().length();
    if (part.unit() == Unit.TEXT) {
      for (Sheet.Row row : sheet.rows()) {
        String text = row.cells().get(part.column()).text();
        longest = Math.max(longest, text == null ? 0 : text.length());
      }
    }
    return part.unit() == Unit.TIME ? "2026-11-30 00:00".length() : longest;
  }

  private static void fill(Worksheet page, int row, int at, Part part, Sheet.Row of) {
    Sheet.Cell cell = of.cells().get(part.column());
    String text = cell.text();
    if (part.unit() == Unit.TIME && text != null) {
      page.value(row, at, LocalDateTime.ofInstant(Instant.parse(text), ZoneOffset.UTC));
      page.style(row, at).format("yyyy-mm-dd hh:mm").set();
    } else if (part.isText()) {
      page.value(row, at, text == null ? null : shown(text));
    } else if (part.of(cell) instanceof Number number) {
      page.value(row, at, number);
      if (part.unit() == Unit.SHARE) {
        page.style(row, at).format("0.0%").set();
      } else if (part.unit() == Unit.SECONDS) {
        page.style(row, at).format("0.00\\ \\s").set();
      }
    }
  }

  private static String line(List<String> cells) {
    StringBuilder line = new StringBuilder("|");
    for (String cell : cells) {
      String inOneLine = cell.replaceAll("[\\r\\n]+", " ");
      line.append(' ').append(inOneLine.replace("\\", "\\\\").replace("|", "\\|")).append(" |");
    }
    return line.append('\n').toString();
  }
}
