package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.core.trust.flaky.Sight;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Rows;
import org.vinecellar.store.trust.Causes.Cause;

/** What runs tell of some tests. */
final class Sights {
  /** Causes with more results in a run than this have many tests, in however many variants. */
  private static final int MANY_RESULTS = 40;

  /**
   * When more tests of a run failed by themselves, or passed when tried again, it is not theirs.
   */
  private static final int MOST = 2_000;

  /** What is one of so many results is looked for. */
  private static final int FEW = 20;

  private final DSLContext dsl;
  private final int projectId;
  private final Lineage lineage;

  Sights(DSLContext dsl, int projectId, Lineage lineage) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.lineage = lineage;
  }

  /**
   * Tests of a run that failed by themselves, or may have. None when those are so many that they
   * tell of the run.
   */
  List<Integer> stumbling(Nights.Known known, boolean bad) {
    List<Integer> tests = new ArrayList<>();
    long run = known.night().run();
    if (!bad && known.night().failing() > 0) {
      tests.addAll(
          few(
              dsl.fetch(
                  // Asked for each failure: a database without statistics would look through all
                  // failures for each group.
                  "select distinct f.test_id from failure f where f.run_id = ?"
                      + " and (select g.results from group_run g where g.project_id = ?"
                      + " and g.group_id = f.group_id and g.run_id = f.run_id) <= ? limit ?",
                  run,
                  projectId,
                  MANY_RESULTS,
                  MOST + 1)));
    }
    if (!bad && known.night().stumbling() > 0 && known.night().stumbling() <= MOST) {
      tests.addAll(
          dsl.fetch(
                  "select distinct x.test_id from result x where x.run_id = ? and x.outcome = 0"
                      + " and x.stumbled and x.kind = 0 and not x.superseded"
                      + " and coalesce((select s.reach from stumble s where s.run_id = x.run_id"
                      + " and s.place = x.place), 1) <= ?",
                  run,
                  MANY_RESULTS)
              .getValues(0, Integer.class));
    }
    tests.replaceAll(lineage::latest);
    return tests;
  }

  private static List<Integer> few(Result<Record> rows) {
    return rows.size() > MOST ? List.of() : rows.getValues(0, Integer.class);
  }

  /**
   * What each of some runs tells of some tests; nothing of those that it did not have.
   *
   * @param earlier the runs before them, which tell what is usual
   * @param bad those runs in which so much failed that no failure tells of its test
   */
  Map<Long, Map<Integer, Sight>> of(
      List<Night> nights, List<Night> earlier, Collection<Long> bad, Collection<Integer> tests) {
    Map<Long, Night> byRun = new HashMap<>();
    nights.forEach(night -> byRun.put(night.run(), night));
    Map<Long, Map<Integer, Sight>> sights = new HashMap<>();
    if (tests.isEmpty() || nights.isEmpty()) {
      return sights;
    }
    List<Told> rows = told(nights, tests);
    Causes causes = new Causes(dsl, projectId);
    causes.meet(rows.stream().filter(row -> row.group != null).map(Told::cause).toList());
    causes.lookBack(
        nights,
        earlier,
        rows.stream().filter(row -> row.group != null && !row.certain).map(Told::cause).toList());
    for (Told row : rows) {
      Night night = byRun.get((long) row.run);
      if (night != null) {
        sights
            .computeIfAbsent(night.run(), run -> new HashMap<>())
            .merge(
                lineage.latest(row.test),
                sight(row, night, bad.contains(night.run()), causes),
                Sights::both);
      }
    }
    return sights;
  }

  /**
   * A result.
   *
   * @param group of its failure, or of those that failed with what it met before it passed; null
   *     when there is none
   * @param reach how many tests met what it met before it passed
   * @param certain whether what it says is one cause for sure
   */
  private record Told(
      int run,
      int test,
      boolean failed,
      int attempts,
      boolean stumbled,
      @Nullable Integer group,
      int reach,
      boolean certain) {
    Cause cause() {
      return new Cause(run, Objects.requireNonNull(group));
    }

    boolean tells() {
      return failed || stumbled;
    }
  }

  private List<Told> told(List<Night> nights, Collection<Integer> tests) {
    List<Told> told = new ArrayList<>();
    Set<Integer> all = lineage.withEarlier(tests);
    List<Long> runs = nights.stream().map(Night::run).toList();
    long results = nights.stream().mapToLong(Night::tests).sum();
    if ((long) all.size() * nights.size() * FEW < results) {
      // One after the other: only so each of the tests is looked for, and not all results read.
      runs.forEach(run -> read("= ?", run, all, told));
    } else {
      read("= any(?)", Ids.of(runs), all, told);
    }
    return told;
  }

  private void read(String which, Object runs, Set<Integer> tests, List<Told> told) {
    Rows.each(
        dsl.resultQuery(
            "select m.run_id, m.test_id, m.outcome > 0, m.attempts, m.stumbled,"
                + " coalesce(f.group_id, s.group_id)::int, coalesce(s.reach, 1), coalesce(f.carries, s.certain, false)"
                + " from result m left join failure f on m.outcome > 0"
                + " and f.run_id = m.run_id and f.place = m.place left join stumble s"
                + " on m.stumbled and s.run_id = m.run_id and s.place = m.place where m.run_id "
                + which
                + " and m.test_id = any(?) and not m.superseded and m.kind = 0 and m.outcome <= 2",
            runs,
            Ids.of(tests)),
        row -> {
          int number = row.getInt(6);
          Integer group = row.wasNull() ? null : (Integer) number;
          told.add(
              new Told(
                  row.getInt(1),
                  row.getInt(2),
                  row.getBoolean(3),
                  row.getInt(4),
                  row.getBoolean(5),
                  group,
                  row.getInt(7),
                  row.getBoolean(8)));
        });
  }

  private static Sight sight(Told row, Night night, boolean bad, Causes causes) {
    boolean failed = row.failed;
    int tries = Math.max(1, row.attempts);
    // Of the tries of a test that passed in the end, the last alone did.
    int stumbles = row.stumbled ? Math.max(1, tries - 1) : 0;
    boolean many = bad || !failed && night.stumbling() > MOST;
    double common = 0;
    if (many && row.tells()) {
      common = 1;
    } else if (row.tells()) {
      int reach = row.group == null ? row.reach : Math.max(row.reach, causes.reach(row.cause()));
      int usual = row.group == null ? 0 : causes.usual(row.cause());
      common = night.common(reach, usual, row.certain);
    }
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
