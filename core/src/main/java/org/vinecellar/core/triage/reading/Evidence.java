package org.vinecellar.core.triage.reading;

import static java.util.stream.Collectors.joining;

import java.util.List;
import java.util.regex.Pattern;

/** Tells lines that say what went wrong from those that stand around it. */
final class Evidence {
  /** Lines of logs: a time and a level. */
  private static final Pattern LOG =
      Pattern.compile(
          "^\\[?\\d{2,4}[-/:.]\\d{2}[-/:.]\\d{2}[T ,.:\\d]*(?:Z|[+-]\\d\\d:?\\d\\d)?\\]?[ \\[|:-]*(?:.{0,60}?)\\b(?:INFO|DEBUG|TRACE|WARN|WARNING|ERROR|FATAL|SEVERE|FINE|info|debug|trace|warn|error)\\b.*"
              + "|^(?!WARNING: (?:DATA RACE|\\w+Sanitizer))\\[?(?:INFO|DEBUG|TRACE|WARN|WARNING)\\b[\\]: ].*"
              + "|^level=(?:info|debug|warn|error) .*|^time=\\S+ level=.*|^\\{\"(?:level|time|ts|timestamp)\":.*");

  private static final Pattern PASSED =
      Pattern.compile(
          "^(?:[✓✔√☑] .*|ok \\d+.*|\\[ ?(?:PASS(?:ED)?|OK|  OK)  ?\\].*|PASS(?:ED)?[: ].*|.{1,300}(?:\\.\\.\\. ?(?:ok|passed|done)|# ?passed)(?: in [\\d.]+m?s)?"
              + "|(?:Given|When|Then|And|But|\\*) .{1,300} (?:PASSED|passed)(?: in [\\d.]+s)?)$");

  /** Between the frames of pytest and of other printers of source. */
  private static final Pattern RULE =
      Pattern.compile("^[-_=~*^.+|# ]{3,}$|^={10,} logs ={10,}$|^(?:_ )+_?$");

  private static final Pattern OMITTED =
      Pattern.compile(
          "^(?:[│├└ ─]{1,60}(?:\\[\\d{1,12}\\] |← ).*|\\[Previous line repeated \\d+ more times?\\]|=== (?:RUN|PAUSE|CONT|NAME) +\\S+|--- (?:FAIL|PASS|SKIP): \\S+ \\([\\d.]+s\\)|Error:[ \\t]+Received unexpected error:|\\d{1,4}\\) test .{1,300} \\([\\w.]{1,200}\\)|Test: {2,}\\t?\\w+|Test: ?\\t\\w+|\\.\\.\\. ?\\d+ (?:more|common|frames?|lines?).*|\\[\\d+ frames? (?:omitted|truncated).*|SUMMARY: .*|note: (?:run with|[Ss]ome details).*|stack backtrace:|Stack trace:|Backtrace:|Stacktrace:|stack traceback:|\\(most recent call last\\):|Traceback \\(most recent call last\\):|exit status \\d|Thread \\d+ Crashed:.*|on \\S{1,200} line \\d+(?:,.*)?:?|CallStack \\(from HasCallStack\\):|▆|For (?:more|further) information\\b.*|.*and \\d+ more(?: frames?)?\\.?|\\^+|(?:(?:Parent )?[Ss]uite |Test |Keyword )?(?:[Ss]etup|[Tt]eardown) failed:|Several failures occurred:|Loc: \\[Unknown file\\(0\\)\\]|at <external code>|at <\\d+ internal (?:lines|calls)>)$");

  /** One of these begins each of them but those that end with "more". */
  private static final List<String> OMITTED_STARTS =
      List.of(
          "...",
          "│",
          "├",
          "└",
          "=== ",
          "--- ",
          "Error:",
          "[",
          "Test",
          "SUMMARY: ",
          "note: ",
          "stack ",
          "Stack",
          "Backtrace:",
          "(most",
          "Traceback",
          "exit status ",
          "Thread ",
          "on ",
          "CallStack",
          "▆",
          "For ",
          "^",
          "Parent ",
          "Suite ",
          "suite ",
          "Keyword ",
          "Setup ",
          "setup ",
          "Teardown ",
          "teardown ",
          "Several failures",
          "Loc: ",
          "at <");

  /** A line of source with its number, as runners of JavaScript show it. */
  private static final Pattern SOURCE =
      Pattern.compile(
          "^\\s*(?:> ?)?\\d{1,6} ?[|│].*|^\\s+[|│]\\s*\\^.*|^>\\s{2,}\\S.*|^\\s*\\d{1,6} {2,}.*[;{}()].*");

  private Evidence() {}

  static boolean isNone(String plain) {
    char first = plain.charAt(0);
    if (Character.isLetter(first)
        && first != 'P'
        && first != 'l'
        && first != 't'
        && first != 'o'
        && plain.length() > 400) {
      return false;
    }
    return "-_=~*^.+|#".indexOf(first) >= 0 && RULE.matcher(plain).matches()
        || mayBeOmitted(plain) && OMITTED.matcher(plain).matches()
        || (plain.length() < 600
            && (mayHavePassed(first, plain) && PASSED.matcher(plain).matches()
                || mayBeLog(first) && LOG.matcher(plain).matches()));
  }

  /** With these such a line begins. */
  private static final String OMITTED_FIRSTS =
      OMITTED_STARTS.stream().map(start -> start.substring(0, 1)).distinct().collect(joining());

  private static boolean mayBeOmitted(String plain) {
    if (OMITTED_FIRSTS.indexOf(plain.charAt(0)) >= 0) {
      for (String start : OMITTED_STARTS) {
        if (plain.startsWith(start)) {
          return true;
        }
      }
    }
    return plain.indexOf(" more") > 0 || plain.indexOf(") test ") > 0;
  }

  private static boolean mayHavePassed(char first, String plain) {
    return "✓✔√☑o[P".indexOf(first) >= 0
        || plain.endsWith("ok")
        || plain.endsWith("passed")
        || plain.endsWith("done")
        || plain.endsWith("s") && plain.contains(" in ");
  }

  private static boolean mayBeLog(char first) {
    return first >= '0' && first <= '9' || "[IDTWlt{".indexOf(first) >= 0;
  }

  static boolean isSource(String line) {
    return line.length() < 600 && mayBeSource(line) && SOURCE.matcher(line).matches();
  }

  private static boolean mayBeSource(String line) {
    for (int i = 0; i < line.length(); i++) {
      char c = line.charAt(i);
      if (c != ' ' && c != '\t') {
        return c == '>' || c == '|' || c == '│' || c >= '0' && c <= '9';
      }
    }
    return false;
  }

  static boolean isPytestPlace(String plain) {
    int py = plain.indexOf(".py:");
    return py > 0 && plain.indexOf(' ') != 0 && plain.indexOf(": ", py) >= py + 4
        || (py > 0 && plain.endsWith(":"));
  }
}
