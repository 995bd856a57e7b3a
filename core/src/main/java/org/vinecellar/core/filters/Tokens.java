package org.vinecellar.core.filters;

import java.math.BigDecimal;
import java.util.Locale;

/**
 * The words of a filter, one after the other. Names and words of JSON, told apart by the parser.
 */
final class Tokens {
  /** What a token is. */
  enum Kind {
    OPEN,
    CLOSE,
    INNER_OPEN,
    INNER_CLOSE,
    TEXT,
    NUMBER,
    WORD,
    END
  }

  private static final int MAX_EXPONENT = 1000;
  private static final int MAX_DIGITS = 100;

  private final String text;
  private int at;
  private Kind kind = Kind.END;
  private int begin;
  private String value = "";

  Tokens(String text) {
    this.text = text;
    next();
  }

  Kind kind() {
    return kind;
  }

  /** Where the token begins. */
  int at() {
    return begin;
  }

  /** Where the token ends. */
  int end() {
    return at;
  }

  /** Of a text what it says, of anything else how it is written. */
  String value() {
    return value;
  }

  boolean is(String word) {
    return kind == Kind.WORD && value.toLowerCase(Locale.ROOT).equals(word);
  }

  /** What stands there, for a message. */
  String shown() {
    return switch (kind) {
      case END -> "the filter ends here";
      case TEXT -> "a text in quotes stands here";
      default ->
          "“" + (value.length() > 40 ? value.substring(0, 40) + "…" : value) + "” stands here";
    };
  }

  void next() {
    while (at < text.length() && isSpace(text.charAt(at))) {
      at++;
    }
    begin = at;
    if (at == text.length()) {
      set(Kind.END, "");
      return;
    }
    char c = text.charAt(at);
    switch (c) {
      case '(' -> sign(Kind.OPEN);
      case ')' -> sign(Kind.CLOSE);
      case '[' -> sign(Kind.INNER_OPEN);
      case ']' -> sign(Kind.INNER_CLOSE);
      case '"' -> quoted();
      default -> {
        if (c == '-' || isDigit(c)) {
          number();
        } else {
          word();
        }
      }
    }
  }

  private void set(Kind found, String what) {
    kind = found;
    value = what;
  }

  private void sign(Kind found) {
    at++;
    set(found, text.substring(begin, at));
  }

  private void word() {
    at = endOfWord(text, at);
    set(Kind.WORD, text.substring(begin, at));
  }

  /** Where a word ends that goes on at a place. */
  static int endOfWord(String text, int from) {
    int end = from;
    while (end < text.length() && " \t\r\n()[]\"".indexOf(text.charAt(end)) < 0) {
      end++;
    }
    return end;
  }

  private void number() {
    at++;
    while (at < text.length() && "0123456789.eE+-".indexOf(text.charAt(at)) >= 0) {
      at++;
    }
    String number = text.substring(begin, at);
    if (!number.matches("-?(0|[1-9][0-9]*)(\\.[0-9]+)?([eE][-+]?[0-9]{1,4})?")
        || number.length() > MAX_DIGITS
        || Math.abs((long) new BigDecimal(number).scale()) > MAX_EXPONENT) {
      throw new FilterException(
          begin,
          "“"
              + (number.length() > 40 ? number.substring(0, 40) + "…" : number)
              + "” is no number as JSON writes them; put texts in quotes");
    }
    set(Kind.NUMBER, number);
  }

  private void quoted() {
    StringBuilder said = new StringBuilder();
    at++;
    while (at < text.length() && text.charAt(at) != '"') {
      char c = text.charAt(at);
      if (c < 0x20) {
        throw new FilterException(at, "a line break or tab in a text is written \\n or \\t");
      }
      said.append(c == '\\' ? escaped() : c);
      at++;
    }
    if (at == text.length()) {
      throw new FilterException(begin, "the text that begins here has no quote at its end");
    }
    at++;
    set(Kind.TEXT, said.toString());
  }

  private char escaped() {
    at++;
    char c = at < text.length() ? text.charAt(at) : ' ';
    int place = "\"\\/bfnrt".indexOf(c);
    if (place >= 0) {
      return "\"\\/\b\f\n\r\t".charAt(place);
    }
    String hex = c == 'u' && at + 5 <= text.length() ? text.substring(at + 1, at + 5) : "";
    if (!hex.matches("[0-9a-fA-F]{4}")) {
      throw new FilterException(
          at - 1, "a backslash in a text is written twice, as in \"C:\\\\quay\"");
    }
    at += 4;
    return (char) Integer.parseInt(hex, 16);
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  private static boolean isSpace(char c) {
    return c == ' ' || c == '\t' || c == '\r' || c == '\n';
  }
}
