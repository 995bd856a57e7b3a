package org.vinecellar.store.trust;

import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.flaky.Conduct;
import org.vinecellar.store.sql.Ids;

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

  /** As they were when the last run was settled. */
  Map<Integer, Conduct> settled() {
    Map<Integer, Conduct> all = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select test_id, settled from test_belief" + " where project_id = ? and stream_id = ?",
            projectId,
            streamId)) {
      all.put(row.get(0, Integer.class), Conduct.of(row.get(1, byte[].class)));
    }
    return all;
  }

  /** These are all that there are. */
  void write(Map<Integer, Conduct> settled, Map<Integer, Conduct> now) {
    dsl.execute(
        "delete from test_belief where project_id = ? and stream_id = ? and not test_id = any(?)",
        projectId,
        streamId,
        Ids.of(now.keySet()));
    if (now.isEmpty()) {
      return;
    }
    BatchBindStep batch =
        dsl.batch(
            "insert into test_belief (project_id, stream_id, test_id, settled, belief, verdict, score, rate,"
                + " low, high, runs, stumbles, only_in, since_run_id)"
                + " values (?, ?, ?, ?, ?, ?, ?, ?::real, ?::real, ?::real, ?, ?, ?::text, ?::int)"
                + " on conflict (project_id, stream_id, test_id) do update set"
                + " settled = excluded.settled, belief = excluded.belief, verdict = excluded.verdict, score = excluded.score,"
                + " rate = excluded.rate, low = excluded.low, high = excluded.high,"
                + " runs = excluded.runs, stumbles = excluded.stumbles,"
                + " only_in = excluded.only_in, since_run_id = excluded.since_run_id");
    for (int test : new TreeSet<>(now.keySet())) {
      Conduct conduct = Objects.requireNonNull(now.get(test));
      Estimate told = Estimate.of(conduct.belief(), conduct.stumbles());
      batch =
          batch.bind(
              projectId,
              streamId,
              test,
              Objects.requireNonNull(settled.get(test)).toBytes(),
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
