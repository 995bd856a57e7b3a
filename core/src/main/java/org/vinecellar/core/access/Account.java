package org.vinecellar.core.access;

/**
 * A person who signs in.
 *
 * @param passwordHash in modular crypt form, with its salt and cost
 */
public record Account(long id, String login, String passwordHash) {}
