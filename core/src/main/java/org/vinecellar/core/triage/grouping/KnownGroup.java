package org.vinecellar.core.triage.grouping;

import java.util.List;
import java.util.Objects;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * A group that was made before.
 *
 * @param words of its error, for likeness
 */
public record KnownGroup(long id, KeyKind kind, List<String> words) {
  /** Checks nulls and copies the list. */
  public KnownGroup {
    Objects.requireNonNull(kind);
    words = List.copyOf(words);
  }
}
