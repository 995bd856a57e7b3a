package org.vinecellar.store.ingest;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.SuitePath;

/** What a run holds in each suite, the suites inside it included. */
final class SuiteRows {
  private final DSLContext dsl;
  private final Reservation place;

  SuiteRows(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.place = place;
  }

  void add(Dictionary dictionary, SuiteCounts suites) throws SQLException {
    List<Object[]> rows = new ArrayList<>();
    dictionary.learn(suites.suites());
    for (Map.Entry<SuitePath, Counts> entry : suites.rolledUp().entrySet()) {
      Counts c = entry.getValue();
      rows.add(
          new Object[] {
            place.projectId(),
            place.runId(),
            dictionary.suite(entry.getKey()),
            dictionary.suite(entry.getKey().parent()),
            c.passed(),
            c.failed(),
            c.errored(),
            c.skipped(),
            c.notReached(),
            c.retried(),
            c.setUps()
          });
    }
    if (rows.isEmpty()) {
      return;
    }
    var batch =
        dsl.batch(
            "insert into run_suite as s (project_id, run_id, suite_id, parent_id, passed, failed,"
                + " errored, skipped, not_reached, retried, set_ups)"
                + " values (?, ?, ?, cast(? as bigint), ?, ?, ?, ?, ?, ?, ?)"
                + " on conflict (project_id, run_id, suite_id) do update set"
                + " passed = s.passed + excluded.passed, failed = s.failed + excluded.failed,"
                + " errored = s.errored + excluded.errored,"
                + " skipped = s.skipped + excluded.skipped,"
                + " not_reached = s.not_reached + excluded.not_reached,"
                + " retried = s.retried + excluded.retried,"
                + " set_ups = s.set_ups + excluded.set_ups");
    for (Object[] row : rows) {
      batch = batch.bind(row);
    }
    batch.execute();
  }

  /** Takes away what the standing results of one part have added. */
  void subtract(int partNo) {
    shift(-1, "r.part_no = ? and not r.superseded", partNo);
    dsl.execute(
        "delete from run_suite where project_id = ? and run_id = ?"
            + " and passed + failed + errored + skipped + not_reached + set_ups = 0",
        place.projectId(),
        place.runId());
  }

  /** Adds results that are there already; their suites have rows. */
  void addAgain(Integer[] parts, Integer[] ordinals) {
    shift(
        1, "(r.part_no, r.ordinal) in (select * from unnest(?::int[], ?::int[]))", parts, ordinals);
  }

  private void shift(int sign, String which, Object... values) {
    List<Object> bindings = new ArrayList<>();
    bindings.add(place.projectId());
    bindings.add(place.runId());
    bindings.addAll(List.of(values));
    bindings.addAll(List.of(place.projectId(), sign, sign, sign, sign, sign, sign, sign));
    bindings.addAll(List.of(place.projectId(), place.runId()));
    dsl.execute(
        "with recursive own as (select t.suite_id as id,"
            + " count(*) filter (where r.kind = 0 and r.outcome = 0) as p,"
            + " count(*) filter (where r.kind = 0 and r.outcome = 1) as f,"
            + " count(*) filter (where r.kind = 0 and r.outcome = 2) as e,"
            + " count(*) filter (where r.kind = 0 and r.outcome = 3) as s,"
            + " count(*) filter (where r.kind = 0 and r.outcome = 4) as n,"
            + " count(*) filter (where r.kind = 0 and r.attempts > 1) as t,"
            + " count(*) filter (where r.kind = 1 and r.outcome in (1, 2)) as c"
            + " from result r join test t on t.project_id = r.project_id and t.id = r.test_id"
            + " where r.project_id = ? and r.run_id = ? and "
            + which
            + " and t.suite_id is not null group by 1),"
            + " up as (select * from own union all"
            + " select s.parent_id, u.p, u.f, u.e, u.s, u.n, u.t, u.c from up u"
            + " join suite s on s.project_id = ? and s.id = u.id where s.parent_id is not null),"
            + " sums as (select id, sum(p) as p, sum(f) as f, sum(e) as e, sum(s) as s,"
            + " sum(n) as n, sum(t) as t, sum(c) as c from up group by id)"
            + " update run_suite x set passed = passed + ? * p, failed = failed + ? * f,"
            + " errored = errored + ? * e, skipped = skipped + ? * s,"
            + " not_reached = not_reached + ? * n, retried = retried + ? * t,"
            + " set_ups = set_ups + ? * c from sums"
            + " where x.project_id = ? and x.run_id = ? and x.suite_id = sums.id",
        bindings.toArray());
  }
}
