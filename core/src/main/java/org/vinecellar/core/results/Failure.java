package org.vinecellar.core.results;

import org.jspecify.annotations.Nullable;

/**
 * One thing that went wrong, or the reason for a skip, as the framework told it.
 *
 * @param type the class or kind of the failure; null when the file names none
 * @param message the one-line or longer text of it; null when there is none
 * @param trace where it happened, often repeating the message; null when there is none
 */
public record Failure(@Nullable String type, @Nullable String message, @Nullable String trace) {

  /**
   * The first line that says something: of the message, else of the trace, else the type. Without
   * the colours of a terminal.
   */
  public @Nullable String firstLine() {
    String line = firstLineOf(message);
    if (line == null) {
      line = firstLineOf(trace);
    }
    return line == null ? type : line;
  }

  private static @Nullable String firstLineOf(@Nullable String text) {
    if (text == null) {
      return null;
    }
    int from = 0;
    while (from < text.length()) {
      int end = text.indexOf('\n', from);
      int to = end < 0 ? text.length() : end;
      String line = TerminalCodes.removed(text.substring(from, Math.min(to, from + 4000))).strip();
      if (!line.isEmpty()) {
        return line;
      }
      from = to + 1;
    }
    return null;
  }
}
