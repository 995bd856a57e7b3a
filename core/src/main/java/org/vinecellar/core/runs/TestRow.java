package org.vinecellar.core.runs;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A test as a list shows it.
 *
 * @param file as told last; null when not told
 * @param tags from its file as told last, and by hand, by name
 */
public record TestRow(KeptTest test, @Nullable String file, List<String> tags) {
  /** Copies the list. */
  public TestRow {
    tags = List.copyOf(tags);
  }
}
