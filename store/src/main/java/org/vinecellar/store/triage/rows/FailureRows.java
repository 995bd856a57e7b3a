package org.vinecellar.store.triage.rows;

import static org.vinecellar.store.generated.Tables.FAILURE;

import java.util.List;
import org.jooq.DSLContext;

/** The failures of a run as rows: each with its group. */
public final class FailureRows {
  private static final String GROUPED =
      "(select * from unnest(?::int[], ?::int[], ?::int[], ?::int[], ?::int[], ?::boolean[],"
          + " ?::smallint[]) as n(place, test_id, group_id, found_group_id, joined, carries, outcome))";

  private static final String INSERT =
      "insert into failure as f (run_id, place, group_id, found_group_id, joined, carries, test_id,"
          + " outcome) select ?, n.place, n.group_id, n.found_group_id, n.joined, n.carries, n.test_id,"
          + " n.outcome from ";

  /** What is in its group already stays as it is, with what was decided of it. */
  private static final String CHANGE =
      "with n as "
          + GROUPED
          + ", gone as (delete from failure f"
          + " where f.run_id = ? and not exists (select 1 from n where n.place = f.place)) "
          + INSERT
          + "n on conflict (run_id, place) do update set group_id = excluded.group_id,"
          + " found_group_id = excluded.found_group_id,"
          + " joined = excluded.joined, carries = excluded.carries, test_id = excluded.test_id,"
          + " outcome = excluded.outcome,"
          + " decision_id = case when f.group_id = excluded.group_id or f.origin = 1"
          + " then f.decision_id end,"
          + " origin = case when f.group_id = excluded.group_id or f.origin = 1 then f.origin end"
          + " where (f.group_id, f.found_group_id, f.joined, f.carries, f.test_id, f.outcome)"
          + " is distinct from (excluded.group_id, excluded.found_group_id, excluded.joined, excluded.carries, excluded.test_id,"
          + " excluded.outcome)";

  private final DSLContext dsl;
  private final long runId;

  /** Of a run that is held, so that nobody else writes them. */
  public FailureRows(DSLContext dsl, long runId) {
    this.dsl = dsl;
    this.runId = runId;
  }

  /**
   * A failure with its group.
   *
   * @param found the group that its error leads to; another one than its group where people said so
   * @param joined how it came into the group, by its code
   * @param carries whether what was decided at another test of the group holds for it
   * @param outcome of the test, by its code; 0 for a set-up
   */
  public record Row(
      int place, int test, int group, int found, int joined, boolean carries, int outcome) {}

  /** These are all that the run has. */
  public void write(List<Row> rows) {
    int n = rows.size();
    Integer[] place = new Integer[n];
    Integer[] test = new Integer[n];
    Integer[] group = new Integer[n];
    Integer[] found = new Integer[n];
    Integer[] joined = new Integer[n];
    Boolean[] carries = new Boolean[n];
    Short[] outcome = new Short[n];
    for (int i = 0; i < n; i++) {
      Row row = rows.get(i);
      place[i] = row.place;
      test[i] = row.test;
      group[i] = row.group;
      found[i] = row.found;
      joined[i] = row.joined;
      carries[i] = row.carries;
      outcome[i] = (short) row.outcome;
    }
    if (dsl.fetchExists(FAILURE, FAILURE.RUN_ID.eq(runId))) {
      dsl.execute(CHANGE, place, test, group, found, joined, carries, outcome, runId, runId);
    } else {
      dsl.execute(
          INSERT + GROUPED + " n", runId, place, test, group, found, joined, carries, outcome);
    }
  }
}
