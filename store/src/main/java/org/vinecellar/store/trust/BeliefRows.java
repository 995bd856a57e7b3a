package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.flaky.Belief;
import org.vinecellar.core.trust.flaky.Conduct;
import org.vinecellar.store.sql.Ids;

/** What is kept of the tests of a stream that failed by themselves. */
final class BeliefRows {
  /** So many are written by one statement: each takes a thousand bytes or two in it. */
  private static final int TOGETHER = 1_000;

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
    List<Integer> tests = List.copyOf(new TreeSet<>(now.keySet()));
    for (int from = 0; from < tests.size(); from += TOGETHER) {
      put(tests.subList(from, Math.min(tests.size(), from + TOGETHER)), settled, now);
    }
  }

  private void put(List<Integer> tests, Map<Integer, Conduct> settled, Map<Integer, Conduct> now) {
    int n = tests.size();
    @Nullable Integer[] verdicts = new Integer[n];
    Double[] scores = new Double[n];
    @Nullable Double[] rates = new Double[n];
    @Nullable Double[] lows = new Double[n];
    @Nullable Double[] highs = new Double[n];
    Integer[] runs = new Integer[n];
    Integer[] stumbles = new Integer[n];
    @Nullable String[] onlyIn = new String[n];
    @Nullable Long[] since = new Long[n];
    @Nullable Long[] taken = new Long[n];
    String[] beliefs = new String[n];
    String[] befores = new String[n];
    for (int i = 0; i < n; i++) {
      Conduct conduct = Objects.requireNonNull(now.get(tests.get(i)));
      Conduct before = settled.get(tests.get(i));
      Estimate told = Estimate.of(conduct.belief(), conduct.stumbles());
      verdicts[i] = told.verdict().code();
      scores[i] = told.score();
      rates[i] = told.rate();
      lows[i] = told.low();
      highs[i] = told.high();
      runs[i] = told.runs();
      stumbles[i] = told.stumbles();
      onlyIn[i] = told.onlyIn();
      since[i] = conduct.since();
      taken[i] = conduct.taken();
      beliefs[i] = HexFormat.of().formatHex(conduct.belief().toBytes());
      befores[i] = before == null ? "" : HexFormat.of().formatHex(before.toBytes());
    }
    dsl.execute(
        "insert into test_belief as b (project_id, stream_id, test_id, verdict, score, rate, low,"
            + " high, runs, stumbles, only_in, since_run_id, taken_run_id, belief, settled)"
            + " select ?, ?, x.test_id, x.verdict, x.score, x.rate, x.low, x.high, x.runs,"
            + " x.stumbles, x.only_in, x.since, x.taken, decode(x.belief, 'hex'),"
            + " decode(x.settled, 'hex') from unnest(?::int[], ?::int[], ?::real[], ?::real[],"
            + " ?::real[], ?::real[], ?::int[], ?::int[], ?::text[], ?::int[], ?::int[], ?::text[],"
            + " ?::text[]) as x (test_id, verdict, score, rate, low, high, runs, stumbles, only_in,"
            + " since, taken, belief, settled)"
            + " on conflict (project_id, stream_id, test_id) do update set"
            + " verdict = excluded.verdict, score = excluded.score, rate = excluded.rate,"
            + " low = excluded.low, high = excluded.high, runs = excluded.runs,"
            + " stumbles = excluded.stumbles, only_in = excluded.only_in,"
            + " since_run_id = excluded.since_run_id, taken_run_id = excluded.taken_run_id,"
            + " belief = excluded.belief, settled ="
            + " case when excluded.settled = '' then b.settled else excluded.settled end",
        projectId,
        streamId,
        tests.toArray(Integer[]::new),
        verdicts,
        scores,
        rates,
        lows,
        highs,
        runs,
        stumbles,
        onlyIn,
        since,
        taken,
        beliefs,
        befores);
  }
}
