package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.store.trust.Causes.Cause;

/**
 * The runs in which so much failed that no failure tells of its test. Not those where all that is
 * due to causes of very many tests, and no more than usually failed beside them.
 */
final class BadNights {
  private final DSLContext dsl;
  private final int projectId;
  private final Map<Long, Integer> beside = new HashMap<>();

  BadNights(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /**
   * Of some runs.
   *
   * @param earlier those before them, in order
   */
  List<Long> of(List<Night> some, List<Night> earlier) {
    List<Night> all = new ArrayList<>(earlier);
    all.addAll(some);
    List<Long> bad = new ArrayList<>();
    for (int i = earlier.size(); i < all.size(); i++) {
      Night night = all.get(i);
      if (night.isBad(i == 0 ? null : all.get(i - 1)) && !isAsUsualBeside(night, all, i)) {
        bad.add(night.run());
      }
    }
    return bad;
  }

  private boolean isAsUsualBeside(Night night, List<Night> all, int place) {
    List<Integer> usual = Causes.before(all, place).stream().map(Night::ill).toList();
    return usual.size() >= Causes.FEWEST
        && beside.computeIfAbsent(night.run(), run -> beside(night)) <= Causes.middle(usual);
  }

  /** How many failed or stumbled for another reason than very many others. */
  private int beside(Night night) {
    Map<Cause, Integer> groups = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select group_id, results from group_run where project_id = ? and run_id = ?"
                + " and results >= ?",
            projectId,
            night.run(),
            night.mass())) {
      groups.put(
          new Cause((int) night.run(), row.get(0, Integer.class)), row.get(1, Integer.class));
    }
    Causes causes = new Causes(dsl, projectId);
    causes.meet(groups.keySet());
    int massed =
        sum(
            groups.entrySet().stream()
                .filter(one -> night.isMass(causes.reach(one.getKey())))
                .map(Map.Entry::getValue)
                .toList());
    for (Record row :
        dsl.fetch(
            "select reach, count(*)::int from stumble where run_id = ? group by reach",
            night.run())) {
      massed += night.isMass(row.get(0, Integer.class)) ? row.get(1, Integer.class) : 0;
    }
    return night.ill() - massed;
  }

  private static int sum(Collection<Integer> some) {
    return some.stream().mapToInt(Integer::intValue).sum();
  }
}
