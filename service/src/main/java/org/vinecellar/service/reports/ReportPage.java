package org.vinecellar.service.reports;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.reports.Report;
import org.vinecellar.service.sheets.SheetWords;

/**
 * A report as one page of HTML that needs nothing else: no script, no other file, no network. What
 * it links to is in the portal.
 */
final class ReportPage {
  /** A table of few rows and many columns, read from top to bottom. */
  private static final String WHOLE = "all";

  private static final int BLOCKS = 3;

  private final Report report;
  private final Where where;
  private final Writer out;

  private ReportPage(Report report, Where where, Writer out) {
    this.report = report;
    this.where = where;
    this.out = out;
  }

  /** Writes it, and leaves the stream open. */
  static void write(Report report, Where where, OutputStream bytes) throws IOException {
    Writer out = new OutputStreamWriter(bytes, StandardCharsets.UTF_8);
    new ReportPage(report, where, out).page();
    out.flush();
  }

  private void page() throws IOException {
    String title = report.kind().title();
    out.write(
        "<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n"
            + "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n"
            + "<meta http-equiv=\"Content-Security-Policy\""
            + " content=\"default-src 'none'; style-src 'unsafe-inline'\">\n"
            + "<meta name=\"referrer\" content=\"no-referrer\">\n<title>");
    text(title + ", " + where.name() + ", " + Where.days(report));
    out.write("</title>\n<style>\n");
    out.write(ReportStyle.CSS);
    out.write("</style>\n</head>\n<body>\n<header>\n<p class=\"of\">");
    text(where.name());
    out.write("</p>\n<h1>");
    text(title);
    out.write("</h1>\n<p>");
    text(Where.days(report));
    out.write("</p>\n");
    if (!report.filter().isBlank()) {
      out.write("<p>Of runs that fit <code>");
      text(report.filter());
      out.write("</code></p>\n");
    }
    if (report.tables().size() > 1) {
      contents();
    }
    out.write("</header>\n<main>\n");
    for (Report.Table table : report.tables()) {
      section(table);
    }
    out.write("</main>\n<footer><p>Made on ");
    text(report.madeAt().toString().substring(0, "2026-01-01T00:00".length()).replace('T', ' '));
    out.write(" UTC by <a href=\"");
    text(where.portal() + "/" + where.project() + "/reports");
    out.write("\">Vine Cellar</a>. Days are those of UTC.</p></footer>\n</body>\n</html>\n");
  }

  private void contents() throws IOException {
    out.write("<nav aria-label=\"Tables\"><ul>");
    for (Report.Table table : report.tables()) {
      out.write("<li><a href=\"#" + table.word() + "\">");
      text(table.title());
      out.write("</a></li>");
    }
    out.write("</ul></nav>\n");
  }

  private void section(Report.Table table) throws IOException {
    Sheet sheet = table.sheet();
    out.write("<section id=\"" + table.word() + "\">\n<h2>");
    text(table.title());
    out.write("</h2>\n");
    if (!table.note().isBlank()) {
      out.write("<p class=\"note\">");
      text(table.note());
      out.write("</p>\n");
    }
    if (sheet.rows().isEmpty()) {
      out.write("<p class=\"note\">Nothing.</p>\n</section>\n");
      return;
    }
    if (OutcomeChart.fits(sheet)) {
      OutcomeChart.write(sheet, where, out);
      out.write("<details><summary>As a table</summary>\n");
      table(sheet);
      out.write("</details>\n");
    } else if (table.word().equals(WHOLE)) {
      turned(sheet);
    } else {
      table(sheet);
    }
    if (sheet.left() != 0) {
      out.write("<p class=\"note\">");
      text(
          sheet.left() > 0
              ? SheetWords.count(sheet.left()) + " more rows are not told here."
              : "More follow that are not told here.");
      out.write("</p>\n");
    }
    out.write("</section>\n");
  }

