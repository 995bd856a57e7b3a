package org.vinecellar.core.triage.desk;

import java.time.Instant;
import java.util.Locale;
import java.util.Objects;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * What people put together or apart.
 *
 * @param group the other one
 * @param sentence why that is, or was, one group
 * @param template its error, with a hole for each value
 * @param tests that were put apart; 0 for a whole group
 */
public record Regrouped(
    What what,
    long group,
    KeyKind kind,
    String sentence,
    String template,
    int tests,
    Instant at,
    String by) {
  /** Checks nulls. */
  public Regrouped {
    Objects.requireNonNull(what);
    Objects.requireNonNull(at);
  }

  /** What happened to the other group, seen from this one. */
  public enum What {
    /** All of the other one is in this one now. */
    JOINED,
    /** The other one was taken out of this one. */
    PARTED,
    /** This one was taken out of the other one. */
    PARTED_FROM;

    /** The word in the API. */
    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }
}
