package org.vinecellar.store.ledger;

import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.store.sql.Sql;

/**
 * What a run spent on failing, and on trying again.
 *
 * @param failingUs of results of tests that stand and failed
 * @param againUs of all that ran beside the last try of a result that stands
 */
record LostTime(long failingUs, long againUs) {
  static final LostTime NONE = new LostTime(0, 0);

  /** Said so that the index of what did not pass is seen. */
  private static final String FAILING =
      "select coalesce(sum(r.duration_us), 0)::bigint as failing from result r where r.run_id = ?"
          + " and r.outcome <> 0 and r.outcome in (1, 2) and not r.superseded and r.kind = 0";

  private static final String EARLIER =
      "select coalesce(sum(a.duration_us), 0)::bigint as again from attempt a join result r"
          + " on r.run_id = a.run_id and r.place = a.place where a.run_id = ?"
          + " and not r.superseded and r.kind = 0 and a.attempt_no < r.attempts - 1";

  private static final String SUPERSEDED =
      "select coalesce(sum(r.duration_us), 0)::bigint as again from result r where r.run_id = ?"
          + " and r.superseded and r.kind = 0";

  /** Counted anew; {@code shared} is whether a part may stand for another. */
  static LostTime of(DSLContext dsl, long run, boolean shared) {
    long earlier = Sql.withoutLoops(dsl, () -> one(dsl, EARLIER, run));
    long again = earlier + (shared ? one(dsl, SUPERSEDED, run) : 0);
    return new LostTime(one(dsl, FAILING, run), again);
  }

  private static long one(DSLContext dsl, String sum, long run) {
    Record row = dsl.fetchSingle(sum, run);
    return row.get(0, Long.class);
  }
}
