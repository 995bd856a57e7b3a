package org.vinecellar.core.trust.renames;

import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a test can be recognised by, as one run showed it.
 *
 * @param id of the test
 * @param suite names from the outermost in
 * @param parameters null for none
 * @param file its source file; null when not told
 * @param millis how long it took; less than zero when that is not known
 * @param authorId what its author gave it; null for none
 * @param causes the failure groups that it had lately
 */
public record Face(
    long id,
    List<String> suite,
    String name,
    @Nullable String parameters,
    Map<String, String> variant,
    @Nullable String file,
    double millis,
    @Nullable String authorId,
    Set<Long> causes) {
  /** Copies the collections. */
  public Face {
    suite = List.copyOf(suite);
    variant = Map.copyOf(variant);
    causes = Set.copyOf(causes);
  }

  /** The name of the innermost suite; empty for none. */
  String innermost() {
    return suite.isEmpty() ? "" : suite.get(suite.size() - 1);
  }

  /** Whether their authors say that they are two tests. */
  boolean isAnother(Face other) {
    return authorId != null && other.authorId != null && !authorId.equals(other.authorId);
  }

  boolean hasSameName(Face other) {
    return name.equals(other.name) && Objects.equals(parameters, other.parameters);
  }
}
