package org.vinecellar.core.triage.signature;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.traces.Comparison;
import org.vinecellar.core.triage.reading.Frame;
import org.vinecellar.core.triage.reading.Thrown;

/** What an error says, without what differs from time to time and what its test is called. */
final class SaidText {
  /** More words than this tell one error from another. */
  static final int TELLING_WORDS = 2;

  private static final int MAX_LINE = 300;
  private static final int TEXT_LINES = 5;

  /** How an error is quoted by what found it. */
  private static final Pattern UNWRAPPED =
      Pattern.compile("^(?:called `Result::\\w+\\(\\)` on an `(?:Err|Ok)` value: |Error: (?=\"))");

  /** Where a check stands, in front of what it says. */
  private static final Pattern PLACED =
      Pattern.compile("^[^\\s:()'\"]{1,200}\\.[A-Za-z]\\w{0,5}:\\d+(?::\\d+)?:? +(?=\\S)");

  /** A path of the machine, and nothing else. */
  private static final Pattern PATH_ALONE =
      Pattern.compile(
          "\\[?(?:\\w{1,8}[#:])?(?:[A-Za-z]:)?/[^\\s\\]]{3,300}\\]?(?: \\(.{1,80}\\))?");

  /** Values as JUnit prints them. */
  private static final Pattern COMPARED = Pattern.compile("<[^<>\\n]{0,200}>");

  private static final Pattern COMPARES =
      Pattern.compile(
          "(?i)expected|!=|\\bis not (?:true|false|none|null|nil)\\b|\\bassert|\\bgot\\b|\\bwant(?:ed)?\\b|\\bequals?\\b|==|\\bwas\\b|\\bactual\\b|\\bidentical\\b|\\binstead of\\b|\\bshould (?:not )?be\\b|\\[ .{1,80} (?:=|-eq|-ne|-[gl][te]) |\\bdiffer");

  private final TestId test;
  private final Thrown root;
  private final String text;
  private final String identity;
  private final String lowIdentity;

  /** The letters and digits of the test's name, in small ones. */
  private final String letters;

  private final String said;
  private @Nullable List<String> telling;

  /**
   * @param text all that the failure says
   */
  SaidText(TestId test, Thrown root, String text) {
    this.test = test;
    this.root = root;
    this.text = text;
    this.identity = test.suite().name() + "#" + test.name();
    this.lowIdentity = identity.toLowerCase(Locale.ROOT);
    this.letters = letters(test.name());
    this.said = said();
  }

  /** Masked, in a few lines; empty when nothing is said. */
  String text() {
    return said;
  }

  /** Whether it compares what is with what should be. */
  static boolean compares(String said) {
    return COMPARES.matcher(said).find();
  }

  /** The words of the error that are not those of the test's own name. */
  List<String> telling() {
    if (telling == null) {
      List<String> words = new ArrayList<>(Words.of(said));
      words.removeIf(this::isOwnName);
      telling = words;
    }
    return telling;
  }

  private boolean isOwnName(String told) {
    String word = told.charAt(0) == '`' ? told.substring(1) : told;
    if (word.length() < 6) {
      return false;
    }
    if (letters.length() > 3 && word.length() >= letters.length() && isSaid(word)) {
      return true;
    }
    String low = lowIdentity;
    int at = low.indexOf(word);
    int end = at + word.length();
    boolean name =
        at >= 0
            && (at == 0 || !isOfWord(low.charAt(at - 1)))
            && (end == low.length() || !isOfWord(low.charAt(end)));
    // A word of a title may well tell something; the name of a class or method does not.
    return name && (test.name().indexOf(' ') < 0 || at < test.suite().name().length());
  }

  private static String letters(String name) {
    StringBuilder plain = new StringBuilder(name.length());
    String low = name.toLowerCase(Locale.ROOT);
    for (int i = 0; i < low.length(); i++) {
      if (Character.isLetterOrDigit(low.charAt(i))) {
        plain.append(low.charAt(i));
      }
    }
    return plain.toString();
  }

  /** Whether it is the test's name, without what stands between its words. */
  private boolean isSaid(String word) {
    String name = letters(word);
    return name.equals(letters) || name.equals("test" + letters) || name.equals("it" + letters);
  }

  private static boolean isOfWord(char c) {
    return Character.isLetterOrDigit(c) || c == '_' || c == '$';
  }

  /**
   * The first lines of the root's message that say something, masked, without the values of a
   * comparison.
   */
  private String said() {
    boolean empty =
        root.message().isBlank()
            || root.type().isEmpty() && Words.of(Mask.of(head(root.message()))).isEmpty();
    String message = empty ? text : root.message();
    Comparison comparison = Comparison.in(message);
    StringBuilder said = new StringBuilder();
    int lines = 0;
    String first = "";
    boolean isGo = isGo();
    for (String line : message.split("\n", 60)) {
      String plain = plain(line.strip());
      if (plain.isEmpty() || isTitle(plain)) {
        continue;
      }
      if (isGo) {
        plain = innermost(plain);
      }
      if (lines == 1 && plain.endsWith(first)) {
        // The same again, called by its type.
        continue;
      }
      first = lines == 0 ? plain : first;
      String kept = plain.length() > MAX_LINE ? plain.substring(0, MAX_LINE) : plain;
      boolean value = kept.startsWith("\"") && kept.endsWith("\"");
      if (lines > 0 && (value || kept.indexOf('/') >= 0 && PATH_ALONE.matcher(kept).matches())) {
        // In a line of its own it tells nothing of what is said above.
        continue;
      }
      if (kept.contains("> but was")) {
        kept = COMPARED.matcher(kept).replaceAll("#");
      }
      if (comparison != null) {
        kept = without(kept, comparison.expected());
        kept = without(kept, comparison.actual());
      }
      said.append(said.length() == 0 ? "" : "\n").append(Mask.of(kept));
      if (++lines == TEXT_LINES) {
        break;
      }
    }
    return said.toString();
  }

  private boolean isGo() {
    if (text.contains("_test.go:")) {
      return true;
    }
    for (Frame frame : root.frames()) {
      if (frame.path().endsWith(".go")) {
        return true;
      }
    }
    return false;
  }

  /** Go's errors stand in a line, the outermost first: {@code pour: prepare: no mould fits}. */
  private static String innermost(String line) {
    int cut = line.lastIndexOf(": ");
    String inner = cut < 0 ? line : line.substring(cut + 2);
    return cut > 0 && Words.of(Mask.of(inner)).size() > TELLING_WORDS && !compares(line)
        ? inner
        : line;
  }

  private static String head(String message) {
    return message.length() > MAX_LINE ? message.substring(0, MAX_LINE) : message;
  }

  private static String plain(String line) {
    boolean wrapped = line.startsWith("called `") || line.startsWith("Error: \"");
    String said = wrapped ? UNWRAPPED.matcher(line).replaceFirst("") : line;
    // A number stands behind the colon of a place.
    return said.indexOf(':') > 0 ? PLACED.matcher(said).replaceFirst("") : said;
  }

  private static String without(String line, String value) {
    return value.isBlank() || value.length() > 200 ? line : line.replace(value, "#");
  }

  /** Whether a line is the name of the test, and nothing else. */
  boolean isTitle(String line) {
    if (!line.contains(test.name()) || line.length() > identity.length() + 40) {
      return false;
    }
    String rest =
        line.replace(test.displayName(), "")
            .replace(test.name(), "")
            .replace(test.suite().name(), "");
    return rest.chars().noneMatch(Character::isLetter)
        || Words.of(rest).isEmpty() && !compares(rest);
  }
}
