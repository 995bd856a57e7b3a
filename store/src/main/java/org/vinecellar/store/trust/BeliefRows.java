package org.vinecellar.store.trust;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.flaky.Belief;
import org.vinecellar.core.trust.flaky.Conduct;

/** What is kept of the tests of a stream that failed by themselves. */
final class BeliefRows {
  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;

  BeliefRows(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
  }

  Map<Integer, Conduct> all() {
    Map<Integer, Conduct> all = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select test_id, belief, stumbles, since_run_id from test_belief"
                + " where project_id = ? and stream_id = ?",
            projectId,
            streamId)) {
      all.put(
          row.get(0, Integer.class),
          new Conduct(
              Belief.of(row.get(1, byte[].class)),
              row.get(2, Integer.class),
              row.get(3, Long.class)));
    }
    return all;
  }

  void write(Map<Integer, Conduct> conducts, Collection<Integer> tests) {
    if (tests.isEmpty()) {
      return;
    }
    BatchBindStep batch =
        dsl.batch(
            "insert into test_belief (project_id, stream_id, test_id, belief, verdict, score, rate,"
                + " low, high, runs, stumbles, only_in, since_run_id)"
                + " values (?, ?, ?, ?, ?, ?, ?::real, ?::real, ?::real, ?, ?, ?::text, ?::int)"
                + " on conflict (project_id, stream_id, test_id) do update set"
                + " belief = excluded.belief, verdict = excluded.verdict, score = excluded.score,"
                + " rate = excluded.rate, low = excluded.low, high = excluded.high,"
                + " runs = excluded.runs, stumbles = excluded.stumbles,"
                + " only_in = excluded.only_in, since_run_id = excluded.since_run_id");
    for (int test : tests) {
      Conduct conduct = java.util.Objects.requireNonNull(conducts.get(test));
      Estimate told = Estimate.of(conduct.belief(), conduct.stumbles());
      batch =
          batch.bind(
              projectId,
              streamId,
              test,
              conduct.belief().toBytes(),
              told.verdict().code(),
              (float) told.score(),
              told.rate(),
              told.low(),
              told.high(),
              told.runs(),
              told.stumbles(),
              told.onlyIn(),
              conduct.since());
    }
    int[] unused = batch.execute();
  }
}
