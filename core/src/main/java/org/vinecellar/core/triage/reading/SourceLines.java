package org.vinecellar.core.triage.reading;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Source that runners print beside a place: what it checks is often told nowhere else. */
final class SourceLines {
  private static final int LONGEST = 300;

  /** As runners of JavaScript show it; the line that is meant has a mark. */
  private static final Pattern NUMBERED =
      Pattern.compile("^\\s*(> ?)?\\d{1,6} ?[|│] ?(.*)$", Pattern.DOTALL);

  private static final Pattern CARET = Pattern.compile("^[|│]\\s*\\^\\s*$");

  /** What is written beside source: below a mark, or as a value that came or was wanted. */
  private static final Pattern LABEL =
      Pattern.compile(
          "^\\s*[|│] +(?:[\\^~]{1,80} +(\\S.*)|((?:actual|expected|got|found|received)\\b.*)|((?:GET|POST|PUT|PATCH|DELETE|HEAD) (?:https?:|/).*))$",
          Pattern.DOTALL);

  private static final Pattern CHECK =
      Pattern.compile("\\b(?:expect\\w*|assert\\w*|self\\.assert\\w+)(?:\\.\\w+)?\\s*\\(|^assert ");

  private String last = "";
  private String check = "";

  /** The last that was meant and checks something; empty when none. */
  String check() {
    return check;
  }

  /** Whether a line shows source and says nothing of itself. */
  boolean isOne(String line) {
    if (!Evidence.isSource(line)) {
      return false;
    }
    Matcher numbered = NUMBERED.matcher(line);
    if (numbered.matches()) {
      last = numbered.group(2).strip();
      if (numbered.group(1) != null) {
        meant(last);
      }
    }
    return true;
  }

  /**
   * What a line beside source says, with the source that it is said of.
   *
   * @return empty when it says nothing
   */
  String label(String line) {
    if (line.indexOf('|') < 0 && line.indexOf('│') < 0 || line.length() > 2 * LONGEST) {
      return "";
    }
    Matcher label = LABEL.matcher(line);
    if (!label.matches()) {
      return "";
    }
    if (label.group(3) != null) {
      return label.group(3).strip();
    }
    String said = (label.group(1) == null ? label.group(2) : label.group(1)).strip();
    String whole = last.isEmpty() || last.length() > LONGEST ? said : last + "\n" + said;
    last = "";
    return whole;
  }

  /** A line without words may point at something in the one above it. */
  void pointed(String plain) {
    if (CARET.matcher(plain).matches()) {
      meant(last);
    }
  }

  /** A line of pytest: what failed has a mark, or is all that is shown. */
  void ofPytest(String plain) {
    if (plain.startsWith(">")) {
      check = "";
      meant(plain.substring(1).strip());
    } else {
      meant(plain);
    }
  }

  /** A line below its place, as Python prints it: the innermost counts, whatever it does. */
  void below(String plain) {
    if (hasLetter(plain)) {
      check = "";
      meant(plain);
    }
  }

  /** A place that is further in, whose source follows. */
  void further() {
    check = "";
  }

  /** Node quotes the call of its checks. */
  void said(String plain) {
    if (plain.startsWith("assert") && plain.endsWith(")")) {
      meant(plain);
    }
  }

  private void meant(String line) {
    boolean may = line.contains("expect") || line.contains("assert");
    if (may && line.length() < LONGEST && CHECK.matcher(line).find()) {
      check = line;
    }
  }

  private static boolean hasLetter(String line) {
    for (int i = 0; i < line.length(); i++) {
      if (Character.isLetter(line.charAt(i))) {
        return true;
      }
    }
    return false;
  }
}
