package org.vinecellar.core.edits;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Edit.Difference;

/** What a new text of a note changes. */
public final class Differences {
  private Differences() {}

  /** Field by field; empty when nothing changes. */
  public static List<Difference> between(NoteText before, NoteText after) {
    List<Difference> all = new ArrayList<>();
    add(all, "description", before.description(), after.description());
    Map<String, String> had = before.labels();
    Map<String, String> has = after.labels();
    Set<String> keys = new TreeSet<>(had.keySet());
    keys.addAll(has.keySet());
    keys.forEach(key -> add(all, "label " + key, had.get(key), has.get(key)));
    add(all, "tags", words(before.tags()), words(after.tags()));
    return all;
  }

  private static void add(
      List<Difference> all, String field, @Nullable String before, @Nullable String after) {
    if (!Objects.equals(before, after)) {
      all.add(new Difference(field, before, after));
    }
  }

  private static @Nullable String words(List<String> tags) {
    return tags.isEmpty() ? null : String.join(" ", tags);
  }
}
