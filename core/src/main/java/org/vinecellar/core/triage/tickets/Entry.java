package org.vinecellar.core.triage.tickets;

import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What a tracker tells of one of its entries.
 *
 * @param key by which people know it there
 * @param text of its description; empty for none
 * @param state in the tracker's own word
 * @param open whether somebody still has to do something
 * @param closedAt since when nobody has to do anything; null when that is not told
 * @param link to its page; null when the tracker tells none
 */
public record Entry(
    String key,
    String title,
    String text,
    String state,
    boolean open,
    @Nullable Instant closedAt,
    @Nullable String link) {
  /** Checks nulls. */
  public Entry {
    Objects.requireNonNull(key);
    Objects.requireNonNull(title);
    Objects.requireNonNull(text);
    Objects.requireNonNull(state);
  }
}
