package org.vinecellar.standins.tracker;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An entry of the log.
 *
 * @param key as in {@code LOG-12}
 * @param state one of the log's words
 * @param madeAt ISO 8601
 * @param closedAt ISO 8601; null while something is to be done
 * @param said what people and programs wrote below it, the oldest first
 */
public record LogEntry(
    String key,
    String title,
    String text,
    String state,
    String madeAt,
    @Nullable String closedAt,
    List<String> said) {
  /** The words for how an entry stands; the last two say that nothing is to be done. */
  public static final List<String> STATES = List.of("to do", "doing", "done", "dropped");

  /** Copies the list. */
  public LogEntry {
    said = List.copyOf(said);
  }

  boolean isClosed() {
    return STATES.indexOf(state) > 1;
  }
}
