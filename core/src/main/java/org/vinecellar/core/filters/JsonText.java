package org.vinecellar.core.filters;

/** Texts as JSON quotes them (RFC 8259, section 7). */
final class JsonText {
  private JsonText() {}

  static String quoted(String value) {
    StringBuilder text = new StringBuilder("\"");
    for (int i = 0; i < value.length(); i++) {
      char c = value.charAt(i);
      switch (c) {
        case '"' -> text.append("\\\"");
        case '\\' -> text.append("\\\\");
        case '\n' -> text.append("\\n");
        case '\r' -> text.append("\\r");
        case '\t' -> text.append("\\t");
        default -> {
          if (c < 0x20 || Character.isSurrogate(c)) {
            text.append(String.format("\\u%04x", (int) c));
          } else {
            text.append(c);
          }
        }
      }
    }
    return text.append('"').toString();
  }
}
