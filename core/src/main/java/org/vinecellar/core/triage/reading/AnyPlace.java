package org.vinecellar.core.triage.reading;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.reading.FrameReader.Read;

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

  /** {@code src/fare.x:12 pure int fares.priced(int) [0x103f]}: whatever stands before the name. */
  private static final Pattern SIGNED =
      Pattern.compile(
          "^(?:"
              + PATH
              + ":(\\d{1,7})|\\?\\?:\\?) (?:[\\w@*&<>!\\[\\]().]{1,60} ){0,8}?([A-Za-z_$][\\w$.:~!]{1,200})(?:\\(.{0,400}\\)(?:\\.[\\w.!]{1,80}\\(.{0,200}\\))?)?(?: const)? \\[0x[0-9a-f]{1,16}\\]$");

  /** {@code function: priced file: fares.x line: 12}, with the values in any order. */
  private static final Pattern FUNCTION_OF =
      Pattern.compile(
          "\\b(?:callable|function|func|method|procedure|routine|fn)(?:_?[Nn]ame)?[\"']?\\s?(?:=>|[:=])\\s?[\"'<]{0,2}([A-Za-z_$][\\w$.:/-]{0,150})");

  private static final Pattern FILE_OF =
      Pattern.compile(
          "\\b(?:file|path)(?:_?[Nn]ame)?[\"']?\\s?(?:=>|[:=])\\s?[\"'<]{0,2}([^\\s\"'>,]{1,300}\\.\\w{1,5})\\b");

  private static final Pattern LINE_OF =
      Pattern.compile(
          "\\bline(?:_?(?:[Nn]umber|[Nn]o|[Nn]um))?[\"']?\\s?(?:=>|[:=])\\s?[\"']?(\\d{1,7})\\b");

  /** {@code at skerrow.desk:priced(fares.x:12)}. */
  private static final Pattern CALLED =
      Pattern.compile(
          "^(?:at )?[\\w.$]{1,100}:([A-Za-z_$][\\w$]{0,80})\\(([\\w./-]{1,200}\\.[a-z]{1,5}):(\\d{1,7})\\)$");

  /** {@code at fares::priced}: names whose parts no sentence joins so. */
  private static final Pattern JOINED =
      Pattern.compile(
          "^at ([A-Za-z_$][\\w$]{0,80}(?:(?:::|->|#)[A-Za-z_$~][\\w$]{0,80}){1,6})(?:\\(.{0,200}\\))?$");

  /** {@code src/fare.x(12, 3) priced}. */
  private static final Pattern NAME_BEHIND =
      Pattern.compile(LEAD + FILE + PARENS + ":? +(?:in +)?" + NAME + "$");

  /** {@code priced src/fare.x(12, 3)}. */
  private static final Pattern NAME_BEFORE =
      Pattern.compile(LEAD + NAME + " +(?:(?:at|in) +)?" + FILE + PARENS + "$");

  /** {@code 0x103f in fares.priced at fares.adb:12}. */
  private static final Pattern NAMED_AT =
      Pattern.compile(
          "^(?:\\[[^\\]]{1,300}\\] )?(?:0x[0-9a-f]{1,16} +)?(?:in )?([A-Za-z_$][\\w$.:~]{0,200}) at "
              + PATH
              + ":(\\d{1,7})(?::\\d{1,7})?$");

  /**
   * {@code in method priced at lib/fares.x (Fares) line 12}: what kind of thing it is, its name,
   * its file and module.
   */
  private static final Pattern KIND_AT =
      Pattern.compile(
          "^(?:in )?(?:method|submethod|sub|function|func|procedure|proc|routine|closure|lambda|(block|regex|token|rule))(?: +([\\w<>-][\\w<>'!?-]{0,100}(?:::[\\w'!?-]{1,100}){0,6}))? +at (\\S{1,300}\\.\\w{1,10})(?: \\(([\\w:.'-]{1,200})\\))? line (\\d{1,7})$");

  /** {@code At line 12 of file fares.x}. */
  private static final Pattern LINE_OF_FILE =
      Pattern.compile(
          "^(?:[Aa]t |[Oo]n |[Ii]n )?[Ll]ine (\\d{1,7}) (?:of|in) (?:file )?[\"'`]?([^\\s\"'`]{1,300}\\.[A-Za-z]\\w{0,9})[\"'`]?$");

  private static final String LED =
      "^(?:#?\\d{1,3}[:.)]? +)?(?:(?:[Ee]rror |[Rr]aised |[Tt]hrown |[Cc]alled |[Ff]ailed )?(?:in|at|from|by|using) +)?(?:(?:[Cc]lass|[Tt]rigger|[Ff]unction|[Pp]rocedure|[Mm]ethod|[Rr]outine|[Pp]ackage)[. :]+)?";
  private static final String LINE =
      "(?:at |on )?[Ll]ine[: ]+#?(\\d{1,7})(?:,? *(?:[Cc]ol(?:umn)?|[Cc]haracter)[: ]+\\d{1,6})?";

  /** {@code Class.FareTable.priced: line 12, column 1}: a name of several parts, and a line. */
  private static final Pattern LINED =
      Pattern.compile(
          LED
              + "[`'\"]?([A-Za-z_$]\\w{0,80}(?:(?:\\.|::|->|#|/)[A-Za-z_$]\\w{0,80}){1,8})[`'\"]?(?:\\(\\))?[,:]? *[(\\[]?"
              + LINE
              + "[)\\]]?(?:: ?\\[\\])?$");

  /** {@code Error in priced (line 12)}: any name, where words say that it is one. */
  private static final Pattern NAMED =
      Pattern.compile(
          "^(?:(?:[Ee]rror|[Rr]aised|[Tt]hrown|[Cc]alled|[Ff]ailed) (?:in|at|from|by|using)|[Ff]unction|[Pp]rocedure|[Mm]ethod|[Rr]outine) +[`'\"]?([A-Za-z_$]\\w{0,80})[`'\"]?(?:\\(\\))?(?:, *| +)[(\\[]?"
              + LINE
              + "[)\\]]?$");

  /** Endings of what is a file and no function. */
  private static final Pattern SOURCE =
      Pattern.compile(".*\\.(?:[a-z]{1,2}|lua|erl|exs|php|vbs|bas|pas|adb|sql|tcl|cbl|f90|abap)");

  private static final Pattern NO_NAME =
      Pattern.compile("(?i)(?:errors?|warning|note|fail(?:ed|ure)?|fatal|info|expected|actual)");

  private AnyPlace() {}

  static @Nullable Read read(String line) {
    if (line.length() > 400) {
      return null;
    }
    if (line.endsWith("]") && line.contains(" [0x")) {
      Matcher signed = SIGNED.matcher(line);
      return signed.matches()
          ? one(
              signed.group(3),
              signed.group(1) == null ? "" : signed.group(1),
              signed.group(2) == null ? "0" : signed.group(2))
          : null;
    }
    if (line.endsWith(")") && line.indexOf(':') > 0) {
      Matcher called = CALLED.matcher(line);
      if (called.matches()) {
        return one(called.group(1), called.group(2), called.group(3));
      }
    }
    if (line.contains("line") && line.contains("ile") && "{[".indexOf(line.charAt(0)) < 0) {
      Matcher function = FUNCTION_OF.matcher(line);
      Matcher file = FILE_OF.matcher(line);
      Matcher number = LINE_OF.matcher(line);
      if (number.find() && file.find() && function.find()) {
        return one(function.group(1), file.group(1), number.group(1));
      }
    }
    if (line.startsWith("at ")) {
      Matcher joined = JOINED.matcher(line);
      if (joined.matches()) {
        return one(joined.group(1), "", "0");
      }
    }
    Matcher kind = line.contains(" line ") ? KIND_AT.matcher(line) : null;
    if (kind != null && kind.matches()) {
      String function = kind.group(1) == null && kind.group(2) != null ? kind.group(2) : "";
      String module = kind.group(4) == null || function.isEmpty() ? "" : kind.group(4) + "::";
      return one(module + function, kind.group(3), kind.group(5));
    }
    Matcher ofFile = line.contains("ine ") ? LINE_OF_FILE.matcher(line) : null;
    if (ofFile != null && ofFile.matches()) {
      return one("", ofFile.group(2), ofFile.group(1));
    }
    Read lined = hasLine(line) ? lined(line) : null;
    if (lined != null || !hasNumber(line)) {
      return lined;
    }
    Matcher numbered =
        line.contains(" in ") || line.contains(" at ") ? NUMBERED.matcher(line) : null;
    if (numbered != null && numbered.matches()) {
      return one(numbered.group(3), numbered.group(1), numbered.group(2));
    }
    Matcher at = line.contains(" at ") ? NAMED_AT.matcher(line) : null;
    if (at != null && at.matches()) {
      return one(at.group(1).replace("::", ".").replace(':', '.'), at.group(2), at.group(3));
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

  /** Whether the number of a line is told by that word. */
  private static boolean hasLine(String line) {
    for (int i = line.indexOf("ine"); i > 0; i = line.indexOf("ine", i + 3)) {
      char before = line.charAt(i - 1);
      char behind = i + 3 < line.length() ? line.charAt(i + 3) : 'x';
      if ((before == 'l' || before == 'L') && (behind == ' ' || behind == ':')) {
        return true;
      }
    }
    return false;
  }

  private static @Nullable Read lined(String line) {
    Matcher found = LINED.matcher(line);
    if (!found.matches()) {
      found = NAMED.matcher(line);
      if (!found.matches()) {
        return null;
      }
    }
    String name = found.group(1);
    if (SOURCE.matcher(name).matches() || name.lastIndexOf('/') > 0 && isFile(name)) {
      return one("", name, found.group(2));
    }
    return one(name.indexOf('.') < 0 ? name.replace('/', '.') : name, "", found.group(2));
  }

  /** Whether a dot stands in the last part of a path, and only there. */
  private static boolean isFile(String path) {
    return path.indexOf('.') > path.lastIndexOf('/') && path.indexOf("::") < 0;
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

  private static @Nullable Read one(String name, String path, String line) {
    return NO_NAME.matcher(name).matches()
        ? null
        : new Read(Frame.of(name, path, Integer.parseInt(line)), false);
  }
}
