package org.vinecellar.core.edits;

/**
 * A note as it stands.
 *
 * @param version 0 when nobody ever changed it; goes up with every change
 */
public record Note(NoteText text, int version) {}
