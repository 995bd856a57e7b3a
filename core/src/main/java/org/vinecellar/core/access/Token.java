package org.vinecellar.core.access;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What is known of a pipeline's token; the secret itself is not kept.
 *
 * @param hint the end of the secret, to tell tokens apart
 * @param lastUsedAt null when it was never used; exact to the minute
 * @param revokedAt null while it is valid
 */
public record Token(
    long id,
    String name,
    String hint,
    Instant createdAt,
    String createdBy,
    @Nullable Instant lastUsedAt,
    @Nullable Instant revokedAt) {}
