package org.vinecellar.core.edits;

/**
 * A note as it stands.
 *
 * @param version 0 when nobody ever changed it; goes up with every change that somebody makes
 */
public record Note(NoteText text, int version) {
  /**
   * Names this state of the note. Labels have a part in it, since uploads may change them too: who
   * has not seen a new one must not take it away unawares.
   */
  public String tag() {
    // The sums of a map's and of a string's hash are laid down by their contracts: the same
    // everywhere.
    return version + "-" + Integer.toHexString(text.labels().hashCode());
  }
}
