package org.vinecellar.core.traces;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/** Tells own frames from those of frameworks in traces of several languages. */
public final class Traces {
  /** Lines after this many are not told apart. */
  private static final int MAX_LINES = 2_000;

  private static final Pattern JVM_FRAME = Pattern.compile("^\\s*at [^\\s(]{1,400}\\(.*");
  private static final Pattern SCRIPT_FRAME = Pattern.compile("^\\s*at .{0,400}:\\d+:\\d+\\)?.*");
  private static final Pattern PYTHON_FRAME =
      Pattern.compile("^\\s*File \"[^\"]{1,400}\", line \\d+.*|^[^\\s:]{1,400}\\.py:\\d+:.*");
  private static final Pattern PATH_FRAME =
      Pattern.compile(
          "^\\s*(?:#\\d+ )?[^\\s:()]{1,400}\\.(?:php|rb|go|cc|cpp|c|h|rs|cs|kt)[:(]\\d+.*");
  private static final Pattern OMITTED = Pattern.compile("^\\s*\\.\\.\\. \\d+ (?:more|common).*");

  private static final Pattern FRAMEWORK =
      Pattern.compile(
          "^\\s*at (?:[\\w.]{1,60}(?:@[\\w.-]{1,30})?/)?(?:java\\.|javax\\.|jdk\\.|sun\\.|com\\.sun\\.|org\\.junit\\.|junit\\.|"
              + "org\\.testng\\.|org\\.apache\\.maven\\.|org\\.gradle\\.|org\\.assertj\\.|org\\.hamcrest\\.|"
              + "org\\.mockito\\.|org\\.opentest4j\\.|kotlin\\.|scala\\.|groovy\\.|org\\.codehaus\\.groovy\\.|"
              + "io\\.cucumber\\.|org\\.openqa\\.|com\\.intellij\\.|worker\\.org\\.gradle).*"
              + "|.*(?:node:internal|node_modules|\\(internal/|site-packages|/dist-packages/|lib/python\\d|"
              + "/_pytest/|/pluggy/|/vendor/phpunit/|/usr/share/php/|/gems/|<frozen |/usr/lib/go|/rustc/).*");

  private Traces() {}

  /**
   * The trace line by line.
   *
   * @param trace any text
   * @return as many lines as the text has
   */
  public static List<TraceLine> lines(String trace) {
    List<TraceLine> lines = new ArrayList<>();
    for (String line : trace.split("\n", -1)) {
      String text = line.endsWith("\r") ? line.substring(0, line.length() - 1) : line;
      boolean tell = lines.size() < MAX_LINES && text.length() < 2_000;
      lines.add(new TraceLine(tell ? kind(text) : TraceLine.Kind.TEXT, text));
    }
    return lines;
  }

  private static TraceLine.Kind kind(String line) {
    if (OMITTED.matcher(line).matches()) {
      return TraceLine.Kind.FRAMEWORK;
    }
    boolean frame =
        JVM_FRAME.matcher(line).matches()
            || SCRIPT_FRAME.matcher(line).matches()
            || PYTHON_FRAME.matcher(line).matches()
            || PATH_FRAME.matcher(line).matches();
    if (!frame) {
      return TraceLine.Kind.TEXT;
    }
    return FRAMEWORK.matcher(line).matches() ? TraceLine.Kind.FRAMEWORK : TraceLine.Kind.OWN;
  }
}
