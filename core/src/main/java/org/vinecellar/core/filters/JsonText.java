package org.vinecellar.core.filters;

/** Texts as JSON quotes them (RFC 8259, section 7). */
public final class JsonText {
  private JsonText() {}

  /** With the quotes. */
  public static String quoted(String value) {
    StringBuilder text = new StringBuilder("\"");
    for (int c : value.codePoints().toArray()) {
      switch (c) {
        case '"' -> text.append("\\\"");
        case '\\' -> text.append("\\\\");
        case '\n' -> text.append("\\n");
        case '\r' -> text.append("\\r");
        case '\t' -> text.append("\\t");
        default -> {
          // A surrogate that is left here has no other half.
          if (c < 0x20 || Character.getType(c) == Character.SURROGATE) {
            text.append(String.format("\\u%04x", c));
          } else {
            text.appendCodePoint(c);
          }
        }
      }
    }
    return text.append('"').toString();
  }
}
