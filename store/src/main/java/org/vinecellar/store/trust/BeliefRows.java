package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.flaky.Belief;
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

  /** As they are now. */
  Map<Integer, Conduct> now() {
    Map<Integer, Conduct> all = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select test_id, belief, stumbles, since_run_id, taken_run_id from test_belief"
                + " where project_id = ? and stream_id = ?",
            projectId,
            streamId)) {
      all.put(
          row.get(0, Integer.class),
          new Conduct(
              Belief.of(row.get(1, byte[].class)),
              row.get(2, Integer.class),
              row.get(3, Long.class),
              row.get(4, Long.class)));
    }
    return all;
  }

  /**
   * These are all that there are.
   *
   * @param settled how they were when the last run was settled; those that have not changed since
   *     they were written may be left out
   */
  void write(Map<Integer, Conduct> settled, Map<Integer, Conduct> now) {
    List<Integer> gone =
        new ArrayList<>(
            dsl.fetch(
                    "select test_id from test_belief where project_id = ? and stream_id = ?",
                    projectId,
                    streamId)
                .getValues(0, Integer.class));
    gone.removeAll(now.keySet());
    if (!gone.isEmpty()) {
      dsl.execute(
          "delete from test_belief where project_id = ? and stream_id = ? and test_id = any(?)",
          projectId,
          streamId,
          Ids.of(gone));
    }
    BatchBindStep put =
        dsl.batch(
            "insert into test_belief (verdict, score, rate, low, high, runs, stumbles, only_in,"
                + " since_run_id, taken_run_id, belief, project_id, stream_id, test_id, settled)"
                + " values (?, ?, ?::real, ?::real, ?::real, ?, ?, ?::text, ?::int, ?::int, ?,"
                + " ?, ?, ?, ?)"
                + " on conflict (project_id, stream_id, test_id) do update set"
                + " settled = excluded.settled, belief = excluded.belief, verdict = excluded.verdict, score = excluded.score,"
                + " rate = excluded.rate, low = excluded.low, high = excluded.high,"
                + " runs = excluded.runs, stumbles = excluded.stumbles,"
                + " only_in = excluded.only_in, since_run_id = excluded.since_run_id,"
                + " taken_run_id = excluded.taken_run_id");
    BatchBindStep change =
        dsl.batch(
            "update test_belief set verdict = ?, score = ?, rate = ?::real, low = ?::real,"
                + " high = ?::real, runs = ?, stumbles = ?, only_in = ?::text,"
                + " since_run_id = ?::int, taken_run_id = ?::int, belief = ?"
                + " where project_id = ? and stream_id = ? and test_id = ?");
    for (int test : new TreeSet<>(now.keySet())) {
      List<@Nullable Object> row = new ArrayList<>(told(Objects.requireNonNull(now.get(test))));
      row.addAll(List.of(projectId, streamId, test));
      Conduct before = settled.get(test);
      if (before == null) {
        change = change.bind(row.toArray());
      } else {
        row.add(before.toBytes());
        put = put.bind(row.toArray());
      }
    }
    if (put.size() > 0) {
      int[] unused = put.execute();
    }
    if (change.size() > 0) {
      int[] unused = change.execute();
    }
  }

  private static List<@Nullable Object> told(Conduct conduct) {
    Estimate told = Estimate.of(conduct.belief(), conduct.stumbles());
    return Arrays.asList(
        told.verdict().code(),
        (float) told.score(),
        told.rate(),
        told.low(),
        told.high(),
        told.runs(),
        told.stumbles(),
        told.onlyIn(),
        conduct.since(),
        conduct.taken(),
        conduct.belief().toBytes());
  }
}
