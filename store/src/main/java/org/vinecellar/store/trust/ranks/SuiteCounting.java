package org.vinecellar.store.trust.ranks;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.BatchBindStep;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.trust.ranks.Figures;
import org.vinecellar.core.trust.ranks.Tally;

/**
 * How long the tests of each suite take together, by what each takes. Where a test did not pass at
 * once, or was not there, it is taken to have taken as long as before, or as in its first run: that
 * a test comes makes no suite slower.
 */
final class SuiteCounting implements Tally.Listener {
  /** Of a stream with more tests none is told, since all of them are held with their suites. */
  private static final int MOST_TESTS = 200_000;

  private static final int MOST_SUITES = 20_000;
  private static final int FETCHED = 10_000;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final int runs;
  private final Map<Integer, Integer> suites = new HashMap<>();
  private final Map<Integer, Suite> all = new HashMap<>();

  /** What is known of a suite. */
  private static final class Suite {
    private final double[] millis;
    private final boolean[] ran;
    private int tests;

    Suite(int runs) {
      millis = new double[runs];
      ran = new boolean[runs];
    }

    /** Nothing is known of a run that had none of its tests. */
    int settle() {
      int all = 0;
      for (int run = 0; run < ran.length; run++) {
        all += ran[run] ? 1 : 0;
        millis[run] = ran[run] ? millis[run] : Double.NaN;
      }
      return all;
    }
  }

  SuiteCounting(DSLContext dsl, int projectId, long streamId, int runs) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.runs = runs;
    load();
  }

  private void load() {
    try (Cursor<Record> rows =
        dsl.resultQuery(
                "select s.test_id::int, t.suite_id::int from test_in_stream s join test t"
                    + " on t.project_id = s.project_id and t.id = s.test_id"
                    + " where s.project_id = ? and s.stream_id = ? and t.suite_id is not null"
                    + " limit ?",
                projectId,
                streamId,
                MOST_TESTS + 1)
            .fetchSize(FETCHED)
            .fetchLazy()) {
      for (Record row : rows) {
        suites.put((Integer) row.get(0), (Integer) row.get(1));
      }
    }
    if (suites.size() > MOST_TESTS) {
      suites.clear();
    }
  }

  @Override
  public void took(int test, double[] millis) {
    Integer number = suites.get(test);
    if (number == null || (all.size() == MOST_SUITES && !all.containsKey(number))) {
      return;
    }
    double before = Double.NaN;
    for (int run = millis.length - 1; run >= 0; run--) {
      before = Double.isNaN(millis[run]) ? before : millis[run];
    }
    if (Double.isNaN(before)) {
      return;
    }
    Suite suite = all.computeIfAbsent(number, k -> new Suite(runs));
    suite.tests++;
    for (int run = 0; run < runs; run++) {
      suite.ran[run] |= !Double.isNaN(millis[run]);
      before = Double.isNaN(millis[run]) ? before : millis[run];
      suite.millis[run] += before;
    }
  }

  void write(List<Long> ids, double weeks) {
    dsl.execute(
        "delete from suite_figures where project_id = ? and stream_id = ?", projectId, streamId);
    BatchBindStep batch =
        dsl.batch(
            "insert into suite_figures (project_id, stream_id, suite_id, tests, weekly, millis,"
                + " before_millis, slower_run_id) values (?, ?, ?, ?, ?, ?::real, ?::real, ?::int)");
    for (Map.Entry<Integer, Suite> one : all.entrySet()) {
      Suite suite = one.getValue();
      int ran = suite.settle();
      Tally.Took took = Tally.took(suite.millis);
      Figures.Slower slow = took.slower();
      batch =
          batch.bind(
              projectId,
              streamId,
              one.getKey(),
              suite.tests,
              ran / weeks,
              took.millis(),
              slow == null ? null : (Double) slow.before(),
              slow == null ? null : ids.get(slow.since()));
    }
    if (batch.size() > 0) {
      int[] unused = batch.execute();
    }
  }
}
