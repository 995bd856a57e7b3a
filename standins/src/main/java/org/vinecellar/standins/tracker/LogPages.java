package org.vinecellar.standins.tracker;

import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What people see of the log. */
final class LogPages {
  private static final String HEAD =
      """
      <!doctype html><html lang="en"><meta charset="utf-8">
      <meta name="viewport" content="width=device-width"><title>%s</title><style>
      body{margin:0;font:15px/1.5 Georgia,serif;background:#eef3f4;color:#16303a}
      header{background:#16303a;color:#eef3f4;padding:.8rem 1.5rem;display:flex;gap:1.5rem;align-items:baseline}
      header a{color:inherit;text-decoration:none;font-size:1.3rem}
      header small{opacity:.8}
      main{max-width:60rem;margin:1.2rem auto;padding:0 1.5rem}
      form.line{display:flex;gap:.5rem;margin:0 0 1rem}
      input,select,textarea,button{font:inherit;padding:.25rem .5rem;border:1px solid #7b949c;border-radius:3px;background:#fff;color:inherit}
      input[type=text],textarea{flex:1;min-width:0;width:100%%;box-sizing:border-box}
      button{background:#16303a;color:#fff;cursor:pointer}
      table{width:100%%;border-collapse:collapse;background:#fff}
      td{padding:.45rem .7rem;border-bottom:1px solid #d5e0e3;vertical-align:baseline}
      td:first-child,td:last-child{white-space:nowrap;width:1%%}
      a{color:#0b5a78}
      .closed{color:#5b7079}
      pre{white-space:pre-wrap;overflow-wrap:anywhere;background:#fff;padding:1rem;border:1px solid #d5e0e3;font:13px/1.45 monospace}
      h1{font-size:1.4rem;margin:.2rem 0 .6rem} h2{font-size:1rem;margin:1.4rem 0 .4rem}
      .row{display:flex;gap:.5rem;flex-wrap:wrap;align-items:center;margin:.6rem 0}
      </style><header><a href="/">Harbour log</a><small>a stand-in for a tracker: nothing here is real</small></header><main>
      """;

  private LogPages() {}

  static String list(List<LogEntry> entries, String words, Mood mood) {
    StringBuilder page = new StringBuilder(String.format(HEAD, "Harbour log"));
    page.append("<form class=line><input type=text name=words aria-label=Words value=\"")
        .append(safe(words))
        .append("\" placeholder=\"Words to look for\"><button>Look</button></form>");
    page.append("<table>");
    for (LogEntry entry : entries) {
      page.append(entry.isClosed() ? "<tr class=closed><td>" : "<tr><td>")
          .append(link(entry.key()))
          .append("<td>")
          .append(safe(entry.title()))
          .append("<td>")
          .append(safe(entry.state()))
          .append("</tr>");
    }
    page.append("</table>");
    if (entries.isEmpty()) {
      page.append("<p>No entry.</p>");
    }
    page.append("<h2>Write an entry</h2><form class=line method=post action=/make>")
        .append(
            "<input type=text name=title aria-label=Title required><button>Write</button></form>")
        .append(
            "<h2>How the log behaves to programs</h2><form class=line method=post action=/mood>")
        .append("<select name=mood aria-label=Mood>")
        .append(
            Arrays.stream(Mood.values())
                .map(one -> option(one.name(), one.words(), one == mood))
                .collect(Collectors.joining()))
        .append("</select><button>So be it</button></form>");
    return page.append("</main>").toString();
  }

  static String entry(@Nullable LogEntry entry, String key) {
    if (entry == null) {
      return String.format(HEAD, "Harbour log")
          + "<p>There is no entry "
          + safe(key)
          + ".</p></main>";
    }
    StringBuilder page = new StringBuilder(String.format(HEAD, safe(entry.key())));
    page.append("<p>").append(safe(entry.key())).append(", written ").append(safe(entry.madeAt()));
    if (entry.closedAt() != null) {
      page.append(", ")
          .append(safe(entry.state()))
          .append(" since ")
          .append(safe(entry.closedAt()));
    }
    page.append("<h1>").append(safe(entry.title())).append("</h1>");
    page.append("<div class=row><form method=post action=/stand>")
        .append(hidden(entry))
        .append("<select name=state aria-label=State>")
        .append(
            LogEntry.STATES.stream()
                .map(state -> option(state, state, state.equals(entry.state())))
                .collect(Collectors.joining()))
        .append("</select> <button>So it stands</button></form>")
        .append("<form method=post action=/lose>")
        .append(hidden(entry))
        .append("<button>Tear it out</button></form></div>");
    if (!entry.text().isEmpty()) {
      page.append("<pre>").append(safe(entry.text())).append("</pre>");
    }
    page.append("<h2>Said</h2>");
    for (String said : entry.said()) {
      page.append("<pre>").append(safe(said)).append("</pre>");
    }
    page.append("<form method=post action=/say>")
        .append(hidden(entry))
        .append("<textarea name=text rows=3 aria-label=Say required></textarea>")
        .append("<div class=row><button>Say it</button></div></form>");
    return page.append("</main>").toString();
  }

  private static String hidden(LogEntry entry) {
    return "<input type=hidden name=key value=\"" + safe(entry.key()) + "\">";
  }

  private static String option(String value, String words, boolean chosen) {
    return "<option value=\"" + safe(value) + "\"" + (chosen ? " selected>" : ">") + safe(words);
  }

  private static String link(String key) {
    return "<a href=\"/look/" + safe(key) + "\">" + safe(key) + "</a>";
  }

  private static String safe(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;")
        .replace("'", "&#39;");
  }
}
