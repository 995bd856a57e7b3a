package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.trust.renames.Reason;

/** Which tests of a stream go on as which others. */
public final class Lineage {
  private final Map<Integer, Integer> next = new HashMap<>();
  private final Map<Integer, List<Integer>> before = new HashMap<>();
  private final Set<Integer> madeUp = new HashSet<>();

  private Lineage() {}

  /** As it is joined now. */
  public static Lineage of(DSLContext dsl, int projectId, long streamId) {
    Lineage lineage = new Lineage();
    for (Record row :
        dsl.fetch(
            "select old_test_id, new_test_id, reasons from succession where project_id = ?"
                + " and stream_id = ? and state in (1, 3) order by state desc, likely desc, made_at desc,"
                + " old_test_id, new_test_id",
            projectId,
            streamId)) {
      boolean joined = lineage.join(row.get(0, Integer.class), row.get(1, Integer.class));
      if (joined && Reason.FOLDED.name().equals(row.get(2, String.class))) {
        lineage.madeUp.add(row.get(0, Integer.class));
      }
    }
    return lineage;
  }

  /** Whoever is joined first stays so; what would go round in a circle is left. */
  private boolean join(int old, int now) {
    if (next.containsKey(old) || latest(now) == old) {
      return false;
    }
    next.put(old, now);
    before.computeIfAbsent(now, k -> new ArrayList<>()).add(old);
    return true;
  }

  /** Whether all that was joined still is. */
  boolean hasAllOf(Lineage earlier) {
    return next.entrySet().containsAll(earlier.next.entrySet());
  }

  /** Whether the same are joined. */
  boolean isLike(Lineage other) {
    return next.equals(other.next);
  }

  /** As what it goes on, after however many names. */
  public int latest(int test) {
    int latest = test;
    Integer more = next.get(latest);
    while (more != null) {
      latest = more;
      more = next.get(latest);
    }
    return latest;
  }

  /** Whether it is one of many names that are others in each run. */
  boolean isMadeUp(int test) {
    return madeUp.contains(test);
  }

  /** Whether it is that one, or goes on as that one at some time. */
  boolean passes(int test, int other) {
    Integer at = test;
    while (at != null && at != other) {
      at = next.get(at);
    }
    return at != null;
  }

  /** Each earlier name with the latest of its test. */
  public Map<Integer, Integer> names() {
    Map<Integer, Integer> names = new HashMap<>();
    next.keySet().forEach(old -> names.put(old, latest(old)));
    return names;
  }

  /** Some tests with all that they were before. */
  public Set<Integer> withEarlier(Collection<Integer> tests) {
    if (next.isEmpty()) {
      return new HashSet<>(tests);
    }
    Set<Integer> all = new HashSet<>();
    List<Integer> open = new ArrayList<>(tests);
    while (!open.isEmpty()) {
      int test = open.remove(open.size() - 1);
      if (all.add(test)) {
        open.addAll(before.getOrDefault(test, List.of()));
      }
    }
    return all;
  }
}
