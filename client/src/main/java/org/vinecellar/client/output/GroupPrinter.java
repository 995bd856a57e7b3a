package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.Locale;

/** Failure groups, for people. */
public final class GroupPrinter {
  private static final int MAX_TITLE = 110;
  private static final int MAX_TESTS = 10;
  private static final int MAX_COMMENT = 80;

  private final Terminal terminal;

  /** On that terminal. */
  public GroupPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** What there is to sort, over all runs. */
  public void desk(JsonNode desk) {
    JsonNode sums = desk.path("sums");
    for (JsonNode group : desk.path("groups")) {
      JsonNode last = group.path("last");
      line(
          group,
          Phrases.plural(group.path("tests").asInt(), "test")
              + " in "
              + Phrases.plural(group.path("runs").asInt(), "run")
              + ", last in "
              + last.path("stream").asText()
              + "#"
              + last.path("number").asInt()
              + (group.path("returned").asBoolean() ? ", returned after it was mended" : "")
              + (group.path("disputed").asBoolean() ? ", disputed: nothing is carried" : "")
              + (group.path("assigned").isTextual()
                  ? ", with " + group.path("assigned").asText()
                  : ""));
    }
    int unsorted = sums.path("unsorted").asInt();
    int results = sums.path("results").asInt();
    int explained = results - sums.path("open").asInt();
    terminal.line("");
    terminal.line(
        (unsorted == 0 ? "nothing to sort" : Phrases.plural(unsorted, "group") + " to sort")
            + "; "
            + explained
            + " of "
            + Phrases.plural(results, "failure")
            + " explained");
    int grouping = sums.path("grouping").asInt();
    if (grouping > 0) {
      terminal.note(Phrases.plural(grouping, "run") + " still being grouped; there may be more");
    }
  }

  /** The groups of one run. */
  public void ofRun(JsonNode groups) {
    for (JsonNode group : groups.path("groups")) {
      line(group, Phrases.plural(group.path("tests").asInt(), "test") + seen(group.path("seen")));
    }
    int open = groups.path("open").asInt();
    int results = groups.path("results").asInt();
    if (results > 0) {
      terminal.line("");
      terminal.line(
          Phrases.plural(results, "failure")
              + " in "
              + Phrases.plural(groups.path("total").asInt(), "group")
              + (open == 0 ? ", all explained" : ", " + open + " unsorted"));
      int notCompared = groups.path("notCompared").asInt();
      if (notCompared > 0) {
        terminal.line(
            "so many different errors: "
                + Phrases.plural(notCompared, "failure")
                + " not compared by words; causes may be more than one group");
      }
    } else {
      terminal.line("no failure of this run is grouped");
    }
  }

  private void line(JsonNode group, String beside) {
    int open = group.path("open").asInt();
    terminal.line(
        String.format(Locale.ROOT, "%6d  ", open > 0 ? open : group.path("results").asInt())
            + terminal.paint(title(group), open > 0 ? Terminal.Paint.BOLD : Terminal.Paint.SLATE)
            + "  "
            + terminal.paint("group " + group.path("group").asInt(), Terminal.Paint.SLATE));
    terminal.line(
        "        "
            + said(group.path("said"))
            + tickets(group.path("tickets"))
            + ", "
            + Terminal.clean(beside));
  }

  /** One group, whole. */
  public void whole(JsonNode detail) {
    JsonNode group = detail.path("line");
    line(
        group,
        Phrases.plural(group.path("results").asInt(), "result")
            + " of "
            + Phrases.plural(group.path("tests").asInt(), "test")
            + " in "
            + Phrases.plural(group.path("runs").asInt(), "run"));
    terminal.line(
        "        one group: " + Terminal.clean(group.path("sentence").asText().replace("`", "")));
    suggestion(detail.path("suggestion"));
    terminal.line("");
    for (JsonNode stream : detail.path("streams")) {
      JsonNode before = stream.path("before");
      terminal.line(
          "  "
              + Terminal.clean(stream.path("stream").asText())
              + ": since "
              + commit(stream.path("since"))
              + (before.isObject() ? ", not in " + commit(before) : "")
              + (stream.path("gone").asBoolean() ? ", gone after " : ", still in ")
              + "#"
              + stream.path("last").path("number").asInt());
    }
    terminal.line("");
    int told = 0;
    for (JsonNode test : detail.path("tests")) {
      if (told++ == MAX_TESTS) {
        terminal.line(
            "  … and "
                + (group.path("tests").asInt() - MAX_TESTS)
                + " more tests; --json has more");
        break;
      }
      terminal.line(
          String.format(Locale.ROOT, "%5d× ", test.path("results").asInt())
              + Terminal.clean(test.path("name").asText()));
    }
  }

