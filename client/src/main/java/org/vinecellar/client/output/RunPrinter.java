package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Streams and runs, for people. */
public final class RunPrinter {
  private static final int MAX_LINE = 160;
  private static final int MAX_DESCRIPTION = 5;
  private static final int MAX_SUITES = 10;

  private final Terminal terminal;

  /** On that terminal. */
  public RunPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** A line for each stream. */
  public void streams(JsonNode streams) {
    List<String[]> rows = new ArrayList<>();
    for (JsonNode stream : streams) {
      JsonNode run = stream.path("latest");
      rows.add(
          new String[] {
            stream.path("name").asText() + "#" + run.path("number").asInt(),
            time(run),
            Phrases.counts(terminal, run.path("counts"))
          });
    }
    table(rows);
    if (rows.isEmpty()) {
      terminal.line("no stream has a run yet; send one with vine push");
    }
  }

  /**
   * A line for each run.
   *
   * @param named whether its stream is said
   * @param more whether there may be others
   */
  public void runs(JsonNode runs, boolean named, boolean more) {
    List<String[]> rows = new ArrayList<>();
    for (JsonNode run : runs) {
      rows.add(
          new String[] {
            (named ? run.path("stream").asText() : "") + "#" + run.path("number").asInt(),
            time(run),
            Phrases.counts(terminal, run.path("counts"))
                + (run.path("open").asBoolean() ? "  (open)" : ""),
            Phrases.changes(run.path("changes"))
          });
    }
    table(rows);
    if (rows.isEmpty()) {
      terminal.line("no run fits the filter");
    } else if (more) {
      terminal.note("these are the newest " + rows.size() + "; --limit shows more of them");
    }
  }

  /**
   * A line for each test.
   *
   * @param more whether there may be others
   */
  public void tests(JsonNode tests, boolean more) {
    for (JsonNode test : tests) {
      StringBuilder tags = new StringBuilder();
      test.path("tags").forEach(tag -> tags.append("  #").append(tag.asText()));
      terminal.line(
          Terminal.clean(name(test))
              + terminal.paint(Terminal.clean(tags.toString()), Terminal.Paint.SLATE));
    }
    if (tests.isEmpty()) {
      terminal.line("no test fits");
    } else if (more) {
      terminal.note("these are the first " + tests.size() + "; --limit shows more of them");
    }
  }

  /** What a run came to. */
  public void head(JsonNode run) {
    String name = run.path("stream").asText() + "#" + run.path("number").asInt();
    terminal.line(
        terminal.paint(name, Terminal.Paint.BOLD)
            + "  "
            + Phrases.counts(terminal, run.path("counts")));
    int overruled = run.path("overruled").asInt();
    terminal.line(
        "  "
            + Phrases.changes(run.path("changes"))
            + (overruled > 0 ? ", " + overruled + " overruled" : ""));
    terminal.line(
        "  "
            + time(run)
            + ", "
            + Phrases.duration(run.path("testTimeMs").asDouble())
            + " of tests"
            + where(run));
    String words = NotePrinter.words(run);
    if (!words.isEmpty()) {
      terminal.line("  " + words);
    }
    run.path("description")
        .asText("")
        .lines()
        .limit(MAX_DESCRIPTION)
        .forEach(line -> terminal.line("  │ " + Terminal.clean(line)));
  }

  /**
   * One run: what it came to, how it came so, its outermost suites and what fails.
   *
   * @param look with run, parts, suites, lastGreen and failing
   */
  public void run(JsonNode look) {
    JsonNode run = look.path("run");
    JsonNode failing = look.path("failing");
    head(run);
    if (run.path("open").asBoolean()) {
      int parts = look.path("parts").size();
      terminal.line("  open with " + Phrases.plural(parts, "part") + ": others may still come");
    }
    for (JsonNode part : look.path("parts")) {
      if (part.path("brokenOff").asBoolean()) {
        terminal.line(
            terminal.paint("  broken off", Terminal.Paint.ORANGE)
                + ": “"
                + Terminal.clean(part.path("name").asText())
                + "” ended before its time; what was to come is not known");
      }
    }
    if (look.has("lastGreen")) {
      terminal.line("  " + lastGreen(look.path("lastGreen"), run.path("branch").asText("")));
    }
    suites(look.path("suites"));
    results(failing);
    int all =
        run.path("counts").path("failed").asInt() + run.path("counts").path("errored").asInt();
    if (all > failing.size()) {
      terminal.line("");
      terminal.line("… and " + (all - failing.size()) + " more; --limit shows more of them");
    }
  }

  private static String lastGreen(JsonNode green, String branch) {
    String on = branch.isEmpty() ? "" : " on " + Terminal.clean(branch);
    return green.isNull()
        ? "no green run" + on + " before it"
        : "last green" + on + ": #" + green.path("number").asInt() + ", " + time(green);
  }

  /** Those in which something fails, or all of them; one alone tells nothing. */
  private void suites(JsonNode suites) {
    if (suites.size() < 2) {
      return;
    }
    List<JsonNode> all = new ArrayList<>();
    suites.forEach(all::add);
    all.sort(Comparator.comparingInt(RunPrinter::failing).reversed());
    List<JsonNode> red = all.stream().filter(suite -> failing(suite) > 0).toList();
    List<JsonNode> order = red.isEmpty() ? all : red;
    List<String[]> rows = new ArrayList<>();
    for (JsonNode suite : order.subList(0, Math.min(order.size(), MAX_SUITES))) {
      String name = suite.path("name").asText();
      rows.add(
          new String[] {
            "  " + (name.isEmpty() ? "(no suite)" : Terminal.clean(shortened(name))),
            Phrases.counts(terminal, suite.path("counts"))
          });
    }
    terminal.line("");
    table(rows);
    if (order.size() > MAX_SUITES) {
      terminal.line("  … and " + (order.size() - MAX_SUITES) + " more suites");
    }
    int green = all.size() - order.size();
    if (green > 0) {
      terminal.line("  nothing failed in the " + Phrases.plural(green, "other suite"));
    }
  }

