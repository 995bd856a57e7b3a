package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;

/** The acknowledgement of an upload, for people. */
public final class ReceiptPrinter {
  private final Terminal terminal;

  /** On that terminal. */
  public ReceiptPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** A stream's first run has nothing to be compared with; a name that is mistyped shows so. */
  private static String changes(JsonNode receipt) {
    String changes = Phrases.changes(receipt.path("changes"));
    if (receipt.path("number").asInt() != 1) {
      return changes;
    }
    String first = "the first run of " + receipt.path("stream").asText();
    return changes.equals(Phrases.NOTHING) ? first : first + ": " + changes;
  }

  /** What failed, new ones first, as far as the portal tells. */
  private void failing(JsonNode receipt) {
    JsonNode rows = receipt.path("failing");
    for (JsonNode row : rows) {
      new RunPrinter(terminal).brief(row);
    }
    JsonNode run = receipt.path("run");
    int all = run.path("failed").asInt() + run.path("errored").asInt() + run.path("setUps").asInt();
    if (!rows.isEmpty() && all > rows.size()) {
      terminal.line("  … and " + (all - rows.size()) + " more");
    }
    int quarantined = receipt.path("quarantined").path("failing").asInt();
    if (quarantined > 0) {
      terminal.line(
          "  "
              + quarantined
              + " of "
              + Phrases.plural(all, "failure")
              + (quarantined == 1 ? " is" : " are")
              + " in quarantine and not counted by --fail-on");
    }
  }

  /** Prints what is told otherwise than in the receipt, now that it is known who was renamed. */
  public void printAgain(JsonNode receipt, JsonNode known) {
    String changes = changes(known);
    if (!changes.equals(changes(receipt))) {
      terminal.line("  after a second look: " + changes);
      failing(known);
    }
  }

  /** Prints it: which run, what it holds, what changed, where to look. */
  public void print(JsonNode receipt) {
    String run = receipt.path("stream").asText() + "#" + receipt.path("number").asInt();
    if (receipt.path("duplicate").asBoolean()) {
      terminal.line(
          terminal.paint(run, Terminal.Paint.BOLD)
              + "  has these files already; nothing changed. If this is another run, name it"
              + " with --run KEY");
      terminal.line("  " + receipt.path("url").asText());
      return;
    }
    if (receipt.path("notice").isTextual()) {
      terminal.note(receipt.path("notice").asText());
    }
    for (JsonNode file : receipt.path("files")) {
      for (JsonNode problem : file.path("problems")) {
        terminal.note(file.path("file").asText() + ": " + problem.asText());
      }
    }
    JsonNode part = receipt.path("part");
    int files = receipt.path("files").size();
    terminal.line(
        terminal.paint(run, Terminal.Paint.BOLD)
            + "  "
            + Phrases.counts(terminal, part)
            + " ("
            + Phrases.plural(part.path("tests").asInt(), "test")
            + " in "
            + Phrases.plural(files, "file")
            + ")");
    if (receipt.path("open").asBoolean()) {
      terminal.line("  with the parts before it: " + Phrases.counts(terminal, receipt.path("run")));
    }
    terminal.line("  " + changes(receipt));
    failing(receipt);
    if (receipt.path("open").asBoolean()) {
      terminal.line(
          "  open: it takes more parts, until it has as many as it expects, is closed, or hears"
              + " nothing for a while");
    }
    terminal.line("  " + receipt.path("url").asText());
  }
}
