package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Counts;

/** What files hold, without sending them. */
public final class ReportPrinter {
  private final Terminal terminal;

  /** On that terminal. */
  public ReportPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** One JSON object: {@code files}, each with counts and problems, and {@code total}. */
  public void json(UploadReport report) {
    ObjectNode root = JsonNodeFactory.instance.objectNode();
    ArrayNode files = root.putArray("files");
    for (FileReport file : report.files()) {
      ObjectNode node = files.addObject();
      node.put("file", file.file());
      node.put("format", file.format());
      counts(node, file.counts());
      ArrayNode problems = node.putArray("problems");
      file.problems().forEach(problems::add);
      if (file.error() != null) {
        node.put("error", file.error());
      }
    }
    counts(root.putObject("total"), report.total());
    terminal.json(root);
  }

  private static void counts(ObjectNode node, Counts counts) {
    node.put("tests", counts.tests())
        .put("passed", counts.passed())
        .put("failed", counts.failed())
        .put("errored", counts.errored())
        .put("skipped", counts.skipped())
        .put("notReached", counts.notReached())
        .put("retried", counts.retried())
        .put("setUps", counts.setUps());
  }

  /** A line for each file, its problems below it, and the sum. */
  public void text(UploadReport report) {
    for (FileReport file : report.files()) {
      if (file.error() != null) {
        terminal.error(file.file() + " " + file.error());
        continue;
      }
      terminal.line(file.file() + "  " + phrase(file.counts()));
      file.problems().forEach(problem -> terminal.note(file.file() + ": " + problem));
    }
    if (report.files().size() > 1) {
      terminal.line(report.files().size() + " files  " + phrase(report.total()));
    }
  }

  private String phrase(Counts counts) {
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    counts(node, counts);
    String retried = counts.retried() > 0 ? ", " + counts.retried() + " retried" : "";
    return Phrases.counts(terminal, node) + retried;
  }
}
