package org.vinecellar.core.triage.reading;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A line that may be a place in a stack which somebody prints in a way that nobody knows: it holds
 * one name of code and where that is, and beside them nothing but small words. One such line may be
 * anything; two of the same shape below each other are a stack.
 *
 * @param shape what stands in the line, without what it says
 */
record PlaceShape(String shape, Frame frame) {
  private static final int LONGEST = 300;
  private static final int SHORTEST = 12;
  private static final int LONGEST_WORD = 150;

  private static final Set<String> SMALL =
      Set.of(
          """
          at in from by on of the line ln col column char character offset pc ip addr address file
          unit module package class function func fn method proc procedure routine sub label block
          called call caller frame thread stack pos position near raised thrown entry rva base"""
              .split("\\s+"));

  /** Behind these stands what a function is called, and what it stands in. */
  private static final Set<String> OF_FUNCTIONS =
      Set.of("function", "func", "fn", "method", "proc", "procedure", "routine", "sub", "label");

  private static final Set<String> OF_HOMES = Set.of("class", "unit", "module", "package", "of");

  /** Behind these stands the number of a line or of an instruction. */
  private static final Set<String> COUNTED = Set.of("line", "ln", "offset", "pc", "ip", "pos");

  private static final Pattern HEX =
      Pattern.compile("\\$?(?:0x)?(?=[0-9A-Fa-f]*\\d)[0-9A-Fa-f]{6,16}h?|0x[0-9a-fA-F]{1,16}");
  private static final Pattern NUMBER = Pattern.compile("[+-]?\\d{1,9}");
  private static final Pattern PLACED =
      Pattern.compile(
          "((?:[a-z]{2,12}://)?[^:]{1,200}\\.[A-Za-z]\\w{0,5})[:#@](\\d{1,7})(?::\\d{1,7})?");

  /** A name of several parts with the number of a line. */
  private static final Pattern NUMBERED =
      Pattern.compile(
          "([A-Za-z_$][\\w$]{0,100}(?:(?:\\.|::?)[A-Za-z_$][\\w$]{0,100}){0,8}:[A-Za-z_$][\\w$]{0,100}):(\\d{1,7})");

  private static final Pattern GENERICS =
      Pattern.compile("(?<=\\w)<[\\w, .:*&]{1,80}>(?=[.:(#\\[ ]|$)");

  private static final Pattern FILE =
      Pattern.compile("(?:[A-Za-z]:)?[\\w@.+ /\\\\-]{1,200}\\.[a-z]\\w{0,4}");
  private static final Pattern QUALIFIED =
      Pattern.compile(
          "~?[A-Za-z_$][\\w$]{0,100}(?:(?:\\.{1,2}|::?|->|#|>>|[!/])~?[A-Za-z_$][\\w$]{0,100}[?!]?){1,10}");
  private static final Pattern BEFORE_NUMBER = Pattern.compile("[,|(\\[] ?\\d");

  /** A file in parentheses, with the number of a line. */
  private static final Pattern BEFORE_PLACE =
      Pattern.compile(
          " \\((?:[a-z]{2,12}://)?[\\w./\\\\@-]{1,200}\\.[A-Za-z]\\w{0,5}:\\d{1,7}(?::\\d{1,7})?\\)");

  private static final Pattern WORD = Pattern.compile("[A-Za-z_$][\\w$-]{0,100}[?!]?");

  /**
   * @param plain without blanks around
   * @return null for what is no place whatever stands beside it
   */
  static @Nullable PlaceShape of(String plain) {
    if (plain.length() > LONGEST || plain.length() < SHORTEST || !mayBe(plain)) {
      return null;
    }
    String line = plain.indexOf('<') > 0 ? GENERICS.matcher(plain).replaceAll("") : plain;
    return new Reading(line).done();
  }

  boolean isLike(@Nullable PlaceShape other) {
    return other != null && other.shape.equals(shape);
  }

