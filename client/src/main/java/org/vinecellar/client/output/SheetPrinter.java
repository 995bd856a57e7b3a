package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Tables of a report, for people: what fits beside each other. */
public final class SheetPrinter {
  private static final int WIDEST = 44;

  /** A table of few rows and many columns, read from top to bottom. */
  private static final String WHOLE = "all";

  private static final double MINUTE = 60;
  private static final double HOUR = 3_600;

  /** Of wide tables, what is told here; a file has the rest. */
  private static final Map<String, Set<String>> TOLD =
      Map.of(
          "streams", Set.of("stream", "runs", "tests", "failed", "errored", "rate", "spent"),
          "parts", Set.of("runs", "tests", "failed", "errored", "rate", "change", "spent"),
          "days", Set.of("at", "passed", "failed", "errored", "runs"),
          "tests", Set.of("test", "results", "failed", "errored", "rate", "median", "threw"),
          "thrown", Set.of("test", "type", "results"));

  private final Terminal terminal;

  /** On that terminal. */
  public SheetPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** All its tables. */
  public void report(JsonNode report) {
    terminal.line(
        terminal.paint(Terminal.clean(report.path("title").asText()), Terminal.Paint.BOLD)
            + ", "
            + day(report.path("from").asText())
            + " to "
            // It ends at the first moment of the day after.
            + day(Instant.parse(report.path("to").asText()).minusNanos(1).toString()));
    for (JsonNode table : report.path("tables")) {
      terminal.line("");
      terminal.line(
          terminal.paint(Terminal.clean(table.path("title").asText()), Terminal.Paint.BOLD));
      if (!table.path("note").asText().isEmpty()) {
        terminal.line("  " + Terminal.clean(table.path("note").asText()));
      }
      table(table.path("word").asText(), table.path("sheet"));
    }
  }

  private void table(String word, JsonNode sheet) {
    if (sheet.path("rows").isEmpty()) {
      terminal.line("  nothing");
      return;
    }
    List<List<String>> lines = new ArrayList<>();
    List<Boolean> right = new ArrayList<>();
    if (word.equals(WHOLE)) {
      turned(sheet, lines);
      right.add(false);
      sheet.path("rows").forEach(row -> right.add(true));
    } else {
      usual(word, sheet, lines, right);
    }
    print(lines, right);
    if (sheet.path("left").asInt() != 0) {
      terminal.note(
          "more follow: --format csv --table " + word + ", or another file, has them all");
    }
  }

  private static void usual(
      String word, JsonNode sheet, List<List<String>> lines, List<Boolean> right) {
    List<Integer> shown = new ArrayList<>();
    List<String> heads = new ArrayList<>();
    for (int i = 0; i < sheet.path("columns").size(); i++) {
      JsonNode column = sheet.path("columns").get(i);
      String key = column.path("key").asText();
      Set<String> told = TOLD.getOrDefault(word, Set.of(key));
      if (told.contains(key)
          || (word.equals("parts") && column.path("unit").asText().equals("text"))) {
        shown.add(i);
        heads.add(head(column));
        right.add(!column.path("unit").asText().matches("text|time"));
      }
    }
    lines.add(heads);
    for (JsonNode row : sheet.path("rows")) {
      lines.add(shown.stream().map(i -> cell(sheet.path("columns").get(i), row.get(i))).toList());
    }
  }

  private static void turned(JsonNode sheet, List<List<String>> lines) {
    for (int i = 0; i < sheet.path("columns").size(); i++) {
      JsonNode column = sheet.path("columns").get(i);
      List<String> line = new ArrayList<>();
      line.add(i == 0 ? "" : head(column));
      for (JsonNode row : sheet.path("rows")) {
        line.add(cell(column, row.get(i)));
      }
      lines.add(line);
    }
  }

  private void print(List<List<String>> lines, List<Boolean> right) {
    int[] widths = new int[right.size()];
    for (List<String> line : lines) {
      for (int i = 0; i < widths.length; i++) {
        widths[i] = Math.max(widths[i], line.get(i).length());
      }
    }
    for (int nr = 0; nr < lines.size(); nr++) {
      StringBuilder text = new StringBuilder("  ");
      for (int i = 0; i < widths.length; i++) {
        String word = lines.get(nr).get(i);
        String space = " ".repeat(widths[i] - word.length());
        text.append(right.get(i) ? space + word : word + space).append("  ");
      }
      String line = text.toString().stripTrailing();
      terminal.line(nr == 0 ? terminal.paint(line, Terminal.Paint.SLATE) : line);
    }
  }

  private static String head(JsonNode column) {
    List<String> values = new ArrayList<>();
    column.path("values").forEach(value -> values.add(value.isNull() ? "none" : value.asText()));
    return Terminal.clean(
        values.isEmpty()
            ? column.path("key").asText().replaceFirst("^label\\.", "")
            : String.join(" · ", values));
  }

  private static String cell(JsonNode column, JsonNode cell) {
    String text = cell.path("text").isNull() ? "" : Terminal.clean(cell.path("text").asText());
    String unit = column.path("unit").asText();
    if (unit.equals("text")) {
      return text.length() > WIDEST ? text.substring(0, WIDEST - 1) + "…" : text;
    }
    if (unit.equals("time")) {
      return day(text);
    }
    if (!cell.path("number").isNumber()) {
      return "–";
    }
    double number = cell.path("number").asDouble();
    return switch (unit) {
      case "share" -> share(column, number);
      case "seconds" -> length(number);
      default -> Long.toString(Math.round(number));
    };
  }

  /** Never rounded to all or none where it is not. */
  private static String share(JsonNode column, double share) {
    if (column.path("key").asText().equals("change")) {
      return String.format(Locale.ROOT, "%+.1f", share * 100);
    }
    double shown =
        share == 0 || share == 1 ? share * 100 : Math.min(99.9, Math.max(0.1, share * 100));
    return String.format(Locale.ROOT, "%.1f %%", shown);
  }

  private static String length(double seconds) {
    if (seconds < MINUTE) {
      return String.format(Locale.ROOT, "%.2f s", seconds);
    }
    return seconds < HOUR
        ? String.format(Locale.ROOT, "%.1f min", seconds / MINUTE)
        : String.format(Locale.ROOT, "%.1f h", seconds / HOUR);
  }

  private static String day(String moment) {
    return moment.length() < "2026-11-30".length()
        ? moment
        : moment.substring(0, "2026-11-30".length());
  }
}
