package org.vinecellar.store.trust.ranks;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.ranks.Tally;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Rows;
import org.vinecellar.store.trust.Lineage;

/** Reads the results of some runs, each told of the latest name of its test. */
final class ResultReading {
  private final DSLContext dsl;
  private final Lineage lineage;
  private final List<Long> runs;

  /**
   * @param runs the oldest first
   */
  ResultReading(DSLContext dsl, Lineage lineage, List<Long> runs) {
    this.dsl = dsl;
    this.lineage = lineage;
    this.runs = runs;
  }

  /**
   * One run at a time, each as three lists: a row for each result would take most of the time.
   *
   * @param every of so many tests one
   */
  void some(int every, Tally tally) {
    Map<Integer, Integer> names = lineage.names();
    for (int run = 0; run < runs.size(); run++) {
      Record row =
          dsl.fetchSingle(
              "select coalesce(array_agg(test_id), '{}'), coalesce(array_agg(state), '{}'),"
                  + " coalesce(array_agg(duration), '{}') from result_row where run_id = ?"
                  + " and state & ? = 0"
                  + (every == 1 ? "" : " and test_id % " + every + " = 0"),
              runs.get(run),
              Packed.NO_RESULT);
      Integer[] tests = row.get(0, Integer[].class);
      Integer[] states = row.get(1, Integer[].class);
      @Nullable Integer[] durations = row.get(2, Integer[].class);
      for (int i = 0; i < tests.length; i++) {
        add(tally, names.getOrDefault(tests[i], tests[i]), run, states[i], durations[i]);
      }
    }
  }

  private static void add(Tally tally, int test, int run, int state, @Nullable Integer duration) {
    if (Packed.hasRun(state)) {
      Double millis =
          duration != null && Packed.hasPassedAtOnce(state)
              ? (Double) Packed.millis(duration)
              : null;
      tally.add(test, run, Packed.hasFailed(state), millis);
    }
  }

  /**
   * In the order of their numbers.
   *
   * @param renamed of those that had other names before
   * @param whole called when all of a test has been told
   */
  void inOrder(Tally tally, Tally renamed, Runnable whole) {
    Map<Integer, Integer> at = new HashMap<>();
    runs.forEach(run -> at.put(run.intValue(), at.size()));
    // Joined here: the database knows so little of how many rows there are that it would look
    // through all names for each of them.
    Map<Integer, Integer> names = lineage.names();
    Set<Integer> later = new HashSet<>(names.values());
    int[] before = {-1};
    Rows.each(
        dsl.resultQuery(
            "select test_id, run_id, state, duration from result_row where run_id = any(?)"
                + " and state & ? = 0 order by test_id",
            Ids.of(runs),
            Packed.NO_RESULT),
        row -> {
          int test = row.getInt(1);
          if (test != before[0] && before[0] >= 0) {
            whole.run();
          }
          before[0] = test;
          int latest = names.getOrDefault(test, test);
          int run = Objects.requireNonNull(at.get(row.getInt(2)));
          int duration = row.getInt(4);
          Integer told = row.wasNull() ? null : (Integer) duration;
          add(later.contains(latest) ? renamed : tally, latest, run, row.getInt(3), told);
        });
  }

  /** What the tries of tests took beside the last one, in milliseconds. */
  Map<Integer, Double> retried(List<Long> ids) {
    Map<Integer, Double> retried = new HashMap<>();
    if (ids.isEmpty()) {
      return retried;
    }
    Rows.each(
        dsl.resultQuery(
            "select r.test_id, r.duration_us from result r"
                + " where r.run_id = any(?) and r.superseded and r.kind = 0"
                + " and r.duration_us is not null"
                + " union all select r.test_id, a.duration_us from attempt a"
                + " join result r on r.run_id = a.run_id and r.place = a.place"
                + " where a.run_id = any(?) and a.attempt_no < r.attempts - 1 and r.kind = 0"
                + " and not r.superseded and a.duration_us is not null",
            Ids.of(ids),
            Ids.of(ids)),
        row -> retried.merge(lineage.latest(row.getInt(1)), row.getLong(2) / 1e3, Double::sum));
    return retried;
  }
}