  /** Whether a number stands in it as those of lines and addresses do. */
  private static boolean mayBe(String line) {
    for (int i = 1; i < line.length(); i++) {
      char c = line.charAt(i);
      char before = line.charAt(i - 1);
      if (c < '0' || c > '9' || before >= '0' && before <= '9') {
        continue;
      }
      // Behind a blank, the end of "line", "ln", "offset", "pc", "ip" and "pos", or a mark.
      char mark = before == ' ' && i > 1 ? line.charAt(i - 2) : before;
      String marks = before == ' ' ? "entcps,|=:+" : ":#@[($=<|x";
      if (marks.indexOf(mark) >= 0) {
        return true;
      }
    }
    // An address may stand first.
    return line.startsWith("0x");
  }

  private static final class Reading {
    private final String line;
    private final StringBuilder shape = new StringBuilder();
    private String name = "";
    private String call = "";
    private String home = "";
    private String file = "";

    /** The last small word, until what it tells of has come. */
    private String told = "";

    private int number;
    private boolean placed;
    private int names;
    private boolean broken;

    Reading(String line) {
      this.line = line;
    }

    @Nullable PlaceShape done() {
      int at = 0;
      while (at < line.length() && !broken) {
        at = token(at);
      }
      String function = !name.isEmpty() ? name : home.isEmpty() ? call : home + "." + call;
      boolean known = placed && !function.isEmpty() && names == 1;
      return broken || !known
          ? null
          : new PlaceShape(shape.toString(), Frame.of(plainName(function), file, number));
    }

    private static String plainName(String name) {
      int binary = name.indexOf('!');
      return binary > 0 && binary < name.length() - 1 ? name.substring(binary + 1) : name;
    }

    private int token(int at) {
      char c = line.charAt(at);
      if (c == ' ' || c == '\t') {
        return at + 1;
      }
      if (c == '"' || c == '\'' || c == '`') {
        char closing = c == '`' ? '\'' : c;
        int end = line.indexOf(closing, at + 1);
        if (end < 0) {
          broken = true;
          return line.length();
        }
        word(line.substring(at + 1, end), end + 1, true);
        return end + 1;
      }
      if (!isOfWord(at)) {
        shape.append(c);
        return at + 1;
      }
      int end = at;
      while (end < line.length() && isOfWord(end)) {
        end++;
      }
      int last = end;
      if (end - at > LONGEST_WORD) {
        broken = true;
        return end;
      }
      while (last > at + 1 && ".:,".indexOf(line.charAt(last - 1)) >= 0) {
        last--;
      }
      boolean calls = word(line.substring(at, last), end, false);
      return calls ? behindArguments(end) : end;
    }

    /** What a function was given is none of its name; a place in parentheses is read. */
    private int behindArguments(int at) {
      int end = at < line.length() && line.charAt(at) == '(' ? line.indexOf(')', at) : -1;
      if (end < 0) {
        return at;
      }
      String inside = line.substring(at + 1, end);
      boolean place =
          FILE.matcher(inside).find() || inside.toLowerCase(Locale.ROOT).contains("line");
      return place ? at : end + 1;
    }

    /** An angle is one where it is half of an arrow. */
    private boolean isOfWord(int at) {
      char c = line.charAt(at);
      boolean arrow =
          c == '>'
              && (at > 0 && "->".indexOf(line.charAt(at - 1)) >= 0
                  || at + 1 < line.length() && line.charAt(at + 1) == '>');
      return arrow || Character.isLetterOrDigit(c) || "_$.:\\/~#@+-!?".indexOf(c) >= 0;
    }

