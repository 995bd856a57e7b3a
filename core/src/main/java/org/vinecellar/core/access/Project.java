package org.vinecellar.core.access;

/** A walled space with its own streams, tests and tokens. */
public record Project(int id, String key, String name) {}
