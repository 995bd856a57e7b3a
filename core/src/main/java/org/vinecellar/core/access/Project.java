package org.vinecellar.core.access;

/**
 * A walled space with its own streams, tests, members and tokens.
 *
 * @param open whether everybody who signs in may read it
 */
public record Project(int id, String key, String name, boolean open) {}
