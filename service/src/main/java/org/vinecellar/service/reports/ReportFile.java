package org.vinecellar.service.reports;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.reports.Report;
import org.vinecellar.service.sheets.SheetFile;

/** A report as a file. */
enum ReportFile {
  /** RFC 4180, UTF-8, with a heading: one of its tables. */
  CSV("text/csv; charset=utf-8") {
    @Override
    void write(Report report, String table, Where where, ObjectMapper json, OutputStream out)
        throws IOException {
      Report.Table one = report.table(table);
      SheetFile.CSV.write(one.title(), one.sheet(), out);
    }
  },
  /** Office Open XML (ECMA-376), a sheet for each table. */
  XLSX("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet") {
    @Override
    void write(Report report, String table, Where where, ObjectMapper json, OutputStream out)
        throws IOException {
      Map<String, Sheet> sheets = new LinkedHashMap<>();
      report.tables().forEach(one -> sheets.put(one.title(), one.sheet()));
      SheetFile.workbook(sheets, out);
    }
  },
  /** GitHub Flavored Markdown. */
  MD("text/markdown; charset=utf-8") {
    @Override
    void write(Report report, String table, Where where, ObjectMapper json, OutputStream out)
        throws IOException {
      Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
      writer.write("# " + report.kind().title() + "\n\n" + where.name() + ", ");
      writer.write(Where.days(report) + "\n");
      if (!report.filter().isBlank()) {
        writer.write("\nOf runs that fit " + code(report.filter()) + "\n");
      }
      for (Report.Table one : report.tables()) {
        writer.write("\n## " + one.title() + "\n\n");
        if (!one.note().isBlank()) {
          writer.write(one.note() + "\n\n");
        }
        writer.flush();
        SheetFile.MD.write(one.title(), one.sheet(), out);
        if (one.sheet().left() != 0) {
          writer.write("\nMore follow that are not told here.\n");
        }
      }
      writer.flush();
    }
  },
  /** As the API tells it. */
  JSON("application/json") {
    @Override
    void write(Report report, String table, Where where, ObjectMapper json, OutputStream out)
        throws IOException {
      json.writeValue(out, ReportBody.of(report));
    }
  },
  /** One page that needs nothing else. */
  HTML("text/html; charset=utf-8") {
    @Override
    void write(Report report, String table, Where where, ObjectMapper json, OutputStream out)
        throws IOException {
      ReportPage.write(report, where, out);
    }
  };

  private final String type;

  ReportFile(String type) {
    this.type = type;
  }

  /** Its media type. */
  String type() {
    return type;
  }

  /** What its name ends in. */
  String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  static Optional<ReportFile> ofWord(String word) {
    return Arrays.stream(values()).filter(one -> one.word().equals(word)).findFirst();
  }

  /**
   * Writes it.
   *
   * @param table the word of the one that is written, where a file has one only; blank for the
   *     first
   */
  abstract void write(Report report, String table, Where where, ObjectMapper json, OutputStream out)
      throws IOException;

  /** In more backticks than there are in it (CommonMark 0.31, section 6.1). */
  private static String code(String text) {
    String fence = "`";
    while (text.contains(fence)) {
      fence += "`";
    }
    return fence + " " + text.replaceAll("\\R", " ") + " " + fence;
  }
}
