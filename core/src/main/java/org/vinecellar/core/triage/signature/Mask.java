package org.vinecellar.core.triage.signature;

/**
 * Takes out of a text what differs from run to run: numbers, times, ids, addresses, places on a
 * machine. Names stay, also those with digits in them.
 */
public final class Mask {
  private static final char HOLE = '#';

  private static final java.util.Set<String> NUMBERED =
      java.util.Set.of(
          "gw",
          "worker",
          "thread",
          "runner",
          "agent",
          "slot",
          "shard",
          "proc",
          "vm",
          "job",
          "pid",
          "fork",
          "executor",
          "forkjoinpool");

  private Mask() {}

  /** The text with a hole for each value; blanks are one blank, lines stay lines. */
  public static String of(String text) {
    StringBuilder out = new StringBuilder(text.length());
    int length = text.length();
    int i = 0;
    while (i < length) {
      char c = text.charAt(i);
      if (isPart(c)) {
        int end = i;
        while (end < length && isPart(text.charAt(end))) {
          end++;
        }
        word(text, i, end, out);
        i = end;
      } else {
        if (Character.isWhitespace(c)) {
          char last = out.length() == 0 ? '\n' : out.charAt(out.length() - 1);
          if (c == '\n') {
            if (last == ' ') {
              out.setLength(out.length() - 1);
            }
            if (out.length() > 0 && out.charAt(out.length() - 1) != '\n') {
              out.append('\n');
            }
          } else if (last != ' ' && last != '\n') {
            out.append(' ');
          }
        } else {
          out.append(c);
        }
        i++;
      }
    }
    return collapsed(out);
  }

  private static boolean isPart(char c) {
    return Character.isLetterOrDigit(c)
        || c == '_'
        || c == '.'
        || c == '-'
        || c == ':'
        || c == '/'
        || c == '@'
        || c == '+'
        || c == '%'
        || c == '\\'
        || c == '$'
        || c == '&'
        || c == '?'
        || c == '='
        || c == '~'
        || c == '#';
  }

  private static void word(String text, int from, int to, StringBuilder out) {
    int start = from;
    int end = to;
    while (end > start && isEdge(text.charAt(end - 1))) {
      end--;
    }
    while (start < end
        && (text.charAt(start) == '='
            || text.charAt(start) == ':'
            || text.charAt(start) == '-'
            || text.charAt(start) == '+')) {
      start++;
    }
    // The sign of a number is its own; that of a word is not.
    boolean signed = start > from && start < end && Character.isDigit(text.charAt(start));
    out.append(
        text,
        from,
        signed && text.charAt(start - 1) != '=' && text.charAt(start - 1) != ':'
            ? start - 1
            : start);
    String word = text.substring(start, end);
    out.append(value(word));
    out.append(text, end, to);
  }

  private static boolean isEdge(char c) {
    return c == '.' || c == ':' || c == '=' || c == '?' || c == '-' || c == '/' || c == '&'
        || c == '%' || c == '$' || c == '~';
  }

  private static String value(String word) {
    if (word.isEmpty()) {
      return word;
    }
    int equals = word.indexOf('=');
    if (equals > 0 && word.indexOf("://") < 0) {
      return word.substring(0, equals + 1) + value(word.substring(equals + 1));
    }
    int scheme = word.indexOf("://");
    if (scheme > 0) {
      return url(word, scheme);
    }
    if (word.indexOf('/') >= 0 || word.indexOf('\\') >= 0) {
      return path(word);
    }
    if (word.indexOf('@') > 0) {
      int at = word.indexOf('@');
      // A mail address, or the hash of an object.
      return word.indexOf('.', at) > 0 ? "#@#" : word.substring(0, at) + "@#";
    }
    int colon = word.indexOf(':');
    if (colon > 0
        && Character.isLetter(word.charAt(0))
        && word.substring(colon + 1).chars().allMatch(Character::isDigit)) {
      // A place in a file, or a port.
      return value(word.substring(0, colon)) + ":#";
    }
    return digits(word) || isNumbered(word) ? "#" : word;
  }

