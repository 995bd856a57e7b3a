package org.vinecellar.core.access;

import java.time.Instant;

/** Somebody in a project. */
public record Member(long accountId, String login, Role role, Instant addedAt, String addedBy) {}
