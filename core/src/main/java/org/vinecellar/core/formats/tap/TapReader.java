package org.vinecellar.core.formats.tap;

import com.google.re2j.Pattern;
import java.io.IOException;
import java.io.InputStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.TextLines;

/**
 * Reads TAP 12, 13 and 14: plans, subtests announced, bare or in braces, SKIP and TODO, YAML
 * diagnostics, comments behind a failure, and bailing out. Since TAP names no suite, the file's
 * name is the outermost one.
 */
public final class TapReader implements ResultReader {
  private static final Pattern VERSION = Pattern.compile("(?m)^TAP version [0-9]{1,3}\\s*$");
  private static final Pattern PLAN = Pattern.compile("(?m)^1\\.\\.[0-9]{1,18}\\s*(?:#.*)?$");
  private static final Pattern POINT =
      Pattern.compile("(?m)^ *(?:not )?ok(?: [0-9]{1,9}(?:\\s|$)| - | # |\\s*$)");
  private static final Pattern FIRST = Pattern.compile("(?:not )?ok 1(?:\\s.*)?");

  @Override
  public String format() {
    return "tap";
  }

  @Override
  public boolean recognises(FileHead head) {
    String text = head.text();
    if (head.isMarkup() || text.startsWith("{") || text.startsWith("[")) {
      return false;
    }
    int lineEnd = text.indexOf('\n');
    String first = lineEnd < 0 ? text : text.substring(0, lineEnd);
    return VERSION.matcher(text).find()
        || FIRST.matcher(first.strip()).matches()
        || (PLAN.matcher(text).find()
            && (POINT.matcher(text).find() || first.startsWith("1..0") || !head.whole()));
  }

  /**
   * Why a file that may well be meant as TAP is not taken for it; null when it is not like TAP. A
   * line that begins with “ok” may stand in any log.
   */
  public static @Nullable String refusal(FileHead head) {
    return POINT.matcher(head.text()).find()
        ? "looks like TAP, but has no plan (1..N), no “TAP version 14” at its head and no test 1 in"
            + " its first line, so nobody knows whether it is, or what is missing; let its writer"
            + " print a plan"
        : null;
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    TimedNames names = new TimedNames(handler);
    new TapParser(new TextLines(content, limits), suiteOf(fileName), limits, names).parse();
    names.end();
  }

  /** The file's own name, without directories and the usual endings. */
  static String suiteOf(String fileName) {
    String name = fileName.substring(fileName.replace('\\', '/').lastIndexOf('/') + 1);
    return name.replaceAll("(?i)(?<=.)(?:\\.(?:gz|tap|txt|log|out))+$", "");
  }
}
