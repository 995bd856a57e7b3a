package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.core.trust.flaky.Sight;
import org.vinecellar.store.sql.Ids;

/** What runs tell of some tests. */
final class Sights {
  /** Causes with more results in a run than this have many tests, in however many variants. */
  private static final int MANY_RESULTS = 40;

  /** So many failures of a cause are counted by their tests. */
  private static final int COUNTED = 100;

  private final DSLContext dsl;
  private final int projectId;
  private final Lineage lineage;

  Sights(DSLContext dsl, int projectId, Lineage lineage) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.lineage = lineage;
  }

  /** Tests of a run that failed by themselves, or may have. */
  List<Integer> stumbling(Nights.Known known, boolean bad) {
    List<Integer> tests = new ArrayList<>();
    long run = known.night().run();
    if (!bad && known.night().failing() > 0) {
      tests.addAll(
          dsl.fetch(
                  "select distinct f.test_id from group_run g join failure f on f.run_id = g.run_id"
                      + " and f.group_id = g.group_id where g.project_id = ? and g.run_id = ?"
                      + " and g.results <= ?",
                  projectId,
                  run,
                  MANY_RESULTS)
              .getValues(0, Integer.class));
    }
    if (known.retried() > 0) {
      tests.addAll(
          dsl.fetch(
                  "select distinct test_id from result where run_id = ? and outcome = 0"
                      + " and stumbled and kind = 0 and not superseded",
                  run)
              .getValues(0, Integer.class));
    }
    tests.replaceAll(lineage::latest);
    return tests;
  }

  /**
   * What each of some runs tells of some tests; nothing of those that it did not have.
   *
   * @param bad those runs in which so much failed that no failure tells of its test
   */
  Map<Long, Map<Integer, Sight>> of(
      List<Night> nights, Collection<Long> bad, Collection<Integer> tests) {
    Map<Long, Night> byRun = new HashMap<>();
    nights.forEach(night -> byRun.put(night.run(), night));
    Map<Long, Map<Integer, Sight>> sights = new HashMap<>();
    if (tests.isEmpty() || nights.isEmpty()) {
      return sights;
    }
    for (Record row :
        dsl.fetch(
            "with mine as materialized (select run_id, test_id, place, outcome, attempts, stumbled"
                + " from result where run_id = any(?) and test_id = any(?) and not superseded"
                + " and kind = 0 and outcome <= 2),"
                + " failed as (select m.run_id, m.place, f.group_id from mine m join failure f"
                + " on f.run_id = m.run_id and f.place = m.place where m.outcome > 0),"
                + " reach as (select g.run_id, g.group_id, (select count(distinct"
                + " coalesce(t.base_low, t.key_low)) from (select x.test_id from failure x"
                + " where x.group_id = g.group_id and x.run_id = g.run_id limit ?) x"
                + " join test t on t.project_id = ? and t.id = x.test_id) as tests"
                + " from (select distinct run_id, group_id from failed) g)"
                + " select m.run_id, m.test_id, m.outcome, m.attempts, m.stumbled,"
                + " coalesce(c.tests, 1)::int as reach from mine m left join failed f"
                + " on f.run_id = m.run_id and f.place = m.place"
                + " left join reach c on c.run_id = f.run_id and c.group_id = f.group_id",
            Ids.of(byRun.keySet()),
            Ids.of(lineage.withEarlier(tests)),
            COUNTED,
            projectId)) {
      Night night = byRun.get(row.get("run_id", Long.class));
      if (night != null) {
        sights
            .computeIfAbsent(night.run(), run -> new HashMap<>())
            .merge(
                lineage.latest(row.get("test_id", Integer.class)),
                sight(row, night, bad.contains(night.run())),
                Sights::both);
      }
    }
    return sights;
  }

  private static Sight sight(Record row, Night night, boolean bad) {
    boolean failed = row.get("outcome", Integer.class) > 0;
    int tries = Math.max(1, row.get("attempts", Integer.class));
    // Of the tries of a test that passed in the end, the last alone did.
    int stumbles = row.get("stumbled", Boolean.class) ? Math.max(1, tries - 1) : 0;
    double common = !failed ? 0 : bad ? 1 : night.common(row.get("reach", Integer.class));
    return new Sight(
        night.commit(),
        night.branch(),
        night.environment(),
        failed ? tries : stumbles,
        failed ? 0 : Math.max(1, tries - stumbles),
        common);
  }

  /**
   * Of several results of a test in a run, all tell; of those with a common cause, only the others.
   */
  private static Sight both(Sight one, Sight other) {
    if (one.common() != other.common()) {
      return one.common() > other.common() ? other : one;
    }
    return new Sight(
        one.commit(),
        one.branch(),
        one.environment(),
        one.failed() + other.failed(),
        one.passed() + other.passed(),
        one.common());
  }

  /** What a run tells of a test that it did not have. */
  static Sight none(Night night) {
    return new Sight(night.commit(), night.branch(), night.environment(), 0, 0, 0);
  }

  /** What there is of a test in a run. */
  static Sight at(@Nullable Map<Integer, Sight> run, int test, Night night) {
    Sight sight = run == null ? null : run.get(test);
    return sight == null ? none(night) : sight;
  }
}
