package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Results that show that a test fails by chance, the strongest first.
 *
 * @param kind what each shows
 */
public record Evidence(Kind kind, PastResult result) {
  /** What a result shows. */
  public enum Kind {
    /** It failed, and passed when tried again in the same run. */
    PASSED_ON_RETRY,
    /** It failed and passed on one commit in one environment. */
    BOTH_ON_ONE_COMMIT,
    /** It failed between two runs in which it passed. */
    ALONE_BETWEEN_PASSES
  }

  /**
   * @param results of one stream, the latest first
   */
  public static List<Evidence> of(List<PastResult> results) {
    Map<String, boolean[]> commits = new HashMap<>();
    for (PastResult one : results) {
      if (one.tells() && one.run().commit() != null) {
        boolean[] came = commits.computeIfAbsent(where(one), k -> new boolean[2]);
        came[one.passed() ? 0 : 1] = true;
      }
    }
    List<PastResult> telling = results.stream().filter(PastResult::tells).toList();
    List<Evidence> all = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      for (int i = 0; i < telling.size(); i++) {
        PastResult one = telling.get(i);
        if (kindOf(one, telling, i, commits) == kind) {
          all.add(new Evidence(kind, one));
        }
      }
    }
    return all;
  }

  private static @Nullable Kind kindOf(
      PastResult one, List<PastResult> all, int at, Map<String, boolean[]> commits) {
    if (one.stumbledByItself()) {
      return Kind.PASSED_ON_RETRY;
    }
    if (!one.failedByItself()) {
      return null;
    }
    boolean[] came = commits.get(where(one));
    if (one.run().commit() != null && came != null && came[0]) {
      return Kind.BOTH_ON_ONE_COMMIT;
    }
    boolean alone =
        at > 0 && at + 1 < all.size() && all.get(at - 1).passed() && all.get(at + 1).passed();
    return alone ? Kind.ALONE_BETWEEN_PASSES : null;
  }

  private static String where(PastResult one) {
    return one.run().commit()
        + "\n"
        + one.run().branch()
        + "\n"
        + new TreeMap<>(one.run().environment());
  }
}
