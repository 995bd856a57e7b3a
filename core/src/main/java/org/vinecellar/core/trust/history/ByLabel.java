package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.vinecellar.core.statistics.Share;

/**
 * What a test did where runs had each value of a label.
 *
 * @param key of the label, or {@code branch}
 */
public record ByLabel(String key, List<Value> values) {
  /** Copies the values. */
  public ByLabel {
    values = List.copyOf(values);
  }

  /**
   * One value.
   *
   * @param failed in how many of its runs a try failed
   * @param differs whether it fails there more, or less, than elsewhere, and not by chance
   */
  public record Value(String value, Share failed, boolean differs) {}

  /** For each label of which these results have several values. */
  public static List<ByLabel> of(List<PastResult> results) {
    Map<String, Map<String, int[]>> counts = new TreeMap<>();
    for (PastResult one : results) {
      if (one.tells()) {
        Map<String, String> labels = new TreeMap<>(one.run().environment());
        String branch = one.run().branch();
        if (branch != null) {
          labels.put("branch", branch);
        }
        labels.put("stream", one.run().stream());
        labels.forEach(
            (key, value) -> {
              int[] count =
                  counts
                      .computeIfAbsent(key, k -> new TreeMap<>())
                      .computeIfAbsent(value, v -> new int[2]);
              count[0] += one.failed() || one.stumbled() ? 1 : 0;
              count[1]++;
            });
      }
    }
    List<ByLabel> all = new ArrayList<>();
    counts.forEach(
        (key, values) -> {
          if (values.size() > 1) {
            all.add(of(key, values));
          }
        });
    return all;
  }

  private static ByLabel of(String key, Map<String, int[]> counts) {
    int failed = counts.values().stream().mapToInt(count -> count[0]).sum();
    int all = counts.values().stream().mapToInt(count -> count[1]).sum();
    List<Value> values = new ArrayList<>();
    counts.forEach(
        (value, count) -> {
          Share here = Share.of(count[0], count[1]);
          Share elsewhere = Share.of(failed - count[0], all - count[1]);
          values.add(new Value(value, here, here.isApart(elsewhere)));
        });
    return new ByLabel(key, values);
  }
}
