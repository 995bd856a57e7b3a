package org.vinecellar.core.triage.reading;

import java.util.Arrays;
import org.vinecellar.core.results.TerminalCodes;

/** Text as it was before terminals, editors and files changed its characters. */
public final class CleanText {
  /** Characters of ASCII that are none of a text, or begin what is none. */
  private static final boolean[] LOOKED_AT = new boolean[0x7f];

  static {
    Arrays.fill(LOOKED_AT, 0, ' ', true);
    LOOKED_AT['\n'] = false;
    LOOKED_AT['\t'] = false;
    LOOKED_AT['['] = true;
    LOOKED_AT['#'] = true;
  }

  private CleanText() {}

  /**
   * Without colours, also where only their remains are left, with plain line ends, quotes, dashes
   * and blanks. Control characters are gone but for the line break and the tab.
   */
  public static String of(String text) {
    String plain = text.indexOf('\u001b') < 0 ? text : TerminalCodes.removed(text);
    StringBuilder out = null;
    int length = plain.length();
    for (int i = untouched(plain); i < length; i++) {
      char c = plain.charAt(i);
      int skip = c == '[' || c == '#' ? remains(plain, i) : 0;
      char now = skip > 0 ? 0 : of(c);
      if (now == c && skip == 0) {
        if (out != null) {
          out.append(c);
        }
        continue;
      }
      if (out == null) {
        out = new StringBuilder(length).append(plain, 0, i);
      }
      if (skip > 0) {
        i += skip - 1;
      } else if (now != 0) {
        out.append(now);
      }
    }
    return out == null ? plain : out.toString();
  }

  /** From where on characters may have to be looked at. */
  private static int untouched(String whole) {
    char[] text = whole.toCharArray();
    int length = text.length;
    int i = 0;
    for (; i < length; i++) {
      char c = text[i];
      boolean plain = c < LOOKED_AT.length && !LOOKED_AT[c];
      if (!plain && !(c == '[' && i + 1 < length && !isOfCode(text[i + 1]))) {
        break;
      }
    }
    return i;
  }

  private static boolean isOfCode(char c) {
    return c >= '0' && c <= '9' || c == ';';
  }

  private static char of(char c) {
    if (c >= ' ' && c < 0x7f) {
      return c;
    }
    return switch (c) {
      case '\n', '\t' -> c;
      case '\u00a0', '\u2007', '\u202f', '\u2009' -> ' ';
      case '\u2018', '\u2019', '\u201a', '\u2032', '\u00b4' -> '\'';
      case '\u201c', '\u201d', '\u201e', '\u00ab', '\u00bb' -> '"';
      case '\ufeff', '\u200b', '\u200c', '\u200d', '\ufffd' -> 0;
      default -> c < ' ' || (c >= 0x7f && c < 0xa0) ? 0 : c;
    };
  }

  /**
   * How long a colour code without its escape character is: {@code [31m}, {@code [1;31m}, {@code
   * #x1B[0m}.
   */
  private static int remains(String text, int at) {
    int i = at;
    if (text.startsWith("#x1B", at) || text.startsWith("#x1b", at)) {
      i += 4;
      if (i < text.length() && text.charAt(i) == ';') {
        i++;
      }
    }
    if (i >= text.length() || text.charAt(i) != '[') {
      return 0;
    }
    i++;
    int digits = 0;
    while (i < text.length() && (Character.isDigit(text.charAt(i)) || text.charAt(i) == ';')) {
      i++;
      digits++;
    }
    boolean code = i < text.length() && text.charAt(i) == 'm' && digits > 0 && digits < 12;
    // "[12m" may be the beginning of a text in brackets: a code ends with its letter.
    boolean word =
        code && i + 1 < text.length() && (text.charAt(i + 1) == ']' || text.charAt(i + 1) == 's');
    return code && !word ? i + 1 - at : 0;
  }
}
