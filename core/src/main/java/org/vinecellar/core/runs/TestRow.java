package org.vinecellar.core.runs;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A test as a list shows it.
 *
 * @param suite names from the outermost in
 * @param parameters null when it has none
 * @param file as told last; null when not told
 * @param tags from its file as told last, and by hand, by name
 */
public record TestRow(
    long id,
    List<String> suite,
    String name,
    @Nullable String parameters,
    @Nullable String file,
    List<String> tags) {
  /** Copies the lists. */
  public TestRow {
    suite = List.copyOf(suite);
    tags = List.copyOf(tags);
  }
}