  /** What is likely to explain it, should something be. */
  private void suggestion(JsonNode suggestion) {
    if (suggestion.isObject()) {
      JsonNode like = suggestion.path("like");
      int of = suggestion.path("of").asInt();
      terminal.line(
          "        perhaps "
              + Terminal.clean(like.path("said").path("category").asText())
              + ", as group "
              + like.path("group").asInt()
              + " ("
              + Math.round(100 * like.path("likeness").asDouble())
              + " % the same words; "
              + (of == 0
                  ? "not tried before"
                  : "right " + suggestion.path("right").asInt() + " of " + of + " times")
              + "): "
              + title(like));
    }
  }

  private static String commit(JsonNode run) {
    String commit = run.path("commit").asText("");
    return "#"
        + run.path("number").asInt()
        + (commit.isEmpty()
            ? ""
            : " (" + Terminal.clean(commit.substring(0, Math.min(12, commit.length()))) + ")");
  }

  private static String title(JsonNode group) {
    String title = Terminal.clean(group.path("title").path("text").asText());
    return title.length() > MAX_TITLE ? title.substring(0, MAX_TITLE) + "…" : title;
  }

  /** What explains failures, or that nothing does. */
  private static String said(JsonNode said) {
    if (!said.isObject()) {
      return "unsorted";
    }
    String comment = said.path("comment").asText("").lines().findFirst().orElse("");
    return Terminal.clean(
        said.path("category").asText()
            + " ("
            + by(said)
            + ")"
            + (comment.isEmpty()
                ? ""
                : ": "
                    + (comment.length() > MAX_COMMENT
                        ? comment.substring(0, MAX_COMMENT) + "…"
                        : comment)));
  }

  /** As in “, LOG-2 (done, but it still fails)”; empty for none. */
  private static String tickets(JsonNode tickets) {
    StringBuilder told = new StringBuilder();
    for (JsonNode ticket : tickets) {
      String state = ticket.path("state").asText("not asked yet");
      told.append(", ")
          .append(ticket.path("key").asText("new ticket"))
          .append(" (")
          .append(
              switch (ticket.path("mismatch").asText("")) {
                case "lost" -> "not in the tracker any more";
                case "still-fails" -> state + ", but it still fails";
                case "not-seen" -> state + ", but not seen for long";
                default -> state;
              })
          .append(')');
    }
    return Terminal.clean(told.toString());
  }

  private static String by(JsonNode said) {
    String by = said.path("by").asText();
    return switch (said.path("origin").asText()) {
      case "hand" -> "by " + by;
      case "rule" -> "by the rule “" + by + "”";
      default -> said.path("origin").asText();
    };
  }

  private static String seen(JsonNode seen) {
    if (!seen.isObject()) {
      return "";
    }
    return seen.path("here").asBoolean()
        ? ", first seen in this run"
        : ", seen since " + seen.path("stream").asText() + "#" + seen.path("run").asInt();
  }

  /** Why one result fails; empty while that is not known. */
  static String cause(JsonNode cause) {
    return cause.isObject()
        ? said(cause.path("said"))
            + tickets(cause.path("tickets"))
            + ", group "
            + cause.path("group").asInt()
            + (cause.path("returned").asBoolean() ? ", came back after it was over" : "")
            + Terminal.clean(seen(cause.path("seen")))
        : "";
  }
}
