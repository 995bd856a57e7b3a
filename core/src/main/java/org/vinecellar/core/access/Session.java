package org.vinecellar.core.access;

import java.time.Instant;

/**
 * Somebody's being signed in.
 *
 * @param id tells the person's sessions apart; no secret; 0 before it is kept
 * @param administrator of the whole portal
 * @param csrf what a changing request must repeat in a header
 */
public record Session(
    long id, long accountId, String login, boolean administrator, String csrf, Instant expiresAt) {}
