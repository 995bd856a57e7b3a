package org.vinecellar.store.triage;

import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.vinecellar.store.triage.rows.GroupRows;

/**
 * Which group a new one is the same as, when a run is grouped by better signatures or other
 * settings than before: the one that most of its failures were in, unless another has that already.
 * So it keeps its number, and with it what was decided of it and put together with it.
 */
final class KeptGroups {
  private final Map<Integer, Integer> before = new HashMap<>();
  private final Map<String, Map<Integer, Integer>> counts = new TreeMap<>();

  /** With the groups to which the errors of a run led before. */
  KeptGroups(DSLContext dsl, long runId) {
    dsl.fetch("select place, found_group_id from failure where run_id = ?", runId)
        .forEach(row -> before.put(row.get(0, Integer.class), row.get(1, Integer.class)));
  }

  /** A failure of a group that would be a new one. */
  void add(String first, int place) {
    Integer group = before.get(place);
    if (group != null) {
      counts.computeIfAbsent(first, k -> new TreeMap<>()).merge(group, 1, Integer::sum);
    }
  }

  /**
   * By the keys of their first signatures.
   *
   * @param taken groups that failures of the run are known to belong to
   */
  Map<String, Integer> of(GroupRows groups, Collection<Integer> taken) {
    Set<Integer> free = new HashSet<>();
    counts.values().forEach(one -> free.addAll(one.keySet()));
    free.removeAll(taken);
    free.retainAll(groups.behind(free));
    record Claim(String first, int group, int failures) {}
    List<Claim> claims =
        counts.entrySet().stream()
            .flatMap(
                one ->
                    one.getValue().entrySet().stream()
                        .map(of -> new Claim(one.getKey(), of.getKey(), of.getValue())))
            .sorted(
                Comparator.comparingInt((Claim one) -> -one.failures)
                    .thenComparing(Claim::first)
                    .thenComparing(Claim::group))
            .toList();
    Map<String, Integer> kept = new HashMap<>();
    for (Claim claim : claims) {
      if (!kept.containsKey(claim.first) && free.remove(claim.group)) {
        kept.put(claim.first, claim.group);
      }
    }
    return kept;
  }
}
