package org.vinecellar.core.triage.reading;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What printers, runners and those who cut texts put around a line, taken off it. */
final class BareLine {
  /** How often something was tried, and for how long, before what was wrong is said. */
  private static final Pattern RETRIED =
      Pattern.compile(
          "^(?i:\\[?(?:attempt|retry|retrying|try|rerun)(?: |-|#| #)?\\d{1,3}(?: ?(?:/|of) ?\\d{1,3})?\\]?(?: failed)?:?\\]? +|still failing: +)(?=\\S)|(?:Timed? ?out retrying|Retried|Gave up|Still failing|Failed|Retry exhausted|Retries exhausted) (?:after|for) [\\d.,]+ ?(?:ms|s|secs?|seconds|times|attempts|tries|retries)[:;,] (?=\\S)");

  private static final List<String> TRIES = List.of("attempt", "retry", "try", "rerun", "still");

  private static final Pattern MARKED =
      Pattern.compile(
          "^\\[[\\w .:#/-]{1,40}\\]\\s+(?=at [\\w.$/]+|Caused by: |\\.\\.\\. \\d+ more|[\\w.$]{1,200}(?:Exception|Error)\\b)");

  private static final Pattern CUT =
      Pattern.compile(
          "\\s(?:\\[(?:…|\\.{3})\\]|…|\\.{3,4}|[\\[(<](?:… ?)?(?:truncated|cut|snip|omitted)[^\\])>]{0,40}[\\])>])$");

  /** Dots that lead from a name to its value. */
  private static final Pattern LEADERS = Pattern.compile("(?<=\\w) \\.{4,80} (?=\\S)");

  /** Python draws lines around errors that came together. */
  private static final Pattern GROUPED =
      Pattern.compile("^[ \\t]*(?:[+|](?: |$|(?=-))[ \\t]*)+(?:[+-][-+]* ?\\d{0,4} ?-*)?");

  /** What was to be done when it went wrong. */
  private static final Pattern DURING =
      Pattern.compile(
          "^(?:(?:(?:\\S{1,300}\\.swift|<unknown>):\\d+(?::\\d+)?: )?error: -\\[[\\w.]{1,200} \\w{1,200}\\] : )?(?:(?:(?:Parent )?[Ss]uite |Test |Keyword )?(?:[Ss]etup|[Tt]eardown) failed: +(?=\\S)|(?:XCTAssert\\w+ )?failed: +(?=caught error|threw error)){1,4}");

  /** A check that met an error, and tells of it: in quotes, or to the end of the line. */
  private static final Pattern MET =
      Pattern.compile(
          "^(?:(?:\\S{1,300}\\.swift|<unknown>):\\d+(?::\\d+)?: )?(?:[Cc]aught|threw) error:? +(?:\"(.*)\"\\.?(?: - .*)?|([A-Z]\\w*Error\\.\\w+.*))$");

  /** Where a panic of Rust that began in a line before ends. */
  private static final Pattern RUST_END =
      Pattern.compile("^((?!thread ').*)', \\S{1,300}\\.rs:\\d+:\\d+$");

  /** Where a step of a scenario stands. */
  private static final Pattern FEATURE =
      Pattern.compile("(?<=\\S)[ ]+\\([^\\s()]{1,300}\\.feature:\\d+(?::\\d+)?\\)$");

  /** How phones log what ended a program. */
  private static final String LOGGED = "AndroidRuntime: ";

  /** What failed, in brackets before the name of the test. */
  private static final Pattern BRACKETED =
      Pattern.compile("^\\[FAIL(?:ED)?(?::|\\. Reason:) ([^\\n]{2,400}?)\\] \\S.{0,200}$");

  /** Where it was thrown, between an error's type and what it says. */
  private static final Pattern TYPE_AT =
      Pattern.compile(
          "^([\\w.$]{3,200}(?:Error|Exception|Failure))(?:@[^\\s()]{1,300}\\(\\d{1,7}\\)| thrown (?:from|in|at) \\S{1,300},? (?:on |at )?line \\d{1,7}):");

  private static final String TRACED = "Error Trace:";

  private static final Pattern PLACE_ALONE =
      Pattern.compile("\\s*[^\\s:]+\\.[A-Za-z]\\w{0,5}:\\d{1,7}:");

  /** A case of an error, without what comes with it. */
  private static final Pattern CASE = Pattern.compile("^([A-Z]\\w*\\.[a-z]\\w*)\\(.*\\)$");

  private BareLine() {}

