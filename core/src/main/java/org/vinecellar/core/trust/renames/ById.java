package org.vinecellar.core.trust.renames;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** Tests whose author says that they are one under two names, by giving both the same ID. */
public final class ById {
  private ById() {}

  /** Tests of another variant, as on another browser, are others whatever their ID. */
  private record Key(String id, Map<String, String> variant) {}

  /**
   * Pairs that leave no doubt: the only old and the only new test with an ID in a variant, or,
   * where an ID stands for many cases, the only ones with the same parameters.
   *
   * @param old tests that the stream had and has no more
   * @param came tests that it has for the first time
   */
  public static List<Succession> of(Collection<Face> old, Collection<Face> came) {
    Map<Key, List<Face>> olds = byId(old);
    List<Succession> found = new ArrayList<>();
    byId(came)
        .forEach(
            (id, news) -> {
              List<Face> before = olds.getOrDefault(id, List.of());
              for (Face one : news) {
                List<Face> like = like(one, before, news.size() == 1);
                if (like.size() == 1 && like(like.get(0), news, before.size() == 1).size() == 1) {
                  found.add(new Succession(like.get(0).id(), one.id(), 1, List.of(Reason.SAME_ID)));
                }
              }
            });
    return found;
  }

  private static List<Face> like(Face one, List<Face> others, boolean isOnly) {
    return isOnly && others.size() == 1
        ? others
        : others.stream()
            .filter(other -> Objects.equals(one.parameters(), other.parameters()))
            .toList();
  }

  private static Map<Key, List<Face>> byId(Collection<Face> faces) {
    Map<Key, List<Face>> byId = new HashMap<>();
    for (Face face : faces) {
      String id = face.authorId();
      if (id != null) {
        byId.computeIfAbsent(new Key(id, face.variant()), k -> new ArrayList<>()).add(face);
      }
    }
    return byId;
  }
}
