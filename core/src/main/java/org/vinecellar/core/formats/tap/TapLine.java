package org.vinecellar.core.formats.tap;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestResult;

/** One line of TAP by the grammar of TAP 14, read as leniently as its producers write it. */
sealed interface TapLine {
  /** How many blanks stand before it. */
  int indent();

  /** {@code 1..N}, with the reason when nothing is planned. */
  record Plan(int indent, long planned, @Nullable String reason) implements TapLine {}

  /**
   * {@code ok} or {@code not ok}.
   *
   * @param number null when it has none
   * @param name without the dash before it; may be empty
   * @param directive {@code SKIP} or {@code TODO}; null for none
   * @param reason what follows the directive; may be empty
   * @param micros as told behind the name ({@code # time=1.2ms}); negative when not told
   * @param opens whether a brace begins a nested document behind it
   */
  record Point(
      int indent,
      boolean ok,
      @Nullable String number,
      String name,
      @Nullable String directive,
      String reason,
      long micros,
      boolean opens)
      implements TapLine {
    Point(
        int indent,
        boolean ok,
        @Nullable String number,
        String name,
        @Nullable String directive,
        String reason) {
      this(indent, ok, number, name, directive, reason, TestResult.NO_DURATION, false);
    }

    Point named(String other) {
      return new Point(indent, ok, number, other, directive, reason, micros, opens);
    }
  }

  /** {@code Bail out!}, with its reason, which may be empty. */
  record Bail(int indent, String reason) implements TapLine {}

  /** {@code # Subtest: NAME}, which announces a nested document. */
  record Subtest(int indent, String name) implements TapLine {}

  /** Another comment, without its mark. */
  record Comment(int indent, String text) implements TapLine {}

  /**
   * Version and pragmas.
   *
   * @param version 0 for a pragma
   */
  record Header(int indent, int version) implements TapLine {}

  /** A brace that ends a nested document, or begins one behind the diagnostics of its point. */
  record Brace(int indent, boolean opens) implements TapLine {}

  /** What is no TAP: something that was printed. */
  record Other(int indent, String text) implements TapLine {}

  /** Longer lines are not looked into: as names they are refused, as output kept. */
  int LONGEST = 1 << 16;

  int MAX_DIGITS = 9;

  Pattern PLAN = Pattern.compile("1\\.\\.([0-9]{1,18})\\s*(?:#\\s*(.*))?");
  Pattern DIRECTIVE = Pattern.compile("(?i)^(.*?)(?:^|\\s)#\\s*(skip|todo)\\S*\\s*(.*)$");
  Pattern VERSION = Pattern.compile("TAP version ([0-9]{1,3})\\s*");
  Pattern TIME =
      Pattern.compile("^(.*?)(?:^|\\s)#\\s*time=([0-9]{1,12}(?:\\.[0-9]{1,9})?)(ms|s)\\s*$");
  Pattern SUBTEST = Pattern.compile("#\\s+Subtest: (.*)");

  /** Tells what kind of line it is. */
  static TapLine of(String line) {
    int indent = 0;
    while (indent < line.length() && line.charAt(indent) == ' ') {
      indent++;
    }
    String text = line.substring(indent);
    if (text.length() > LONGEST) {
      boolean point = text.startsWith("ok") || text.startsWith("not ok");
      return point
          ? new Point(indent, text.startsWith("ok"), null, text, null, "")
          : new Other(indent, text);
    }
    if (text.startsWith("1..")) {
      Matcher plan = PLAN.matcher(text);
      if (plan.matches()) {
        return new Plan(indent, Long.parseLong(plan.group(1)), plan.group(2));
      }
    }
    int verdict = verdictEnd(text);
    if (verdict > 0) {
      return point(indent, text, verdict);
    }
    if (text.startsWith("#")) {
      Matcher subtest = SUBTEST.matcher(text);
      return subtest.matches()
          ? new Subtest(indent, unescaped(subtest.group(1).strip()))
          : new Comment(indent, text.substring(1));
    }
    if (text.strip().equals("}") || text.strip().equals("{")) {
      return new Brace(indent, text.startsWith("{"));
    }
    if (text.startsWith("Bail out!")) {
      return new Bail(indent, text.substring(9).strip());
    }
    Matcher version = VERSION.matcher(text);
    if (version.matches()) {
      return new Header(indent, Integer.parseInt(version.group(1)));
    }
    return text.startsWith("pragma ") ? new Header(indent, 0) : new Other(indent, text);
  }

  /** Where {@code ok} or {@code not ok} ends as a word; -1 when the line begins with neither. */
  private static int verdictEnd(String text) {
    int end = text.startsWith("ok") ? 2 : text.startsWith("not ok") ? 6 : -1;
    return end < 0 || (end < text.length() && isWord(text.charAt(end))) ? -1 : end;
  }

  private static boolean isWord(char c) {
    return Character.isLetterOrDigit(c) || c == '_';
  }

  private static Point point(int indent, String text, int verdict) {
    int from = verdict;
    while (from < text.length() && Character.isWhitespace(text.charAt(from))) {
      from++;
    }
    int end = from;
    while (end < text.length() && end - from < MAX_DIGITS && isDigit(text.charAt(end))) {
      end++;
    }
    boolean numbered = end > from && (end == text.length() || !isWord(text.charAt(end)));
    String number = numbered ? text.substring(from, end) : null;
    String rest = text.substring(numbered ? end : from);
    boolean opens = rest.endsWith(" {");
    if (opens) {
      rest = rest.substring(0, rest.length() - 2).stripTrailing();
    }
    long micros = TestResult.NO_DURATION;
    Matcher timed = rest.indexOf('#') < 0 ? null : TIME.matcher(rest);
    if (timed != null && timed.matches()) {
      rest = timed.group(1);
      double time = Double.parseDouble(timed.group(2));
      micros = Math.round(time * ("s".equals(timed.group(3)) ? 1_000_000 : 1000));
    }
    String directive = null;
    String reason = "";
    Matcher marked = rest.indexOf('#') < 0 ? null : DIRECTIVE.matcher(rest);
    if (marked != null && marked.matches()) {
      rest = marked.group(1);
      directive = marked.group(2).toUpperCase(Locale.ROOT);
      reason = marked.group(3).strip();
    }
    String name = rest.strip();
    if (name.equals("-") || name.startsWith("- ")) {
      name = name.substring(1).strip();
    }
    return new Point(
        indent, verdict == 2, number, unescaped(name), directive, reason, micros, opens);
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  private static String unescaped(String text) {
    return text.indexOf('\\') < 0 ? text : text.replace("\\#", "#").replace("\\\\", "\\");
  }
}
