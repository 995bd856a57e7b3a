package org.vinecellar.core.results;

import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * One entry of a log.
 *
 * @param time null when not told
 * @param level such as {@code WARN}; null when not told
 * @param text one line or more
 */
public record LogLine(@Nullable Instant time, @Nullable String level, String text) {
  /** Checks nulls. */
  public LogLine {
    Objects.requireNonNull(text);
  }
}
