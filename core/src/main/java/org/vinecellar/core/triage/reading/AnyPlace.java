package org.vinecellar.core.triage.reading;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A place in code as somebody prints it whom nobody knows: a line that holds a path with a number
 * and one name, and beside them nothing but an address and small words.
 */
final class AnyPlace {
  private static final String LEAD =
      "^(?:[#\\[(]?\\d{1,3}[\\])]?[:.)]? +)?(?:0x[0-9a-f]{1,16} +)?(?:(?:at|from|in|by) +)?";
  private static final String PATH = "((?:[A-Za-z]:)?[^\\s:()'\"`,\\[\\]]{1,300}\\.[A-Za-z]{1,6})";

  /** What stands before a number in parentheses may be a call, but for its directory. */
  private static final String FILE =
      "((?:[A-Za-z]:)?[^\\s:()'\"`,\\[\\]]{0,300}[/\\\\][^\\s:()'\"`,\\[\\]/\\\\]{1,100}\\.[A-Za-z]{1,6})";

  private static final String PARENS = "\\((\\d{1,7})(?:, ?\\d{1,7})?\\)";
  private static final String NAME =
      "[`'\"]?([A-Za-z_$][\\w$.:<>~!?@#*&/-]{0,200}?(?<!:))[`'\"]?(?:\\(\\))?";

  /** {@code src/fare.x:12:3: 0x103f in priced (test)}. */
  private static final Pattern NUMBERED =
      Pattern.compile(
          LEAD
              + PATH
              + ":(\\d{1,7})(?::\\d{1,7})?:?,? +(?:0x[0-9a-f]{1,16}:? +)?(?:in|at) +"
              + NAME
              + "(?: +\\([^()]{1,60}\\))?$");

  /**
   * {@code src/fare.x:12:3: 0x103f in test.prices a fare (test)}: with an address it is no
   * sentence.
   */
  private static final Pattern ADDRESSED =
      Pattern.compile(
          LEAD
              + PATH
              + ":(\\d{1,7})(?::\\d{1,7})?:? +0x[0-9a-f]{1,16}:? +in +([^()\\n]{1,200}?)(?: +\\([^()]{1,60}\\))?$");

  /** {@code src/fare.x(12, 3) priced}. */
  private static final Pattern NAME_BEHIND =
      Pattern.compile(LEAD + FILE + PARENS + ":? +(?:in +)?" + NAME + "$");

  /** {@code priced src/fare.x(12, 3)}. */
  private static final Pattern NAME_BEFORE =
      Pattern.compile(LEAD + NAME + " +(?:(?:at|in) +)?" + FILE + PARENS + "$");

  private static final Pattern NO_NAME =
      Pattern.compile("(?i)(?:errors?|warning|note|fail(?:ed|ure)?|fatal|info|expected|actual)");

  private AnyPlace() {}

  static FrameReader.@Nullable Read read(String line) {
    if (line.length() > 400 || !hasNumber(line)) {
      return null;
    }
    Matcher numbered =
        line.contains(" in ") || line.contains(" at ") ? NUMBERED.matcher(line) : null;
    if (numbered != null && numbered.matches()) {
      return one(numbered.group(3), numbered.group(1), numbered.group(2));
    }
    Matcher addressed = line.contains(" 0x") ? ADDRESSED.matcher(line) : null;
    if (addressed != null && addressed.matches()) {
      return one(addressed.group(3), addressed.group(1), addressed.group(2));
    }
    Matcher behind = line.indexOf('(') > 0 ? NAME_BEHIND.matcher(line) : null;
    if (behind != null && behind.matches()) {
      return one(behind.group(3), behind.group(1), behind.group(2));
    }
    Matcher before = line.endsWith(")") ? NAME_BEFORE.matcher(line) : null;
    return before != null && before.matches()
        ? one(before.group(1), before.group(2), before.group(3))
        : null;
  }

  /** Whether a number stands behind a file's ending. */
  private static boolean hasNumber(String line) {
    for (int i = line.indexOf('.'); i >= 0; i = line.indexOf('.', i + 1)) {
      int end = i + 1;
      while (end < line.length() && Character.isLetter(line.charAt(end))) {
        end++;
      }
      boolean ends = end > i + 1 && end + 1 < line.length();
      if (ends
          && (line.charAt(end) == ':' || line.charAt(end) == '(')
          && Character.isDigit(line.charAt(end + 1))) {
        return true;
      }
    }
    return false;
  }

  private static FrameReader.@Nullable Read one(String name, String path, String line) {
    return NO_NAME.matcher(name).matches()
        ? null
        : new FrameReader.Read(Frame.of(name, path, Integer.parseInt(line)), false);
  }
}
