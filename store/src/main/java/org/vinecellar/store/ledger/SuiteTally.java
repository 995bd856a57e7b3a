package org.vinecellar.store.ledger;

import static java.util.stream.Collectors.joining;
import static org.vinecellar.store.ledger.Tallies.COLUMNS;
import static org.vinecellar.store.ledger.Tallies.OWN;
import static org.vinecellar.store.ledger.Tallies.each;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.ToLongFunction;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;

/**
 * What stands of a run in each suite. A suite's own numbers are counted from its results; what it
 * holds with the suites inside it is the sum of theirs.
 */
final class SuiteTally {
  /** Stands for tests outside of any suite. */
  private static final long NO_SUITE = 0;

  private static final String INTO =
      "insert into run_suite as x (run_id, suite_id, parent_id, "
          + String.join(", ", COLUMNS)
          + ", "
          + String.join(", ", OWN)
          + ")";

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
    write(
        suites,
        Tallies.standing(
            "coalesce(t.suite_id, 0)",
            "result r join test t on t.project_id = ? and t.id = r.test_id"
                + " where r.run_id = ? and not r.superseded"
                + " and coalesce(t.suite_id, 0) = any(?)"),
        projectId,
        runId,
        Ids.of(suites));
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
    bindings.add(Ids.of(ids));
    bindings.addAll(Arrays.asList((Object[]) numbers));
    write(
        suites.keySet(),
        "select * from unnest(?, "
            + each(COLUMNS, "cast(? as int[])")
            + ") as w (id, "
            + String.join(", ", COLUMNS)
            + ")",
        bindings.toArray());
  }

  /** Those of the suites in which the run has something. */
  Set<Long> known(Collection<Long> suites) {
    return new HashSet<>(
        dsl.fetch(
                "select suite_id from run_suite where run_id = ? and suite_id = any(?)",
                runId,
                Ids.of(suites))
            .getValues(0, Long.class));
  }

  private void write(Collection<Long> suites, String own, Object... bindings) {
    List<Object> all = new ArrayList<>(List.of(runId));
    all.addAll(Arrays.asList(bindings));
    all.addAll(List.of(Ids.of(suites), projectId));
    dsl.execute(
        INTO
            + " select ?, k.id, s.parent_id, "
            + each(COLUMNS, "coalesce(c.$, 0)")
            + ", "
            + each(COLUMNS, "coalesce(c.$, 0)")
            + " from ("
            + own
            + ") c right join unnest(?) as k(id) on k.id = c.id"
            + " left join suite s on s.project_id = ? and s.id = k.id"
            + " on conflict (run_id, suite_id) do update set "
            + each(COLUMNS, "$ = excluded.$")
            + ", "
            + each(OWN, "$ = excluded.$"),
        all.toArray());
    sumUp(suites);
  }

  /**
   * Adds up what suites hold, from those whose own numbers are new to the outermost around them. No
   * other suite of the run is touched.
   */
  private void sumUp(Collection<Long> suites) {
    Map<Long, Long> parents = new HashMap<>();
    dsl.fetch(
            "with recursive up (id, parent) as (select id, parent_id from suite"
                + " where project_id = ? and id = any(?)"
                + " union select s.id, s.parent_id from up"
                + " join suite s on s.project_id = ? and s.id = up.parent)"
                + " select id, parent from up where parent is not null",
            projectId,
            Ids.of(suites),
            projectId)
        .forEach(row -> parents.put(row.get(0, Long.class), row.get(1, Long.class)));
    Set<Long> holding = new TreeSet<>(parents.values());
    holding.addAll(
        dsl.fetch(
                "select distinct parent_id from run_suite"
                    + " where run_id = ? and parent_id = any(?)",
                runId,
                Ids.of(suites))
            .getValues(0, Long.class));
    TreeMap<Integer, List<Long>> levels = new TreeMap<>(Comparator.reverseOrder());
    for (Long suite : holding) {
      levels.computeIfAbsent(depth(suite, parents), depth -> new ArrayList<>()).add(suite);
    }
    levels.values().forEach(this::sumUpLevel);
    holding.addAll(suites);
    // What a part has taken with it.
    dsl.execute(
        "delete from run_suite where run_id = ? and suite_id = any(?) and "
            + COLUMNS.stream().map(column -> column + " = 0").collect(joining(" and ")),
        runId,
        Ids.of(holding));
  }

  /** How many suites there are around it. */
  private static int depth(Long suite, Map<Long, Long> parents) {
    int depth = 0;
    for (Long at = parents.get(suite); at != null; at = parents.get(at)) {
      depth++;
    }
    return depth;
  }

  /** Suites that do not hold each other. */
  private void sumUpLevel(Collection<Long> suites) {
    dsl.execute(
        INTO
            + " select ?, k.id, s.parent_id, "
            + each(COLUMNS, "coalesce(i.own_$, 0) + coalesce(c.$, 0)")
            + ", "
            + each(OWN, "coalesce(i.$, 0)")
            + " from unnest(?) as k(id)"
            + " join suite s on s.project_id = ? and s.id = k.id"
            + " left join run_suite i on i.run_id = ? and i.suite_id = k.id"
            + " left join (select parent_id, "
            + each(COLUMNS, "sum($) as $")
            + " from run_suite where run_id = ? and parent_id = any(?) group by 1) c"
            + " on c.parent_id = k.id"
            + " on conflict (run_id, suite_id) do update set "
            + each(COLUMNS, "$ = excluded.$")
            + " where ("
            + each(COLUMNS, "x.$")
            + ") is distinct from ("
            + each(COLUMNS, "excluded.$")
            + ")",
        runId,
        Ids.of(suites),
        projectId,
        runId,
        runId,
        Ids.of(suites));
  }

  /** Adds to what is counted; for batches that come too often to count all of a part each time. */
  void add(SuiteCounts more, ToLongFunction<SuitePath> number) {
    Map<SuitePath, Counts> sums = more.rolledUp();
    var batch =
        dsl.batch(
            INTO
                + " values (?, ?, cast(nullif(?, 0) as int), "
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
