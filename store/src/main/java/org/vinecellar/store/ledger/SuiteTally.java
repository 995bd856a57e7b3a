package org.vinecellar.store.ledger;

import static java.util.stream.Collectors.joining;
import static org.vinecellar.store.ledger.Tallies.COLUMNS;
import static org.vinecellar.store.ledger.Tallies.OWN;
import static org.vinecellar.store.ledger.Tallies.each;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.ToLongFunction;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.store.results.Packed;

/**
 * What stands of a run in each suite. A suite's own numbers are counted from its results; what it
 * holds with the suites inside it is the sum of theirs.
 */
final class SuiteTally {
  /** Stands for tests outside of any suite. */
  private static final long NO_SUITE = 0;

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;

  SuiteTally(DSLContext dsl, int projectId, long runId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
  }

  /** The suites that a part has results in. */
  Set<Long> ofPart(int part) {
    return new HashSet<>(
        dsl.fetch(
                "select distinct coalesce(t.suite_id, 0) from result r"
                    + " join test t on t.project_id = ? and t.id = r.test_id"
                    + " where r.run_id = ? and r.place between ? and ?",
                projectId,
                runId,
                Packed.first(part),
                Packed.last(part))
            .getValues(0, Long.class));
  }

  /** Counts anew what stands in some suites; and in all of the run what they add up to. */
  void recount(Collection<Long> suites) {
    if (suites.isEmpty()) {
      return;
    }
    Integer[] ids = suites.stream().map(Long::intValue).toArray(Integer[]::new);
    write(
        Tallies.standing(
            "coalesce(t.suite_id, 0)",
            "result r join test t on t.project_id = ? and t.id = r.test_id"
                + " where r.run_id = ? and not r.superseded"
                + " and coalesce(t.suite_id, 0) = any(cast(? as int[]))"),
        ids,
        projectId,
        runId,
        ids);
  }

  /** Takes numbers that were counted while the results were written; otherwise the same. */
  void enter(Map<Long, Counts> suites) {
    if (suites.isEmpty()) {
      return;
    }
    Integer[] ids = suites.keySet().stream().map(Long::intValue).toArray(Integer[]::new);
    Integer[][] numbers = new Integer[COLUMNS.size()][ids.length];
    for (int i = 0; i < ids.length; i++) {
      Integer[] row = Tallies.numbers(suites.getOrDefault(ids[i].longValue(), Counts.NONE));
      for (int column = 0; column < row.length; column++) {
        numbers[column][i] = row[column];
      }
    }
    List<Object> bindings = new ArrayList<>();
    bindings.add(ids);
    bindings.addAll(Arrays.asList((Object[]) numbers));
    write(
        "select * from unnest(cast(? as int[]), "
            + each(COLUMNS, "cast(? as int[])")
            + ") as w (id, "
            + String.join(", ", COLUMNS)
            + ")",
        ids,
        bindings.toArray());
  }

  /** Those of the suites in which the run has something. */
  Set<Long> known(Collection<Long> suites) {
    return new HashSet<>(
        dsl.fetch(
                "select suite_id from run_suite where run_id = ? and suite_id = any(cast(? as int[]))",
                runId,
                suites.stream().map(Long::intValue).toArray(Integer[]::new))
            .getValues(0, Long.class));
  }

  private void write(String own, Integer[] suites, Object... bindings) {
    List<Object> all = new ArrayList<>(Arrays.asList(bindings));
    all.addAll(List.of(suites, runId, suites, projectId, runId, projectId));
    dsl.execute(
        "with recursive counted as ("
            + own
            + "), own as (select k.id, "
            + each(COLUMNS, "coalesce(c.$, 0) as $")
            + " from unnest(cast(? as int[])) as k(id) left join counted c on c.id = k.id"
            + " union all select suite_id, "
            + each(OWN, "$")
            + " from run_suite where run_id = ? and suite_id <> all(cast(? as int[]))),"
            + " up (id, suite) as (select id, id from own"
            + " union all select u.id, s.parent_id from up u"
            + " join suite s on s.project_id = ? and s.id = u.suite"
            + " where s.parent_id is not null),"
            + " sums as (select u.suite, "
            + each(COLUMNS, "sum(o.$) as $")
            + " from up u join own o on o.id = u.id group by 1)"
            + " insert into run_suite as x (run_id, suite_id, parent_id, "
            + String.join(", ", COLUMNS)
            + ", "
            + String.join(", ", OWN)
            + ") select ?, a.suite, s.parent_id, "
            + each(COLUMNS, "a.$")
            + ", "
            + each(COLUMNS, "coalesce(o.$, 0)")
            + " from sums a left join own o on o.id = a.suite"
            + " left join suite s on s.project_id = ? and s.id = a.suite"
            + " on conflict (run_id, suite_id) do update set "
            + each(COLUMNS, "$ = excluded.$")
            + ", "
            + each(OWN, "$ = excluded.$")
            + " where ("
            + each(COLUMNS, "x.$")
            + ", "
            + each(OWN, "x.$")
            + ") is distinct from ("
            + each(COLUMNS, "excluded.$")
            + ", "
            + each(OWN, "excluded.$")
            + ")",
        all.toArray());
    // What a part has taken with it.
    dsl.execute(
        "delete from run_suite where run_id = ? and "
            + COLUMNS.stream().map(column -> column + " = 0").collect(joining(" and ")),
        runId);
  }

  /** Adds to what is counted; for batches that come too often to count all of a part each time. */
  void add(SuiteCounts more, ToLongFunction<SuitePath> number) {
    Map<SuitePath, Counts> sums = more.rolledUp();
    var batch =
        dsl.batch(
            "insert into run_suite as x (run_id, suite_id, parent_id, "
                + String.join(", ", COLUMNS)
                + ", "
                + String.join(", ", OWN)
                + ") values (?, ?, cast(nullif(?, 0) as int), "
                + each(COLUMNS, "?")
                + ", "
                + each(OWN, "?")
                + ") on conflict (run_id, suite_id) do update set "
                + each(COLUMNS, "$ = x.$ + excluded.$")
                + ", "
                + each(OWN, "$ = x.$ + excluded.$"));
    int rows = 0;
    for (Map.Entry<SuitePath, Counts> sum : sums.entrySet()) {
      SuitePath suite = sum.getKey();
      batch =
          batch.bind(
              row(
                  number.applyAsLong(suite),
                  number.applyAsLong(suite.parent()),
                  sum.getValue(),
                  more.of(suite)));
      rows++;
    }
    Counts loose = more.of(SuitePath.ROOT);
    if (!loose.equals(Counts.NONE)) {
      batch = batch.bind(row(NO_SUITE, NO_SUITE, loose, loose));
      rows++;
    }
    if (rows > 0) {
      batch.execute();
    }
  }

  private Object[] row(long suite, long parent, Counts all, Counts own) {
    List<Object> row = new ArrayList<>(List.of(runId, suite, parent));
    row.addAll(List.of(Tallies.numbers(all)));
    row.addAll(List.of(Tallies.numbers(own)));
    return row.toArray();
  }

  /** What stands in all of the run. */
  Counts sum() {
    Record sums =
        dsl.fetchSingle(
            "select " + each(OWN, "coalesce(sum($), 0)") + " from run_suite where run_id = ?",
            runId);
    return RunRows.counts(sums, 0);
  }
}
