package org.vinecellar.listeners.junit;

import java.util.Collection;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** One event as a line of JSON (RFC 8259). A library for it would get in the way of the tests'. */
final class EventLine {
  private final StringBuilder text = new StringBuilder("{");

  EventLine(String event) {
    put("event", event);
  }

  /** A text, or nothing for null. */
  EventLine put(String name, @Nullable String value) {
    if (value != null) {
      name(name);
      quoted(value);
    }
    return this;
  }

  EventLine put(String name, double value) {
    name(name);
    text.append(value);
    return this;
  }

  EventLine put(String name, int value) {
    name(name);
    text.append(value);
    return this;
  }

  EventLine put(String name, Collection<String> values) {
    name(name);
    text.append('[');
    int before = text.length();
    for (String value : values) {
      if (text.length() > before) {
        text.append(',');
      }
      quoted(value);
    }
    text.append(']');
    return this;
  }

  EventLine put(String name, Map<String, String> values) {
    name(name);
    text.append('{');
    int before = text.length();
    values.forEach(
        (key, value) -> {
          if (text.length() > before) {
            text.append(',');
          }
          quoted(key);
          text.append(':');
          quoted(value);
        });
    text.append('}');
    return this;
  }

  private void name(String name) {
    if (text.length() > 1) {
      text.append(',');
    }
    quoted(name);
    text.append(':');
  }

  private void quoted(String value) {
    text.append('"');
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
    text.append('"');
  }

  /** With its end of line. */
  @Override
  public String toString() {
    return text + "}\n";
  }
}