    /** Whether it may be a function that is called. */
    private boolean word(String word, int next, boolean quoted) {
      boolean digit = false;
      boolean marked = false;
      for (int i = 0; i < word.length(); i++) {
        char c = word.charAt(i);
        digit |= c >= '0' && c <= '9';
        marked |= !Character.isLetterOrDigit(c) && c != '_';
      }
      String low = digit || marked || quoted ? "" : word.toLowerCase(Locale.ROOT);
      if (SMALL.contains(low)) {
        shape.append(low);
        told = low;
        return false;
      }
      if (digit && (numbered(word) || marked && placed(word))) {
        told = "";
        return false;
      }
      if (marked && isFile(word, next)) {
        shape.append('F');
        file = word;
        told = "";
        return false;
      }
      if (marked && QUALIFIED.matcher(word).matches()) {
        shape.append('Q');
        named(word);
        told = "";
        return true;
      }
      if (WORD.matcher(word).matches()) {
        return single(word, next, quoted);
      }
      broken = !word.isBlank() && !isMark(word);
      shape.append(isMark(word) ? word : "");
      return false;
    }

    private boolean numbered(String word) {
      if (NUMBER.matcher(word).matches()) {
        number(word);
        return true;
      }
      boolean address = HEX.matcher(word).matches();
      if (address) {
        shape.append('H');
        placed = true;
      }
      return address;
    }

    /** Whether it is a file or a name with the number of a line behind. */
    private boolean placed(String word) {
      Matcher inFile = PLACED.matcher(word);
      if (inFile.matches()) {
        place(inFile.group(1), inFile.group(2));
        return true;
      }
      Matcher inName = NUMBERED.matcher(word);
      if (inName.matches()) {
        shape.append("QN");
        named(inName.group(1).replace("::", ".").replace(':', '.'));
        number = Integer.parseInt(inName.group(2));
        placed = true;
        return true;
      }
      return false;
    }

    private void number(String word) {
      shape.append('N');
      boolean counts = COUNTED.contains(told) || !file.isEmpty() && number == 0;
      placed |= counts;
      number = counts && word.length() < 9 ? Math.abs(Integer.parseInt(word)) : number;
    }

    private void named(String word) {
      name = word;
      names++;
    }

    private boolean single(String word, int next, boolean quoted) {
      boolean calls = next < line.length() && line.charAt(next) == '(';
      boolean before = !calls && BEFORE_PLACE.matcher(line).region(next, line.length()).lookingAt();
      boolean isHome = OF_HOMES.contains(told);
      boolean isFunction = OF_FUNCTIONS.contains(told);
      told = "";
      if (isHome && !calls) {
        shape.append('M');
        home = word;
        return false;
      }
      if (calls || before || quoted || isFunction) {
        shape.append('C');
        call = word;
        names++;
        return calls;
      }
      // A word of a sentence; in brackets, or with a capital, it may be a module.
      int start = line.lastIndexOf(word, next);
      boolean enclosed = start > 0 && "[{(<".indexOf(line.charAt(start - 1)) >= 0;
      boolean counted =
          next < line.length() && line.charAt(next) == '[' && start == 0 && names == 0;
      broken = !enclosed && !counted && !Character.isUpperCase(word.charAt(0));
      shape.append('W');
      return false;
    }

    private void place(String path, String line) {
      shape.append('P');
      file = path;
      number = Integer.parseInt(line);
      placed = true;
    }

    /** Whether a word is a file: it has a directory, or words behind it say so. */
    private boolean isFile(String word, int next) {
      if (!FILE.matcher(word).matches()) {
        return false;
      }
      String rest = line.substring(next).strip();
      return word.indexOf('/') >= 0
          || word.indexOf('\\') >= 0
          || BEFORE_NUMBER.matcher(rest).lookingAt()
          || rest.toLowerCase(Locale.ROOT).matches("[,:(]? ?(?:at |on )?line\\b.*")
          || line.charAt(Math.max(0, next - word.length() - 2)) == '"' && !name.isEmpty()
          || !name.isEmpty() && word.equals(word.toLowerCase(Locale.ROOT));
    }

    private static boolean isMark(String word) {
      return word.chars().noneMatch(Character::isLetterOrDigit);
    }
  }
}
