package org.vinecellar.core.results;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * An ID that the author of a test gave it, so that it stays the same test whatever it is called. It
 * is a tag {@code id:FARE-17}; a property {@code test_id} (also {@code test-id} and {@code testId})
 * is taken for one.
 */
public final class AuthorId {
  /** Begins the tag. */
  public static final String MARK = "id:";

  /** Longer ones are none. */
  private static final int LONGEST = 150;

  private AuthorId() {}

  /** The ID in some tags, with its mark; empty when there is none, or more than one. */
  public static Optional<String> of(Collection<String> tags) {
    List<String> all = tags.stream().filter(AuthorId::isOne).distinct().toList();
    return all.size() == 1 ? Optional.of(all.get(0)) : Optional.empty();
  }

  private static boolean isOne(String tag) {
    return tag.startsWith(MARK)
        && tag.length() > MARK.length()
        && tag.length() <= MARK.length() + LONGEST;
  }

  /** The tags, with the one that properties tell. */
  static List<String> tags(List<String> tags, Map<String, String> properties) {
    for (Map.Entry<String, String> one : properties.entrySet()) {
      String name = one.getKey().toLowerCase(Locale.ROOT).replace("_", "").replace("-", "");
      String tag = MARK + one.getValue().strip();
      if (name.equals("testid") && isOne(tag) && !tags.contains(tag)) {
        List<String> all = new ArrayList<>(tags);
        all.add(tag);
        return List.copyOf(all);
      }
    }
    return List.copyOf(tags);
  }
}
