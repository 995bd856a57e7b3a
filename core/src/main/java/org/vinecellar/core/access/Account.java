package org.vinecellar.core.access;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A person who signs in.
 *
 * @param passwordHash in modular crypt form, with its salt and cost; null for who signs in
 *     elsewhere, or has not chosen one yet
 * @param administrator of the whole portal: may enter every project as an owner
 * @param disabledAt null while the person may come in
 */
public record Account(
    long id,
    String login,
    @Nullable String passwordHash,
    boolean administrator,
    Instant createdAt,
    @Nullable Instant disabledAt) {
  /** Whether the person may come in. */
  public boolean enabled() {
    return disabledAt == null;
  }
}