  /** A thread, worker or machine that is called by a number. */
  private static boolean isNumbered(String word) {
    int end = word.length();
    while (end > 0 && Character.isDigit(word.charAt(end - 1))) {
      end--;
    }
    if (end == word.length() || end == 0) {
      return false;
    }
    String name = word.substring(0, end).toLowerCase(java.util.Locale.ROOT);
    while (name.endsWith("-") || name.endsWith("_")) {
      name = name.substring(0, name.length() - 1);
    }
    return NUMBERED.contains(name) || name.endsWith("thread") || name.endsWith("worker");
  }

  /** The host's name stays, without what tells replicas apart; ids in the path do not. */
  private static String url(String word, int scheme) {
    int slash = word.indexOf('/', scheme + 3);
    int query = word.indexOf('?');
    int end = query < 0 ? word.length() : query;
    String path = slash < 0 || slash > end ? "" : word.substring(slash, end);
    return word.substring(0, scheme + 3) + "#" + segments(path);
  }

  /** Of a path that is not on the web, what is above its last two parts belongs to a machine. */
  private static String path(String word) {
    String plain = word.replace('\\', '/');
    if (plain.startsWith("/") && plain.chars().filter(c -> c == '/').count() > 3
        || plain.indexOf(":/") == 1) {
      int last = plain.lastIndexOf('/');
      int before = plain.lastIndexOf('/', last - 1);
      plain = "…" + plain.substring(Math.max(before, 0));
    }
    return segments(plain);
  }

  private static String segments(String path) {
    StringBuilder out = new StringBuilder();
    int from = 0;
    while (from <= path.length()) {
      int end = path.indexOf('/', from);
      end = end < 0 ? path.length() : end;
      String segment = path.substring(from, end);
      int colon = segment.indexOf(':');
      String name = colon > 0 ? segment.substring(0, colon) : segment;
      out.append(digits(name) ? "#" : name);
      if (end < path.length()) {
        out.append('/');
      }
      from = end + 1;
    }
    return out.toString();
  }

  /**
   * Whether a word with digits is a value: a number with or without a unit, a time, an id, a hash.
   * Not a name with a number in or behind it: {@code utf8}, {@code sha256}, {@code zone-2}.
   */
  static boolean digits(String word) {
    int digits = 0;
    int letters = 0;
    int groups = 0;
    int high = 0;
    boolean hex = true;
    int longest = 0;
    int run = 0;
    char before = ' ';
    for (int i = 0; i < word.length(); i++) {
      char c = word.charAt(i);
      if (c >= '0' && c <= '9') {
        digits++;
        run++;
        longest = Math.max(longest, run);
        groups += before >= '0' && before <= '9' ? 0 : 1;
      } else {
        run = 0;
        if (Character.isLetter(c)) {
          letters++;
          high += Character.isUpperCase(c) ? 1 : 0;
          hex &= (c >= 'a' && c <= 'f') || (c >= 'A' && c <= 'F') || (c == 'x' && i == 1);
        }
      }
      before = c;
    }
    if (digits == 0) {
      // Hashes without a digit do not happen at lengths that count.
      return false;
    }
    char first = word.charAt(0);
    if (first >= '0' && first <= '9') {
      // Numbers, with units, times and dates; hashes that begin so.
      return true;
    }
    if (letters == 0) {
      return true;
    }
    if (hex && word.length() >= 6 && digits >= 2) {
      return true;
    }
    if (longest >= 3 && (word.indexOf('-') > 0 || word.indexOf('_') > 0) || longest >= 4) {
      // A reference, such as BK-20931, or a name with a counter.
      return true;
    }
    // Words of random letters: digits here and there, and capitals in between.
    return word.length() >= 8 && groups >= 3 && (high > 1 || groups >= 4) && word.indexOf('_') < 0;
  }

  /** Several holes with nothing but marks in between are one. */
  private static String collapsed(StringBuilder text) {
    StringBuilder out = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      int size = out.length();
      boolean joins =
          c == HOLE
              && size > 1
              && (out.charAt(size - 1) == HOLE
                  || (size > 2
                      && out.charAt(size - 2) == HOLE
                      && ",.:' +".indexOf(out.charAt(size - 1)) >= 0
                      && out.charAt(size - 1) != ' '));
      if (joins) {
        out.setLength(out.charAt(size - 1) == HOLE ? size : size - 1);
        continue;
      }
      out.append(c);
    }
    return out.toString().strip();
  }
}
