package org.vinecellar.service.reports;

import java.io.IOException;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.service.sheets.SheetWords;

/** Results by outcome as bars, a drawing in SVG; what fails stands on the axis. */
final class OutcomeChart {
  private static final int WIDTH = 960;
  private static final int HEIGHT = 220;
  private static final int LEFT = 56;
  private static final int BELOW = 24;
  private static final int ABOVE = 12;
  private static final int LABEL = 84;
  private static final double GAP = 0.22;

  /** Each as wide as it is high, so that none is told by its colour alone. */
  private static final Map<String, String> GLYPHS =
      Map.of(
          "passed", "<circle cx=\"6\" cy=\"6\" r=\"4\"/>",
          "failed", "<path d=\"M6 1 11 6 6 11 1 6Z\"/>",
          "errored", "<path d=\"M6 1 11 11H1Z\"/>",
          "skipped", "<circle class=\"ring\" cx=\"6\" cy=\"6\" r=\"4\"/>",
          "not reached", "<circle class=\"ring dash\" cx=\"6\" cy=\"6\" r=\"4\"/>");

  private OutcomeChart() {}

  static boolean isOutcome(String key) {
    return GLYPHS.containsKey(key);
  }

  /** The sign of an outcome. */
  static String glyph(String key) {
    return "<svg class=\"glyph "
        + name(key)
        + "\" viewBox=\"0 0 12 12\" aria-hidden=\"true\">"
        + GLYPHS.get(key)
        + "</svg>";
  }

  private static String name(String key) {
    return key.replace(' ', '-');
  }

  /** Whether a sheet tells outcomes step by step. */
  static boolean fits(Sheet sheet) {
    return sheet.rows().size() > 1
        && sheet.columns().get(0).key().equals("at")
        && sheet.columns().stream().anyMatch(column -> column.key().equals("passed"));
  }

  static void write(Sheet sheet, Where where, Writer out) throws IOException {
    List<Integer> columns = columns(sheet);
    double most = Math.max(1, most(sheet, columns));
    double round = round(most);
    double step = (double) (WIDTH - LEFT) / sheet.rows().size();
    legend(sheet, columns, out);
    out.write(
        "<svg class=\"chart\" viewBox=\"0 0 "
            + WIDTH
            + " "
            + HEIGHT
            + "\" role=\"group\""
            + " aria-label=\"Results by outcome, step by step\">\n");
    out.write(PATTERNS);
    for (int i = 0; i <= 2; i++) {
      double y = y(round * i / 2, round);
      out.write(
          text("<path class=\"rule\" d=\"M%d %.1fH%d\"/>", LEFT, y, WIDTH)
              + text("<text class=\"n\" x=\"%d\" y=\"%.1f\">", LEFT - 8, y + 4)
              + SheetWords.count(Math.round(round * i / 2))
              + "</text>\n");
    }
    double labelled = -LABEL;
    for (int row = 0; row < sheet.rows().size(); row++) {
      double x = LEFT + row * step;
      bar(sheet, row, columns, x, step, round, where, out);
      if (x - labelled >= LABEL && x + LABEL <= WIDTH + LABEL / 2.0) {
        labelled = x;
        String day = SheetWords.cell(sheet.columns().get(0), sheet.rows().get(row).cells().get(0));
        out.write(
            text("<text x=\"%.1f\" y=\"%d\">", x, HEIGHT - 6)
                + ReportPage.escaped(day.replaceAll(" \\d{4}$", ""))
                + "</text>\n");
      }
    }
    out.write("</svg>\n");
  }

  private static void bar(
      Sheet sheet,
      int row,
      List<Integer> columns,
      double x,
      double step,
      double round,
      Where where,
      Writer out)
      throws IOException {
    double below = 0;
    for (int at : columns) {
      Sheet.Cell cell = sheet.rows().get(row).cells().get(at);
      Double number = cell.number();
      if (number == null || number == 0) {
        continue;
      }
      String key = sheet.columns().get(at).key();
      double top = y(below + number, round);
      double height = Math.max(1, y(below, round) - top);
      below += number;
      String of = SheetWords.cell(sheet.columns().get(0), sheet.rows().get(row).cells().get(0));
      String said = of + ": " + SheetWords.count(Math.round(number)) + " " + key;
      Sheet.Link link = cell.link();
      out.write(link == null ? "" : "<a href=\"" + ReportPage.escaped(where.link(link)) + "\">");
      out.write(
          text(
                  "<rect class=\"%s\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\">",
                  name(key), x + step * GAP / 2, top, Math.max(1, step * (1 - GAP)), height)
              + "<title>"
              + ReportPage.escaped(said)
              + "</title></rect>"
              + (link == null ? "" : "</a>")
              + "\n");
    }
  }

  private static void legend(Sheet sheet, List<Integer> columns, Writer out) throws IOException {
    out.write("<ul class=\"legend\">");
    for (int at : columns) {
      String key = sheet.columns().get(at).key();
      out.write("<li>" + glyph(key) + ReportPage.escaped(key) + "</li>");
    }
    out.write("</ul>\n");
  }

  private static List<Integer> columns(Sheet sheet) {
    List<Integer> columns = new ArrayList<>();
    for (String key : ReportPage.worstFirst()) {
      for (int i = 0; i < sheet.columns().size(); i++) {
        if (sheet.columns().get(i).key().equals(key)) {
          columns.add(i);
        }
      }
    }
    return columns;
  }

  private static double most(Sheet sheet, List<Integer> columns) {
    double most = 0;
    for (Sheet.Row row : sheet.rows()) {
      double sum = 0;
      for (int at : columns) {
        Double number = row.cells().get(at).number();
        sum += number == null ? 0 : number;
      }
      most = Math.max(most, sum);
    }
    return most;
  }

  /** The next 2, 4, 6, 8, 10, 20, 40 … */
  private static double round(double most) {
    double unit = Math.pow(10, Math.floor(Math.log10(most)));
    double twice = 2 * unit;
    double round = Math.ceil(most / twice) * twice;
    return unit < 1 ? 2 : Math.max(2, round);
  }

  private static double y(double value, double round) {
    return HEIGHT - BELOW - value / round * (HEIGHT - BELOW - ABOVE);
  }

  private static String text(String form, Object... of) {
    return String.format(Locale.ROOT, form, of);
  }

  /** What tells bars apart where colours do not. */
  private static final String PATTERNS =
      "<defs>"
          + "<pattern id=\"p-failed\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\""
          + " patternTransform=\"rotate(45)\"><path class=\"failed\" d=\"M0 0H6V6H0Z\"/>"
          + "<path class=\"light\" d=\"M0 0V6\"/></pattern>"
          + "<pattern id=\"p-errored\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\">"
          + "<path class=\"errored\" d=\"M0 0H6V6H0Z\"/><path class=\"dot\" d=\"M3 1 5 5H1Z\"/>"
          + "</pattern>"
          + "<pattern id=\"p-skipped\" width=\"5\" height=\"5\" patternUnits=\"userSpaceOnUse\">"
          + "<path class=\"skipped\" d=\"M0 0H5V5H0Z\"/><circle class=\"dot\" cx=\"2.5\""
          + " cy=\"2.5\" r=\"1.1\"/></pattern>"
          + "<pattern id=\"p-not-reached\" width=\"4\" height=\"4\""
          + " patternUnits=\"userSpaceOnUse\"><path class=\"not-reached\" d=\"M0 0H4V4H0Z\"/>"
          + "<path class=\"light\" d=\"M0 2H4\"/></pattern></defs>\n";
}
