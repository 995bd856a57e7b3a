package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.history.ImportPlan.PlannedRun;

/** What an import is going to send, and what came of it, for people. */
public final class ImportPrinter {
  private static final int EXAMPLES = 3;

  private final Terminal terminal;

  /** On that terminal. */
  public ImportPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /**
   * The plan.
   *
   * @param left paths that the layout does not match
   */
  public void plan(List<PlannedRun> runs, List<String> left) {
    runs.stream()
        .map(PlannedRun::stream)
        .distinct()
        .sorted()
        .forEach(
            stream -> {
              List<PlannedRun> own = runs.stream().filter(r -> r.stream().equals(stream)).toList();
              terminal.line(
                  terminal.paint(stream, Terminal.Paint.BOLD)
                      + "  "
                      + Phrases.plural(own.size(), "run")
                      + " from "
                      + minute(own.get(0).at())
                      + " to "
                      + minute(own.get(own.size() - 1).at())
                      + ", "
                      + Phrases.plural(own.stream().mapToInt(PlannedRun::files).sum(), "file"));
            });
    if (!left.isEmpty()) {
      terminal.note(
          Phrases.plural(left.size(), "file")
              + " left out, since the layout does not match: "
              + String.join(", ", left.subList(0, Math.min(EXAMPLES, left.size())))
              + (left.size() > EXAMPLES ? " …" : ""));
    }
  }

  /**
   * A line for an upload that was taken.
   *
   * @param part its name; null for none
   */
  public void receipt(JsonNode receipt, Instant at, @Nullable String part) {
    terminal.line(
        "  "
            + receipt.path("stream").asText()
            + "#"
            + receipt.path("number").asInt()
            + "  "
            + minute(at)
            + "  "
            + (part == null ? "" : Terminal.clean(part) + "  ")
            + (receipt.path("duplicate").asBoolean()
                ? "was there already"
                : Phrases.counts(terminal, receipt.path("part"))));
  }

  /** How it ended. */
  public void end(JsonNode sent, int refused) {
    int known = 0;
    for (JsonNode receipt : sent) {
      known += receipt.path("duplicate").asBoolean() ? 1 : 0;
    }
    terminal.line(
        Phrases.plural(sent.size() - known, "upload")
            + " sent"
            + (known > 0 ? ", " + known + " there already" : "")
            + (refused > 0 ? ", " + refused + " refused" : ""));
  }

  private static String minute(Instant at) {
    return RunPrinter.minute(at.toString());
  }
}