  /**
   * With a colon for dots that lead from a name to its value, and without the word before a place.
   */
  static String unled(String line) {
    int start = 0;
    int end = line.length();
    while (end > 0 && line.charAt(end - 1) <= ' ') {
      end--;
    }
    while (start < end && line.charAt(start) <= ' ') {
      start++;
    }
    if (line.startsWith(TRACED, start)) {
      return "\t" + line.substring(start + TRACED.length(), end).strip();
    }
    if (end > 0 && end < 400 && line.charAt(end - 1) == ':') {
      String bare = line.substring(0, end);
      return PLACE_ALONE.matcher(bare).matches() ? bare.substring(0, end - 1) : line;
    }
    return line.contains(" ....") ? LEADERS.matcher(line).replaceFirst(": ") : line;
  }

  /** Without how often it was tried. */
  static String untried(String line) {
    return mayBeRetried(line) ? RETRIED.matcher(line).replaceFirst("") : line;
  }

  /** Without what was going on when an error came, which is quoted then. */
  static String unmet(String line) {
    if (line.startsWith("[FAIL")) {
      return BRACKETED.matcher(line).replaceFirst("$1");
    }
    if (line.indexOf('@') > 0 || line.contains(" thrown ")) {
      Matcher typed = TYPE_AT.matcher(line);
      if (typed.find()) {
        return typed.replaceFirst("$1:");
      }
    }
    if (line.contains(".rs:") && line.contains("', ")) {
      return RUST_END.matcher(line).replaceFirst("$1");
    }
    if (line.endsWith(")") && line.contains(".feature:")) {
      return FEATURE.matcher(line).replaceFirst("");
    }
    if (!line.contains("failed: ") && !line.contains(" error")) {
      return line;
    }
    String bare = DURING.matcher(line).replaceFirst("");
    Matcher met = MET.matcher(bare);
    if (!met.matches()) {
      return bare;
    }
    String error = met.group(1) == null ? met.group(2) : met.group(1);
    return CASE.matcher(error).replaceFirst("$1");
  }

  /** Without the lines that are drawn around it; where an inner error begins, the word for that. */
  static String ungrouped(String line) {
    Matcher grouped = GROUPED.matcher(line);
    if (!grouped.lookingAt() || line.length() > FrameReader.MAX_LINE) {
      return line;
    }
    boolean begins = line.contains("- 1 -");
    String rest = line.substring(grouped.end());
    return begins ? "Caused by: " : rest.startsWith("File \"") ? "  " + rest : rest;
  }

  /** Without the thread or level in brackets that some printers put before each line. */
  static String unmarked(String line) {
    if (line.startsWith(LOGGED)) {
      return line.substring(LOGGED.length()).strip();
    }
    if (line.isEmpty() || line.charAt(0) != '[') {
      return line;
    }
    Matcher marked = MARKED.matcher(line);
    return marked.find() ? line.substring(marked.end()) : line;
  }

  /** Without the mark of those who cut a text. */
  static String uncut(String line) {
    if (line.isEmpty() || !mayBeCut(line)) {
      return line;
    }
    Matcher cut = CUT.matcher(line);
    return cut.find() && cut.start() > 0 ? line.substring(0, cut.start()) : line;
  }

  /** Whether it ends in dots, or in a bracket that stands by itself. */
  private static boolean mayBeCut(String line) {
    char last = line.charAt(line.length() - 1);
    if (last == '…' || last == '.') {
      return last == '…' || line.endsWith("...");
    }
    int at = "])>".indexOf(last);
    int open = at < 0 ? -1 : line.lastIndexOf("[(<".charAt(at));
    return open > 0 && line.length() - open < 60 && line.charAt(open - 1) == ' ';
  }

  private static boolean mayBeRetried(String line) {
    if (line.isEmpty()) {
      return false;
    }
    int start = line.charAt(0) == '[' ? 1 : 0;
    for (String word : TRIES) {
      if (line.regionMatches(true, start, word, 0, word.length())) {
        return true;
      }
    }
    return isNumberBehind(line, " after ") || isNumberBehind(line, " for ");
  }

  private static boolean isNumberBehind(String line, String word) {
    for (int at = line.indexOf(word); at > 0; at = line.indexOf(word, at + 1)) {
      int next = at + word.length();
      // Retrying, retried, gave up, exhausted.
      boolean tried = "gdp".indexOf(line.charAt(at - 1)) >= 0;
      if (tried && next < line.length() && ".,0123456789".indexOf(line.charAt(next)) >= 0) {
        return true;
      }
    }
    return false;
  }
}
