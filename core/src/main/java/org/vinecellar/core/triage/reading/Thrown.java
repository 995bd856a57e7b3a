package org.vinecellar.core.triage.reading;

import java.util.List;
import java.util.Objects;

/**
 * One error of a chain.
 *
 * @param type as printed; empty where none is told
 * @param message all of its lines, as far as they are kept; may be empty
 * @param frames from the place where it was thrown outward
 */
public record Thrown(String type, String message, List<Frame> frames) {
  /** Checks nulls and copies the list. */
  public Thrown {
    Objects.requireNonNull(type);
    Objects.requireNonNull(message);
    frames = List.copyOf(frames);
  }

  /** The type without package and brackets, e.g. {@code IllegalStateException}. */
  public String simpleType() {
    int end = type.length();
    int cut = -1;
    for (int i = 0; i < end; i++) {
      char c = type.charAt(i);
      if (c == '.' || c == ':' || c == '\\' || c == '$' || c == '/') {
        cut = i;
      } else if (c == '`' || c == '<' || c == '(' || c == '[' || c == ' ') {
        end = i;
      }
    }
    return type.substring(cut + 1, Math.max(end, cut + 1));
  }

  /** The first line of the message that is not blank; empty where there is none. */
  public String firstLine() {
    int from = 0;
    while (from < message.length()) {
      int end = message.indexOf('\n', from);
      String line = message.substring(from, end < 0 ? message.length() : end).strip();
      if (!line.isEmpty()) {
        return line;
      }
      if (end < 0) {
        break;
      }
      from = end + 1;
    }
    return "";
  }
}
