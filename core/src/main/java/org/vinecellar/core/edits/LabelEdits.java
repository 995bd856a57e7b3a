package org.vinecellar.core.edits;

import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Labels as uploads tell them, and what people have made of them: a word set by hand stands
 * whatever later uploads tell, and everything else follows the uploads.
 *
 * @param byHand the word that was set for a key; null for a key that was taken away
 */
public record LabelEdits(Map<String, @Nullable String> byHand) {
  /** None. */
  public static final LabelEdits NONE = new LabelEdits(Map.of());

  /** Copies the map. */
  public LabelEdits {
    byHand = new TreeMap<>(byHand);
  }

  /** What holds. */
  public Map<String, String> over(Map<String, String> reported) {
    Map<String, String> all = new HashMap<>(reported);
    byHand.forEach(
        (key, value) -> {
          if (value == null) {
            all.remove(key);
          } else {
            all.put(key, value);
          }
        });
    return all;
  }

  /** What has to be kept so that {@code wanted} holds; as little as possible. */
  public static LabelEdits from(Map<String, String> reported, Map<String, String> wanted) {
    Map<String, @Nullable String> byHand = new HashMap<>();
    reported.keySet().stream()
        .filter(key -> !wanted.containsKey(key))
        .forEach(key -> byHand.put(key, null));
    wanted.forEach(
        (key, value) -> {
          if (!Objects.equals(reported.get(key), value)) {
            byHand.put(key, value);
          }
        });
    return new LabelEdits(byHand);
  }
}
