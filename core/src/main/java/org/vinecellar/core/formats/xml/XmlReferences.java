package org.vinecellar.core.formats.xml;

/** Character references such as {@code &#27;}, and which characters XML 1.0 allows. */
final class XmlReferences {
  private static final int NONE = -1;

  private XmlReferences() {}

  /** Whether XML 1.0 allows the character (section 2.2, production 2). */
  static boolean isLegal(int code) {
    return code == '\t'
        || code == '\n'
        || code == '\r'
        || (code >= 0x20 && code < 0xD800)
        || (code >= 0xE000 && code < 0xFFFE)
        || (code >= 0x10000 && code < 0x110000);
  }

  /** Whether a reference to a character that XML forbids begins at this {@code &}. */
  static boolean isForbidden(byte[] bytes, int at, int end) {
    int code = code(bytes, at, end);
    return code != NONE && !isLegal(code);
  }

  /** The number of the reference that begins at this {@code &}; negative when none does. */
  static int code(byte[] bytes, int at, int end) {
    int next = at + 1;
    if (next >= end || bytes[next++] != '#') {
      return NONE;
    }
    boolean hex = next < end && (bytes[next] == 'x' || bytes[next] == 'X');
    int radix = hex ? 16 : 10;
    int first = hex ? next + 1 : next;
    int value = 0;
    for (next = first; next < end && next - first < 9; next++) {
      if (bytes[next] == ';') {
        return next == first ? NONE : value;
      }
      int digit = Character.digit(bytes[next], radix);
      if (digit < 0) {
        return NONE;
      }
      value = Math.min(value * radix + digit, 0x110000);
    }
    return NONE;
  }
}
