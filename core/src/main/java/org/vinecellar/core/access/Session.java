package org.vinecellar.core.access;

import java.time.Instant;

/**
 * Somebody's being signed in.
 *
 * @param csrf what a changing request must repeat in a header
 */
public record Session(long accountId, String login, String csrf, Instant expiresAt) {}
