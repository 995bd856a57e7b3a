package org.vinecellar.store.ingest;

import java.util.HashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;

/**
 * Tests that a failed set-up kept from running and that the file says nothing of: those that the
 * previous run had in that very suite and this run has not.
 */
final class NotReached {
  private final DSLContext dsl;
  private final Reservation place;

  NotReached(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.place = place;
  }

  /**
   * Adds a row for each, and counts it.
   *
   * @param firstOrdinal the first that this part has not used
   */
  void add(long previousRun, int firstOrdinal, SuiteCounts counts) {
    Map<Key128, SuitePath> suites = new HashMap<>();
    counts.suites().forEach(suite -> suites.put(suite.key(), suite));
    for (Record row :
        dsl.fetch(
            "with stopped as (select distinct t.suite_id, r.first_line from result r"
                + " join test t on t.project_id = r.project_id and t.id = r.test_id"
                + " where r.project_id = ? and r.run_id = ? and r.part_no = ?"
                + " and r.outcome in (1, 2) and r.kind = ?),"
                + " missed as (select r.test_id, t.suite_id, max(s.first_line) as line"
                + " from result r"
                + " join test t on t.project_id = r.project_id and t.id = r.test_id"
                + " join stopped s on s.suite_id = t.suite_id"
                + " where r.project_id = ? and r.run_id = ? and r.kind = ? and not r.superseded"
                + " and not exists (select 1 from result n where n.project_id = r.project_id"
                + " and n.test_id = r.test_id and n.run_id = ?)"
                + " group by r.test_id, t.suite_id),"
                + " added as (insert into result (project_id, run_id, part_no, ordinal, test_id,"
                + " outcome, kind, attempts, superseded, duration_us, started_at, first_line)"
                + " select ?, ?, ?, ? + row_number() over (order by test_id) - 1, test_id, ?, ?,"
                + " 1, false, null, null, 'set-up failed: ' || line from missed"
                + " returning test_id)"
                + " select s.key_high, s.key_low, count(*) from added a join missed m on m.test_id = a.test_id"
                + " join suite s on s.project_id = ? and s.id = m.suite_id group by 1, 2",
            place.projectId(),
            place.runId(),
            place.partNo(),
            ResultKind.SETUP.code(),
            place.projectId(),
            previousRun,
            ResultKind.TEST.code(),
            place.runId(),
            place.projectId(),
            place.runId(),
            place.partNo(),
            firstOrdinal,
            Outcome.NOT_REACHED.code(),
            ResultKind.TEST.code(),
            place.projectId())) {
      SuitePath suite = suites.get(new Key128(row.get(0, Long.class), row.get(1, Long.class)));
      if (suite != null) {
        counts.set(suite, counts.of(suite).add(Outcome.NOT_REACHED, row.get(2, Integer.class)));
      }
    }
  }
}
