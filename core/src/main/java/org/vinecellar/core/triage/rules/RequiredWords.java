package org.vinecellar.core.triage.rules;

import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Words of which a text must hold one, in any capitals, if a regular expression is to be found in
 * it: {@code (?i)connection refused|timed out after \d+ s} needs “connection refused” or “timed out
 * after”. Told from the outside, so that most expressions need not be tried on most texts (as in
 * Cox, “Regular Expression Matching with a Trigram Index”, 2012). What is not understood needs
 * nothing.
 */
final class RequiredWords {
  /** Shorter words are everywhere. */
  private static final int SHORTEST = 3;

  private static final int MOST = 64;

  private final String text;
  private int at;

  private RequiredWords(String text) {
    this.text = text;
  }

  /** Empty where no words are needed; else in small letters and of ASCII alone. */
  static Optional<Set<String>> of(String pattern) {
    RequiredWords reading = new RequiredWords(pattern);
    Set<String> words = reading.alternatives();
    return reading.at == pattern.length() ? Optional.ofNullable(words) : Optional.empty();
  }

  private @Nullable Set<String> alternatives() {
    Set<String> all = new LinkedHashSet<>();
    boolean each = true;
    while (true) {
      Set<String> one = new Sequence().read();
      each &= one != null;
      if (one != null) {
        all.addAll(one);
      }
      if (at >= text.length() || text.charAt(at) != '|') {
        return each && all.size() <= MOST ? all : null;
      }
      at++;
    }
  }

  /** Things that follow each other: all of them are needed, and the most telling one is told. */
  private final class Sequence {
    private final StringBuilder run = new StringBuilder();
    private @Nullable Set<String> best;

    @Nullable Set<String> read() {
      while (at < text.length() && text.charAt(at) != '|' && text.charAt(at) != ')') {
        thing();
      }
      end();
      return best;
    }

    private void thing() {
      char c = text.charAt(at);
      switch (c) {
        case '^', '$' -> nothing(1);
        case '.' -> {
          at++;
          other();
        }
        case '[' -> {
          at = PatternSize.afterClass(text, at);
          other();
        }
        case '(' -> bracket();
        case '\\' -> escaped();
        default -> {
          at++;
          letter(c);
        }
      }
    }

    /** What has no width, however often it is asked for. */
    private void nothing(int chars) {
      at += chars;
      int unused = least();
    }

    /** Something that could be one of many. */
    private void other() {
      end();
      int unused = least();
    }

    private void letter(char c) {
      int from = at;
      int least = least();
      if (c >= 128 || c < ' ' || least == 0) {
        end();
        return;
      }
      run.append(Character.toLowerCase(c));
      if (at > from) {
        // It may come again: what follows does not follow the first one.
        end();
      }
    }

    private void escaped() {
      char c = at + 1 < text.length() ? text.charAt(at + 1) : ' ';
      if (c == 'Q') {
        quoted();
      } else if (c == 'b' || c == 'B' || c == 'A' || c == 'z') {
        nothing(2);
      } else if (Character.isLetterOrDigit(c)) {
        int close =
            at + 2 < text.length() && text.charAt(at + 2) == '{' ? text.indexOf('}', at) : -1;
        // Two digits of a number in hexadecimal are letters that need not be there.
        at = close > 0 ? close + 1 : Math.min(text.length(), at + (c == 'x' ? 4 : 2));
        if (c == 'p' || c == 'P') {
          at = close > 0 ? close + 1 : Math.min(text.length(), at + 1);
        }
        other();
      } else {
        at = Math.min(text.length(), at + 2);
        letter(c);
      }
    }

    private void quoted() {
      int close = text.indexOf("\\E", at);
      String inside = text.substring(at + 2, close < 0 ? text.length() : close);
      at = close < 0 ? text.length() : close + 2;
      end();
      inside.chars().forEach(c -> run.append(c < 128 ? (char) Character.toLowerCase(c) : '\n'));
      int from = at;
      int least = least();
      if (least == 0 || at > from || inside.chars().anyMatch(c -> c >= 128 || c < ' ')) {
        run.setLength(0);
      }
    }

    private void bracket() {
      at++;
      if (at < text.length() && text.charAt(at) == '?') {
        int colon = at + 1;
        while (colon < text.length() && "imsU-".indexOf(text.charAt(colon)) >= 0) {
          colon++;
        }
        if (colon < text.length() && text.charAt(colon) == ')') {
          at = colon + 1;
          return;
        }
        boolean flags = colon < text.length() && text.charAt(colon) == ':';
        int name = text.indexOf('>', at);
        at = flags ? colon + 1 : name > 0 ? name + 1 : text.length();
      }
      Set<String> inside = alternatives();
      if (at < text.length()) {
        at++;
      }
      end();
      if (least() > 0) {
        prefer(inside);
      }
    }

    /** How often the last thing is there at least, by what stands behind it. */
    private int least() {
      if (at >= text.length()) {
        return 1;
      }
      int least = 1;
      switch (text.charAt(at)) {
        case '?', '*' -> {
          at++;
          least = 0;
        }
        case '+' -> at++;
        case '{' -> {
          int close = text.indexOf('}', at);
          String inside = close < 0 ? "" : text.substring(at + 1, close);
          if (!inside.matches("[0-9]{1,5}(,[0-9]{0,5})?")) {
            return 1;
          }
          least = Integer.parseInt(inside.split(",", 2)[0]);
          at = close + 1;
        }
        default -> {
          return 1;
        }
      }
      // As few as can be; or what makes a pattern that cannot be read.
      if (at < text.length() && text.charAt(at) == '?') {
        at++;
      }
      return least;
    }

    private void end() {
      String word = run.toString().strip();
      run.setLength(0);
      if (word.length() >= SHORTEST) {
        prefer(Set.of(word));
      }
    }

    /** The longer words tell more. */
    private void prefer(@Nullable Set<String> words) {
      if (words != null && !words.isEmpty() && (best == null || shortest(words) > shortest(best))) {
        best = words;
      }
    }

    private static int shortest(Set<String> words) {
      return words.stream().mapToInt(String::length).min().orElse(0);
    }
  }
}