  private void table(Sheet sheet) throws IOException {
    out.write("<div class=\"wide\" tabindex=\"0\" role=\"group\"><table>\n<thead><tr>");
    for (Sheet.Column column : sheet.columns()) {
      out.write("<th scope=\"col\"" + side(column) + ">");
      text(SheetWords.head(column));
      out.write("</th>");
    }
    out.write("</tr></thead>\n<tbody>\n");
    for (Sheet.Row row : sheet.rows()) {
      out.write("<tr>");
      for (int i = 0; i < sheet.columns().size(); i++) {
        cell(sheet.columns().get(i), row.cells().get(i), i == 0);
      }
      out.write("</tr>\n");
    }
    out.write("</tbody>\n</table></div>\n");
  }

  /** Its columns as rows, side by side in blocks of a few. */
  private void turned(Sheet sheet) throws IOException {
    int each = (sheet.columns().size() - 1 + BLOCKS - 1) / BLOCKS;
    out.write("<div class=\"blocks\">\n");
    for (int from = 1; from < sheet.columns().size(); from += each) {
      block(sheet, from, Math.min(sheet.columns().size(), from + each));
    }
    out.write("</div>\n");
  }

  private void block(Sheet sheet, int from, int to) throws IOException {
    out.write("<table class=\"turned\">\n<thead><tr><td></td>");
    for (Sheet.Row row : sheet.rows()) {
      out.write("<th scope=\"col\" class=\"n\">");
      text(SheetWords.cell(sheet.columns().get(0), row.cells().get(0)));
      out.write("</th>");
    }
    out.write("</tr></thead>\n<tbody>\n");
    for (int i = from; i < to; i++) {
      Sheet.Column column = sheet.columns().get(i);
      out.write("<tr><th scope=\"row\">");
      glyph(column.key());
      text(SheetWords.head(column));
      out.write("</th>");
      for (Sheet.Row row : sheet.rows()) {
        cell(column, row.cells().get(i), false);
      }
      out.write("</tr>\n");
    }
    out.write("</tbody>\n</table>\n");
  }

  private void glyph(String key) throws IOException {
    if (OutcomeChart.isOutcome(key)) {
      out.write(OutcomeChart.glyph(key));
    }
  }

  private static boolean isText(Sheet.Column column) {
    return column.unit() == Sheet.Unit.TEXT || column.unit() == Sheet.Unit.TIME;
  }

  private static String side(Sheet.Column column) {
    return isText(column) ? "" : " class=\"n\"";
  }

  private void cell(Sheet.Column column, Sheet.Cell cell, boolean first) throws IOException {
    String words = SheetWords.cell(column, cell);
    out.write(first ? "<th scope=\"row\"" : "<td" + side(column));
    Double low = cell.low();
    Double high = cell.high();
    if (low != null && high != null) {
      out.write(" title=\"");
      text(SheetWords.percent(low) + " to " + SheetWords.percent(high) + " in 19 of 20 cases");
      out.write("\"");
    }
    out.write(">");
    Sheet.Link link = cell.link();
    // What counts nothing leads to an empty list: that is no use on paper, nor here.
    Double number = cell.number();
    boolean leads = link != null && (number == null || number != 0);
    if (leads && link != null) {
      out.write("<a href=\"");
      text(where.link(link));
      out.write("\">");
    }
    text(words);
    out.write((leads ? "</a>" : "") + (first ? "</th>" : "</td>"));
  }

  private void text(@Nullable String text) throws IOException {
    out.write(escaped(text));
  }

  /** As text, or between quotes. */
  static String escaped(@Nullable String text) {
    StringBuilder escaped = new StringBuilder();
    for (char c : (text == null ? "" : text).toCharArray()) {
      switch (c) {
        case '&' -> escaped.append("&amp;");
        case '<' -> escaped.append("&lt;");
        case '>' -> escaped.append("&gt;");
        case '"' -> escaped.append("&quot;");
        case '\'' -> escaped.append("&#39;");
        default -> escaped.append(c < ' ' && c != '\n' && c != '\t' ? '\uFFFD' : c);
      }
    }
    return escaped.toString();
  }

  /** The columns of a sheet that are outcomes, from those that fail on. */
  static List<String> worstFirst() {
    return List.of("errored", "failed", "not reached", "skipped", "passed");
  }
}
