package org.vinecellar.store.trust.ranks;

import java.util.Arrays;
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
 * once, it is taken to have taken as long as before.
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
    private int tests;

    Suite(int runs) {
      millis = new double[runs];
      Arrays.fill(millis, Double.NaN);
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
    int last = millis.length - 1;
    while (last >= 0 && Double.isNaN(millis[last])) {
      last--;
    }
    if (last < 0) {
      return;
    }
    Suite suite = all.computeIfAbsent(number, k -> new Suite(runs));
    suite.tests++;
    double before = Double.NaN;
    for (int run = 0; run <= last; run++) {
      before = Double.isNaN(millis[run]) ? before : millis[run];
      if (!Double.isNaN(before)) {
        suite.millis[run] = before + (Double.isNaN(suite.millis[run]) ? 0 : suite.millis[run]);
      }
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
      Tally.Took took = Tally.took(suite.millis);
      long ran = Arrays.stream(suite.millis).filter(millis -> !Double.isNaN(millis)).count();
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
