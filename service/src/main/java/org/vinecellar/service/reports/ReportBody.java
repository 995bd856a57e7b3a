package org.vinecellar.service.reports;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.reports.Report;
import org.vinecellar.service.sheets.SheetBody;

/**
 * What happened over a time.
 *
 * @param from the first moment
 * @param to the first moment after it
 * @param filter of runs; empty for all
 */
@Schema(name = "Report")
public record ReportBody(
    String kind,
    String title,
    Instant from,
    Instant to,
    String filter,
    Instant madeAt,
    List<TableBody> tables) {
  /**
   * One of its tables.
   *
   * @param word by which it is asked for alone
   * @param note what has to be known to read it; empty for nothing
   */
  @Schema(name = "ReportTable")
  public record TableBody(String word, String title, String note, SheetBody sheet) {}

  static ReportBody of(Report report) {
    return new ReportBody(
        report.kind().word(),
        report.kind().title(),
        report.period().from(),
        report.period().to(),
        report.filter(),
        report.madeAt(),
        report.tables().stream()
            .map(
                table ->
                    new TableBody(
                        table.word(), table.title(), table.note(), SheetBody.of(table.sheet())))
            .toList());
  }
}
