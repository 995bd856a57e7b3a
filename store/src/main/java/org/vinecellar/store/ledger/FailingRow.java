package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.RUN_FAILING;

import java.util.Arrays;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.store.results.FailingTests;

/** The row of a run in which it is kept which of its tests failed. */
final class FailingRow {
  /** Said so that the index of what did not pass is seen. */
  private static final String COUNTED =
      "select r.test_id, (count(*) filter (where r.outcome = 1))::int as failed,"
          + " (count(*) filter (where r.outcome = 2))::int as errored from result r"
          + " where r.run_id = ? and r.outcome <> 0 and r.outcome in (1, 2)"
          + " and not r.superseded and r.kind = 0 group by 1 order by 1";

  private static final int FETCHED = 5_000;

  private FailingRow() {}

  /** Counts it anew. */
  static void keep(DSLContext dsl, long run) {
    byte[] tests = counted(dsl, run);
    if (tests.length == 0) {
      dsl.deleteFrom(RUN_FAILING).where(RUN_FAILING.RUN_ID.eq(run)).execute();
    } else {
      dsl.insertInto(RUN_FAILING, RUN_FAILING.RUN_ID, RUN_FAILING.TESTS)
          .values(run, tests)
          .onConflict(RUN_FAILING.RUN_ID)
          .doUpdate()
          .set(RUN_FAILING.TESTS, tests)
          .where(RUN_FAILING.TESTS.ne(tests))
          .execute();
    }
  }

  /** Whether what is kept is not what the results say. */
  static boolean isWrong(DSLContext dsl, long run) {
    byte[] kept =
        dsl.select(RUN_FAILING.TESTS)
            .from(RUN_FAILING)
            .where(RUN_FAILING.RUN_ID.eq(run))
            .fetchOne(RUN_FAILING.TESTS);
    return !Arrays.equals(kept == null ? new byte[0] : kept, counted(dsl, run));
  }

  private static byte[] counted(DSLContext dsl, long run) {
    FailingTests tests = new FailingTests();
    try (Cursor<Record> rows = dsl.resultQuery(COUNTED, run).fetchSize(FETCHED).fetchLazy()) {
      rows.forEach(
          row ->
              tests.add(
                  row.get(0, Long.class), row.get(1, Integer.class), row.get(2, Integer.class)));
    }
    return tests.packed();
  }
}
