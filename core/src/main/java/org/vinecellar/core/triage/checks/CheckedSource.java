package org.vinecellar.core.triage.checks;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.checks.Subject.Kind;

/**
 * What a line of source checks. Only a path to a value is a name: what stands alone, and what every
 * object has, would be the same in checks that have nothing to do with each other.
 */
public final class CheckedSource {
  private static final Pattern EXPECT =
      Pattern.compile(
          "\\bexpect(?:\\.\\w+)?\\((.{1,200}?)\\)\\s*\\.(?:(?:not|resolves|rejects|to)\\.)*(?:to|be|eq|have|contain)\\w*");

  private static final Pattern CALLED =
      Pattern.compile("\\b(?:self\\.)?(?:assert|expect)\\w*(?:\\.\\w+)?\\s*\\((.{1,250})\\)");

  private static final Pattern BARE = Pattern.compile("^assert (?:not )?(.{1,250})$");

  private static final Pattern SIDES =
      Pattern.compile(",\\s|\\s(?:===?|!==?|<=?|>=?|in|not in|is|is not|and|or|&&|\\|\\|)\\s");

  private static final Pattern KEY = Pattern.compile("\\[[\"']([A-Za-z_][\\w-]*)[\"']\\]");
  private static final Pattern INDEX = Pattern.compile("\\[\\d+\\]");

  private static final Pattern PATH =
      Pattern.compile("[A-Za-z_$][\\w$]*(?:\\(\\))?(?:\\.[A-Za-z_$][\\w$-]*(?:\\(\\))?)+");

  private static final Pattern AROUND =
      Pattern.compile("^(?:await |self\\.(?=\\w+\\.)|this\\.(?=\\w+\\.)|!)+");

  /** What every answer, page and list has. */
  private static final Set<String> OF_ALL =
      Set.of(
          """
          text html url length size count status status_code statuscode code value values body data
          exists ok state rows items name type message title json content keys result results error
          errors stdout stderr output exit_code exitcode returncode called call_count callcount
          headers first last id is_valid isvalid success current props mock calls innertext
          textcontent classname tostring str len shape columns empty"""
              .split("\\s+"));

  private CheckedSource() {}

  /** The name in a line of source; null when it has none. */
  public static @Nullable Subject in(String line) {
    Matcher expect = EXPECT.matcher(line);
    if (expect.find()) {
      return path(expect.group(1));
    }
    Matcher called = CALLED.matcher(line);
    Matcher bare = BARE.matcher(line);
    String checked = bare.find() ? bare.group(1) : called.find() ? called.group(1) : "";
    for (String side : SIDES.split(checked, 4)) {
      Subject found = path(side);
      if (found != null) {
        return found;
      }
    }
    return null;
  }

  private static @Nullable Subject path(String side) {
    String bare = AROUND.matcher(side.strip()).replaceFirst("");
    String plain = INDEX.matcher(KEY.matcher(bare).replaceAll(".$1")).replaceAll("");
    if (!PATH.matcher(plain).matches() || plain.startsWith("self.") || plain.startsWith("this.")) {
      return null;
    }
    String last = plain.substring(plain.lastIndexOf('.') + 1).replace("()", "");
    if (OF_ALL.contains(last.toLowerCase(Locale.ROOT))) {
      return null;
    }
    return new Subject(Kind.FIELD, plain, true);
  }
}
