package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.List;

/** What is written about a run or a test, for people. */
public final class NotePrinter {
  private static final int MAX_EDITS = 10;

  private final Terminal terminal;

  /** On that terminal. */
  public NotePrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** The note, and its latest changes. */
  public void print(String title, JsonNode note, JsonNode edits) {
    terminal.line(terminal.paint(title, Terminal.Paint.BOLD));
    String words = words(note);
    if (!words.isEmpty()) {
      terminal.line("  " + words);
    }
    String description = note.path("description").asText("");
    description.lines().forEach(line -> terminal.line("  " + Terminal.clean(line)));
    if (words.isEmpty() && description.isEmpty()) {
      terminal.line("  nothing is written about it");
    }
    int shown = 0;
    for (JsonNode edit : edits) {
      if (shown++ == MAX_EDITS) {
        terminal.line("  … and " + (edits.size() - MAX_EDITS) + " earlier changes");
        break;
      }
      terminal.line("  " + terminal.paint(change(edit), Terminal.Paint.SLATE));
    }
  }

  /** Labels and tags of a run or note; empty for none. */
  static String words(JsonNode note) {
    List<String> words = new ArrayList<>();
    note.path("labels")
        .properties()
        .forEach(label -> words.add(label.getKey() + "=" + label.getValue().asText()));
    note.path("tags").forEach(tag -> words.add(tag.asText()));
    return Terminal.clean(String.join("  ", words));
  }

  private static String change(JsonNode edit) {
    String field = edit.path("field").asText();
    String what =
        field.equals("description")
            ? "description changed"
            : field
                + (edit.hasNonNull("result")
                    ? " of " + edit.path("resultName").asText(edit.path("result").asText())
                    : "")
                + ": "
                + edit.path("before").asText("none")
                + " → "
                + edit.path("after").asText("none");
    String reason = edit.path("reason").asText("");
    return RunPrinter.minute(edit.path("at").asText())
        + "  "
        + Terminal.clean(edit.path("by").asText())
        + "  "
        + Terminal.clean(what)
        + (reason.isEmpty() ? "" : "  (" + Terminal.clean(reason) + ")");
  }
}
