package org.vinecellar.core.access;

import java.time.Instant;

/**
 * What a person is told of one of their sessions.
 *
 * @param agent the browser as it called itself, cut short
 * @param address from where it was begun
 * @param lastSeenAt exact to some minutes
 */
public record SessionInfo(
    long id,
    String agent,
    String address,
    Instant createdAt,
    Instant lastSeenAt,
    Instant expiresAt) {}
