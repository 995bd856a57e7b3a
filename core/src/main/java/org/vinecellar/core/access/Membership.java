package org.vinecellar.core.access;

/** A project as somebody sees it, with what they are in it. */
public record Membership(Project project, Role role) {}
