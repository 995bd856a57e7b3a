package org.vinecellar.core.triage.decisions;

import java.time.Instant;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * An entry of an outside tracker that a failure group is linked to, as the tracker told it last.
 *
 * @param key by which people know it there; null while it waits to be made
 * @param state in the tracker's own word; null while nothing is known of it
 * @param open whether somebody still has to do something there; null while nothing is known
 * @param link to its page; null when nobody knows where that is
 * @param checkedAt when the tracker told that; null while it did not
 * @param trouble why the tracker could not be asked the last time; null when it could
 * @param mismatch what does not fit what is seen; null when nothing does
 */
public record Ticket(
    long id,
    @Nullable String key,
    String title,
    @Nullable String state,
    @Nullable Boolean open,
    @Nullable String link,
    @Nullable Instant checkedAt,
    @Nullable String trouble,
    @Nullable Mismatch mismatch) {
  /** What a ticket says that does not fit what is seen of the failure. */
  public enum Mismatch {
    /** The tracker does not know it, or not any more. */
    LOST,
    /** It is closed, and a run that began after that fails all the same. */
    STILL_FAILS,
    /** It is open, and the failure has not been seen for long, though its streams have run. */
    NOT_SEEN;

    /** The word in the API. */
    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** Checks nulls. */
  public Ticket {
    Objects.requireNonNull(title);
  }

  /** Whether the tracker has still to be told, or asked for the first time. */
  public boolean waits() {
    return key == null || checkedAt == null;
  }
}