  private static int failing(JsonNode of) {
    JsonNode counts = of.path("counts");
    return counts.path("failed").asInt()
        + counts.path("errored").asInt()
        + counts.path("setUps").asInt();
  }

  /** Since when it fails; empty when nothing tells. */
  private static String since(JsonNode row) {
    if (row.path("change").asText("").equals("new failing")) {
      return "  (new)";
    }
    return row.path("since").isInt()
        ? "  (since #"
            + row.path("since").asInt()
            + (row.path("orLonger").asBoolean() ? " or longer)" : ")")
        : "";
  }

  /** Head of one run, and the results that fit a filter. */
  public void filtered(JsonNode run, JsonNode rows, boolean more) {
    head(run);
    results(rows);
    terminal.line("");
    if (rows.isEmpty()) {
      terminal.line("no result fits the filter");
    } else if (more) {
      terminal.line("these are the first " + rows.size() + "; --limit shows more of them");
    } else {
      terminal.line(rows.size() == 1 ? "1 result fits" : rows.size() + " results fit");
    }
  }

  private String outcome(JsonNode row) {
    return switch (row.path("outcome").asText()) {
      case "failed" -> terminal.paint("◆ failed ", Terminal.Paint.CLARET);
      case "errored" -> terminal.paint("▲ errored", Terminal.Paint.ORANGE);
      case "passed" -> terminal.paint("● passed ", Terminal.Paint.TEAL);
      case "skipped" -> terminal.paint("○ skipped", Terminal.Paint.SLATE);
      default -> terminal.paint("◌ not reached", Terminal.Paint.SLATE);
    };
  }

  /** One result in two short lines, for the log of a job. */
  void brief(JsonNode row) {
    boolean fresh = row.path("change").asText("").equals("new failing");
    terminal.line(
        "  " + outcome(row) + "  " + Terminal.clean(name(row)) + (fresh ? "  (new)" : ""));
    String line = row.path("firstLine").asText("");
    if (!line.isEmpty()) {
      terminal.line("             " + Terminal.clean(shortened(line)));
    }
  }

  private void results(JsonNode rows) {
    for (JsonNode row : rows) {
      terminal.line("");
      terminal.line(
          outcome(row)
              + "  "
              + Terminal.clean(name(row))
              + since(row)
              + "  "
              + terminal.paint(row.path("id").asText(), Terminal.Paint.SLATE));
      String line = row.path("firstLine").asText("");
      if (!line.isEmpty()) {
        terminal.line("           " + Terminal.clean(shortened(line)));
      }
      String cause = GroupPrinter.cause(row.path("cause"));
      if (!cause.isEmpty()) {
        terminal.line("           " + terminal.paint(shortened(cause), Terminal.Paint.SLATE));
      }
    }
  }

  private static String where(JsonNode run) {
    StringBuilder text = new StringBuilder();
    String commit = run.path("commit").asText("");
    if (!commit.isEmpty()) {
      text.append(", ").append(Terminal.clean(commit), 0, Math.min(12, commit.length()));
    }
    String branch = run.path("branch").asText("");
    if (!branch.isEmpty()) {
      text.append(" on ").append(Terminal.clean(branch));
    }
    return text.toString();
  }

  private static String name(JsonNode row) {
    StringBuilder name = new StringBuilder();
    JsonNode suite = row.path("suite");
    if (!suite.isEmpty()) {
      name.append(suite.get(suite.size() - 1).asText()).append(" › ");
    }
    return name.append(row.path("name").asText())
        .append(row.path("parameters").asText(""))
        .append(variant(row))
        .toString();
  }

  /** What tells a test apart from others of its name; empty for nothing. */
  private static String variant(JsonNode row) {
    List<String> words = new ArrayList<>();
    row.path("variant")
        .fields()
        .forEachRemaining(word -> words.add(word.getKey() + "=" + word.getValue().asText()));
    return words.isEmpty() ? "" : " {" + String.join(", ", words) + "}";
  }

  private static String shortened(String line) {
    return line.length() > MAX_LINE ? line.substring(0, MAX_LINE) + "…" : line;
  }

  private static String time(JsonNode run) {
    return minute(run.path("startedAt").asText());
  }

  /** A time of the API, to the minute. */
  static String minute(String iso) {
    return iso.length() >= 16 ? iso.substring(0, 16).replace('T', ' ') + " UTC" : iso;
  }

  private void table(List<String[]> rows) {
    int columns = rows.isEmpty() ? 0 : rows.get(0).length;
    int[] widths = new int[columns];
    for (String[] row : rows) {
      for (int i = 0; i < columns; i++) {
        widths[i] = Math.max(widths[i], visible(row[i]));
      }
    }
    for (String[] row : rows) {
      StringBuilder line = new StringBuilder();
      for (int i = 0; i < columns; i++) {
        line.append(row[i]);
        if (i + 1 < columns) {
          line.append(" ".repeat(widths[i] - visible(row[i]) + 2));
        }
      }
      terminal.line(line.toString());
    }
  }

  private static int visible(String text) {
    return text.replaceAll("\u001B\\[[0-9]*m", "").length();
  }
}
