package org.vinecellar.core.runs;

import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * A test as it is known to the portal.
 *
 * @param suite names from the outermost in
 * @param parameters null when it has none
 * @param variant by the keys of its words, in their order; empty for none
 */
public record KeptTest(
    long id,
    List<String> suite,
    String name,
    @Nullable String parameters,
    Map<String, String> variant) {
  /** Copies the collections. */
  public KeptTest {
    suite = List.copyOf(suite);
    variant = Collections.unmodifiableMap(new TreeMap<>(variant));
  }
}
