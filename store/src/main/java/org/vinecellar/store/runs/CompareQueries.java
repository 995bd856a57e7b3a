package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.TEST;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.runs.Comparison;
import org.vinecellar.store.ledger.RunComparison;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;

/**
 * A run beside another one, with the names of what differs, in a few queries however much that is.
 */
final class CompareQueries {
  private final DSLContext dsl;
  private final int projectId;

  CompareQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Comparison compare(long runId, long with, int limit) {
    RunComparison.Found found = RunComparison.between(dsl, projectId, runId, with, limit);
    List<Long> ids = found.some().stream().map(RunComparison.Different::test).toList();
    Map<Long, Record> tests =
        dsl.select(KeptTests.FIELDS)
            .from(TEST)
            .where(TEST.PROJECT_ID.eq(projectId), TEST.ID.in(ids))
            .fetchMap(TEST.ID);
    KeptTests known = new KeptTests(dsl, projectId, tests.values());
    Map<Long, Integer> places = places(runId, ids);
    List<Comparison.Difference> differences = new ArrayList<>();
    for (RunComparison.Different one : found.some()) {
      Record test = tests.get(one.test());
      Integer place = places.get(one.test());
      if (test != null) {
        differences.add(
            new Comparison.Difference(
                known.of(test),
                one.change(),
                place == null ? null : Packed.id(place),
                one.before(),
                one.now()));
      }
    }
    return new Comparison(found.counts(), differences);
  }

  /** Where tests stand in the run; of several results of one, where it fails. */
  private Map<Long, Integer> places(long runId, List<Long> tests) {
    Map<Long, Integer> places = new HashMap<>();
    dsl.fetch(
            "select test_id, min(place) from result where run_id = ? and test_id = any(?)"
                + " and not superseded group by test_id, outcome order by outcome in (1, 2)",
            runId,
            Ids.of(tests))
        .forEach(row -> places.put(row.get(0, Long.class), row.get(1, Integer.class)));
    return places;
  }
}
