package org.vinecellar.service.ingest;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.service.quarantine.InRunBody;
import org.vinecellar.service.runs.ResultBody;
import org.vinecellar.service.web.ChangesBody;
import org.vinecellar.service.web.CountsBody;

/**
 * The acknowledgement of an upload: it is kept, and visible.
 *
 * @param url of the run in the console
 * @param duplicate whether the run had these files before, so that nothing changed
 * @param part what this upload holds
 * @param run what the run holds now
 * @param failing results of the run that failed: up to ten, new ones first
 * @param quarantined how many of all that failed fail no gate
 * @param notice what its sender should know of the run
 */
@Schema(name = "Receipt")
public record ReceiptBody(
    String url,
    String stream,
    int number,
    boolean duplicate,
    boolean open,
    CountsBody part,
    CountsBody run,
    ChangesBody changes,
    List<FileBody> files,
    List<ResultBody> failing,
    InRunBody quarantined,
    @Schema(nullable = true) @Nullable String notice) {

  /** One file of it. */
  @Schema(name = "FileReport")
  public record FileBody(
      String file,
      @Schema(nullable = true) @Nullable String format,
      CountsBody counts,
      boolean brokenOff,
      List<String> problems) {
    static FileBody of(FileReport report) {
      return new FileBody(
          report.file(),
          report.format(),
          CountsBody.of(report.counts()),
          report.brokenOff(),
          report.problems());
    }
  }

  static ReceiptBody of(
      Receipt receipt, FailingResults.Failing failing, String project, String base) {
    return new ReceiptBody(
        base + "/" + project + "/runs/" + receipt.stream() + "/" + receipt.number(),
        receipt.stream(),
        receipt.number(),
        receipt.duplicate(),
        receipt.open(),
        CountsBody.of(receipt.part()),
        CountsBody.of(receipt.run()),
        ChangesBody.of(receipt.changes()),
        receipt.files().stream().map(FileBody::of).toList(),
        failing.rows().stream().map(ResultBody::of).toList(),
        InRunBody.of(failing.quarantined()),
        receipt.notice());
  }
}
