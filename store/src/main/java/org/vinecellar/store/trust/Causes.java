package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.vinecellar.core.trust.evidence.Night;

/** How many tests of a run have the same cause, and how many usually have. */
final class Causes {
  /** So many failures of a cause are counted by their tests. */
  private static final int COUNTED = 1_000;

  /** What is usual is the middle one of so many runs before, or of some fewer. */
  private static final int USUAL = 9;

  static final int FEWEST = 3;

  /** Those are looked for among so many before: what is older depends on what came when. */
  static final int LOOKED_BACK = 40;

  private final DSLContext dsl;
  private final int projectId;
  private final Map<Cause, Integer> reach = new HashMap<>();
  private final Map<Cause, Integer> usual = new HashMap<>();

  /** A failure group in a run. */
  record Cause(int run, int group) {}

  Causes(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** How many tests of its run have it, each once in however many variants. */
  int reach(Cause cause) {
    return reach.getOrDefault(cause, 1);
  }

  /** How many have it in the runs before; 0 where that is not known. */
  int usual(Cause cause) {
    return usual.getOrDefault(cause, 0);
  }

  /**
   * Counts the tests of some. Asked by itself: the database knows so little of how many results
   * there are that, in one statement with those, it would count for each of them anew.
   */
  void meet(Collection<Cause> some) {
    List<Cause> causes =
        some.stream().filter(cause -> !reach.containsKey(cause)).distinct().toList();
    if (causes.isEmpty()) {
      return;
    }
    dsl.fetch(
            "select g.run_id, g.group_id, case when g.results < 2 then g.results else"
                + " (select count(distinct coalesce(t.base_low, t.key_low))"
                + " from (select x.test_id from failure x where x.group_id = g.group_id"
                + " and x.run_id = g.run_id limit ?) x join test t on t.project_id = ?"
                + " and t.id = x.test_id)::int end, coalesce((select max(s.reach) from stumble s"
                + " where s.run_id = g.run_id and s.group_id = g.group_id), 0) from"
                + " (select c.run_id, c.group_id, coalesce((select r.results from group_run r"
                + " where r.project_id = ? and r.group_id = c.group_id and r.run_id = c.run_id), 0)"
                + " as results from unnest(?::int[], ?::int[]) as c (run_id, group_id) offset 0) g",
            COUNTED,
            projectId,
            projectId,
            causes.stream().map(Cause::run).toArray(Integer[]::new),
            causes.stream().map(Cause::group).toArray(Integer[]::new))
        .forEach(
            row ->
                reach.put(
                    new Cause((Integer) row.get(0), (Integer) row.get(1)),
                    Math.max((Integer) row.get(2), (Integer) row.get(3))));
  }

  /**
   * Looks how usual some are that were met, where that makes a difference.
   *
   * @param nights the runs that have them
   * @param earlier those before these
   */
  void lookBack(List<Night> nights, List<Night> earlier, Collection<Cause> some) {
    List<Night> all = new ArrayList<>(earlier);
    all.addAll(nights);
    Map<Integer, Integer> places = new HashMap<>();
    for (int i = earlier.size(); i < all.size(); i++) {
      places.put((int) all.get(i).run(), i);
    }
    Map<Cause, List<Cause>> before = new HashMap<>();
    for (Cause cause : some) {
      Integer place = places.get(cause.run);
      if (place != null && isInDoubt(all.get(place), reach(cause))) {
        before.computeIfAbsent(
            cause,
            k ->
                before(all, place).stream()
                    .map(night -> new Cause((int) night.run(), cause.group))
                    .toList());
      }
    }
    meet(before.values().stream().flatMap(List::stream).toList());
    before.forEach(
        (cause, causes) -> {
          if (causes.size() >= FEWEST) {
            usual.put(cause, middle(causes.stream().map(this::reach).toList()));
          }
        });
  }

  /** Whether it makes a difference how many tests usually have it. */
  private static boolean isInDoubt(Night night, int reach) {
    double common = night.common(reach, 0, false);
    return common > 0 && common < 1;
  }

  /**
   * The runs before one that tell what is usual in it: in its environment, of its branch or the
   * main one.
   */
  static List<Night> before(List<Night> all, int place) {
    Night night = all.get(place);
    List<Night> before = new ArrayList<>();
    for (int i = place - 1; i >= Math.max(0, place - LOOKED_BACK) && before.size() < USUAL; i--) {
      Night one = all.get(i);
      boolean same = one.branch() == null || one.branch().equals(night.branch());
      if (same && one.environment().equals(night.environment())) {
        before.add(one);
      }
    }
    return before;
  }

  /** The lower one of two in the middle. */
  static int middle(List<Integer> some) {
    List<Integer> sorted = some.stream().sorted().toList();
    return sorted.get((sorted.size() - 1) / 2);
  }
}
