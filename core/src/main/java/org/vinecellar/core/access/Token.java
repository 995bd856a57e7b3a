package org.vinecellar.core.access;

import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is known of a token; the secret itself is not kept.
 *
 * @param hint the end of the secret, to tell tokens apart
 * @param expiresAt null when it has no end
 * @param lastUsedAt null when it was never used; exact to the minute
 * @param revokedAt null while it is valid
 */
public record Token(
    long id,
    String name,
    String hint,
    Set<Scope> scopes,
    Instant createdAt,
    String createdBy,
    @Nullable Instant expiresAt,
    @Nullable Instant lastUsedAt,
    @Nullable Instant revokedAt) {
  /** Copies the set. */
  public Token {
    scopes = Set.copyOf(scopes);
  }

  /**
   * A token to be made.
   *
   * @param hash of its secret
   */
  public record New(
      String name,
      String hash,
      String hint,
      Set<Scope> scopes,
      String createdBy,
      @Nullable Instant expiresAt) {
    /** Copies the set. */
    public New {
      scopes = Set.copyOf(scopes);
    }
  }
}
