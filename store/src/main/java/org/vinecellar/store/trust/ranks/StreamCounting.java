package org.vinecellar.store.trust.ranks;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.trust.evidence.Environments;
import org.vinecellar.core.trust.history.Durations;
import org.vinecellar.core.trust.ranks.Figures;
import org.vinecellar.core.trust.ranks.Pace;
import org.vinecellar.core.trust.ranks.Tally;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.trust.Lineage;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Work: counts what the latest runs of a stream tell of its tests. Of a large stream not after
 * every run, but some minutes later at the latest.
 */
public final class StreamCounting {
  private static final Logger LOG = LoggerFactory.getLogger(StreamCounting.class);

  /**
   * So many runs are counted; fewer, but not fewer than the least, where they have many results.
   */
  static final int LATEST = 60;

  private static final int LEAST = 10;
  private static final long MOST_RESULTS = 3_000_000;

  /** A stream of so many tests is counted after each run. */
  private static final int FEW_TESTS = 200;

  /** For so many tests one more run is waited for. */
  private static final int TESTS_A_RUN = 100;

  /** So many tests are held in memory at once. */
  public static final int HELD = 10_000;

  /** Whatever came is counted by then. */
  private static final Duration OLD = Duration.ofMinutes(10);

  private static final Duration WEEK = Duration.ofDays(7);
  private static final int FETCHED = 10_000;

  /** What so many runs in a row have not had, and most before had, has vanished. */
  private static final int VANISHED = 3;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Instant now;
  private final int held;

  private StreamCounting(DSLContext dsl, int projectId, long streamId, Instant now, int held) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.now = now;
    this.held = held;
  }

  /**
   * A run that is counted.
   *
   * @param main whether it is one that has all tests, as far as is known
   * @param failedByOne whether a single result of it failed
   * @param retried whether tests of it were tried again
   */
  private record Run(
      long id,
      int number,
      OffsetDateTime started,
      boolean main,
      String environment,
      int results,
      boolean failedByOne,
      boolean retried) {
    Run asMain() {
      return new Run(id, number, started, true, environment, results, failedByOne, retried);
    }
  }

  /** Work: counts, unless it was done shortly before. */
  public static void count(DSLContext dsl, int projectId, long streamId, Instant now) {
    count(dsl, projectId, streamId, now, HELD);
  }

  /** With no more than so many tests in memory at once, which makes no other difference. */
  public static void count(DSLContext dsl, int projectId, long streamId, Instant now, int held) {
    Record kept =
        dsl.fetchOne(
            "select main_branch, counted_number, counted_at from stream_learning"
                + " where project_id = ? and stream_id = ? for update skip locked",
            projectId,
            streamId);
    if (kept == null) {
      // Somebody learns of it, and will ask for this then.
      return;
    }
    StreamCounting counting = new StreamCounting(dsl, projectId, streamId, now, held);
    List<Run> runs = counting.runs(kept.get("main_branch", String.class));
    if (runs.isEmpty()) {
      counting.forget();
    } else if (counting.isDue(kept, runs)) {
      long begun = System.nanoTime();
      counting.count(runs);
      LOG.info("stream {}: counted in {} ms", streamId, (System.nanoTime() - begun) / 1_000_000);
    } else {
      Instant counted = kept.get("counted_at", OffsetDateTime.class).toInstant();
      WorkRows.ask(dsl, WorkKind.COUNT_STREAM, projectId, streamId, counted.plus(OLD));
    }
  }

  /** Its last run is gone. */
  private void forget() {
    for (String table : List.of("test_figures", "suite_figures")) {
      dsl.execute(
          "delete from " + table + " where project_id = ? and stream_id = ?", projectId, streamId);
    }
  }

  /** The latest that are known, the oldest first. */
  private List<Run> runs(@Nullable String main) {
    List<Run> runs = new ArrayList<>();
    long results = 0;
    for (Record row :
        dsl.fetch(
            "select r.id, r.number, r.started_at, r.branch, r.passed + r.failed + r.errored as results,"
                + " r.failed + r.errored = 1 as one, r.retried > 0 as again,"
                + " coalesce((select jsonb_object_agg(x.key, x.value) from run_label x"
                + " where x.run_id = r.id and x.key = any(?)), '{}')::text as labels"
                + " from run_learned l join run r on r.project_id = l.project_id and r.id = l.run_id"
                + " where l.project_id = ? and l.stream_id = ? and r.deleted_at is null"
                + " order by l.started_at desc, l.number desc limit ?",
            Environments.LABELS.toArray(String[]::new),
            projectId,
            streamId,
            LATEST)) {
      int more = row.get("results", Integer.class);
      if (runs.size() >= LEAST && results + more > MOST_RESULTS) {
        break;
      }
      results += more;
      String branch = row.get("branch", String.class);
      runs.add(
          new Run(
              row.get("id", Long.class),
              row.get("number", Integer.class),
              row.get("started_at", OffsetDateTime.class),
              main == null || branch == null || branch.equals(main),
              Environments.of(Json.map(JSONB.valueOf(row.get("labels", String.class)))),
              more,
              row.get("one", Boolean.class),
              row.get("again", Boolean.class)));
    }
    Collections.reverse(runs);
    long mains = runs.stream().filter(Run::main).count();
    // Where hardly any run is of the main branch, all are as good.
    return mains >= VANISHED ? runs : runs.stream().map(Run::asMain).toList();
  }

  private boolean isDue(Record kept, List<Run> runs) {
    OffsetDateTime at = kept.get("counted_at", OffsetDateTime.class);
    Integer number = kept.get("counted_number", Integer.class);
    if (at == null || number == null) {
      return true;
    }
    boolean isOld = !at.toInstant().plus(OLD).isAfter(now);
    if (isOld || at.toInstant().isAfter(now)) {
      return true;
    }
    int tests = runs.stream().mapToInt(Run::results).max().orElse(0);
    long more = runs.stream().filter(run -> run.number > number).count();
    // An older one that came late, or one that changed, is as good a reason where it costs little.
    return tests <= FEW_TESTS || more > tests / TESTS_A_RUN;
  }

  /**
   * Some tests at a time. How fast the runs were is told by all, or by some where there are many.
   */
  private void count(List<Run> runs) {
    List<String> environments = runs.stream().map(Run::environment).toList();
    int tests = runs.stream().mapToInt(Run::results).max().orElse(0);
    int every = 1 + tests / held;
    BitSet forgotten = kept();
    ResultReading reading =
        new ResultReading(
            dsl, Lineage.of(dsl, projectId, streamId), runs.stream().map(Run::id).toList());
    Map<Integer, Double> retried =
        reading.retried(runs.stream().filter(Run::retried).map(Run::id).toList());
    SuiteCounting suites = new SuiteCounting(dsl, projectId, streamId, runs.size());
    Tally told = new Tally(environments);
    reading.some(every, told);
    Pace pace = told.pace();
    if (every == 1) {
      write(runs, told.figures(pace, suites), retried, forgotten);
    } else {
      told.clear();
      Tally renamed = new Tally(environments);
      reading.inOrder(
          told,
          renamed,
          () -> {
            if (told.size() >= held) {
              write(runs, told.figures(pace, suites), retried, forgotten);
              told.clear();
            }
          });
      write(runs, told.figures(pace, suites), retried, forgotten);
      write(runs, renamed.figures(pace, suites), retried, forgotten);
    }
    forget(forgotten);
    suites.write(runs.stream().map(Run::id).toList(), weeks(runs));
    counted(runs, pace.whole());
  }

  /** The tests of which there are figures. */
  private BitSet kept() {
    BitSet kept = new BitSet();
    try (Cursor<Record> rows =
        dsl.resultQuery(
                "select test_id from test_figures where project_id = ? and stream_id = ?",
                projectId,
                streamId)
            .fetchSize(FETCHED)
            .fetchLazy()) {
      for (Record row : rows) {
        kept.set((Integer) row.get(0));
      }
    }
    return kept;
  }

  private void forget(BitSet tests) {
    Integer[] some = tests.stream().limit(FETCHED).boxed().toArray(Integer[]::new);
    while (some.length > 0) {
      dsl.execute(
          "delete from test_figures where project_id = ? and stream_id = ? and test_id = any(?)",
          projectId,
          streamId,
          some);
      tests.clear(0, some[some.length - 1] + 1);
      some = tests.stream().limit(FETCHED).boxed().toArray(Integer[]::new);
    }
  }

  /**
   * @param forgotten the tests of which there were figures and are none yet; these are taken out
   */
  private void write(
      List<Run> runs,
      Map<Integer, Figures> all,
      Map<Integer, Double> retriedMillis,
      BitSet forgotten) {
    double weeks = weeks(runs);
    int n = all.size();
    if (n == 0) {
      return;
    }
    long byOne = 0;
    for (int run = 0; run < runs.size(); run++) {
      byOne |= runs.get(run).failedByOne ? 1L << run : 0;
    }
    Integer[] tests = all.keySet().stream().sorted().toArray(Integer[]::new);
    Integer[] ran = new Integer[n];
    Integer[] failed = new Integer[n];
    Integer[] alone = new Integer[n];
    Double[] retried = new Double[n];
    Integer[] lastRun = new Integer[n];
    Integer[] missing = new Integer[n];
    Boolean[] vanished = new Boolean[n];
    Double[] weekly = new Double[n];
    @Nullable Double[] millis = new Double[n];
    @Nullable Double[] before = new Double[n];
    @Nullable Integer[] slower = new Integer[n];
    for (int i = 0; i < n; i++) {
      Figures one = Objects.requireNonNull(all.get(tests[i]));
      ran[i] = one.ran();
      failed[i] = one.failed();
      alone[i] = one.failedIn(byOne);
      retried[i] = retriedMillis.getOrDefault(tests[i], 0.0);
      lastRun[i] = (int) runs.get(one.last()).id;
      missing[i] = missing(runs, one.last());
      vanished[i] = missing[i] >= VANISHED && wasInMost(runs, one);
      weekly[i] = one.ran() / weeks;
      millis[i] = one.millis();
      Figures.Slower slow = one.slower();
      before[i] = slow == null ? null : (Double) slow.before();
      slower[i] = slow == null ? null : (Integer) (int) runs.get(slow.since()).id;
    }
    for (int test : tests) {
      forgotten.clear(test);
    }
    dsl.execute(
        "insert into test_figures as f (project_id, stream_id, test_id, ran, failed, alone,"
            + " retried_millis, last_run_id,"
            + " missing, gone_at, weekly, millis, before_millis, slower_run_id, slower_at)"
            + " select ?, ?, x.test, x.ran, x.failed, x.alone, x.retried, x.last, x.missing,"
            + " case when x.vanished then ?::timestamptz end, x.weekly, x.millis, x.before, x.slower,"
            + " case when x.slower is not null then ?::timestamptz end"
            + " from unnest(?::int[], ?::int[], ?::int[], ?::int[], ?::real[], ?::int[], ?::int[],"
            + " ?::boolean[],"
            + " ?::real[], ?::real[], ?::real[], ?::int[])"
            + " as x (test, ran, failed, alone, retried, last, missing, vanished, weekly, millis, before, slower)"
            + " on conflict (project_id, stream_id, test_id) do update set ran = excluded.ran,"
            + " failed = excluded.failed, alone = excluded.alone,"
            + " retried_millis = excluded.retried_millis, last_run_id = excluded.last_run_id,"
            + " missing = excluded.missing, weekly = excluded.weekly, millis = excluded.millis,"
            + " before_millis = excluded.before_millis, slower_run_id = excluded.slower_run_id,"
            // When it was first seen stays, until it is slower still.
            + " gone_at = case when excluded.gone_at is not null"
            + " then coalesce(f.gone_at, excluded.gone_at) end,"
            + " slower_at = case when excluded.slower_at is null then null"
            + " when excluded.millis >= f.millis * ? then excluded.slower_at"
            + " else coalesce(f.slower_at, excluded.slower_at) end",
        projectId,
        streamId,
        Sql.utc(now),
        Sql.utc(now),
        tests,
        ran,
        failed,
        alone,
        retried,
        lastRun,
        missing,
        vanished,
        weekly,
        millis,
        before,
        slower,
        Durations.FACTOR);
  }

  private void counted(List<Run> runs, Pace.Whole whole) {
    Figures.Slower slowed = whole.slower();
    dsl.execute(
        "update stream_learning set counted_number = ?, counted_at = ?::timestamptz,"
            + " slower_run_id = ?::int, slower_factor = ?::real where project_id = ? and stream_id = ?",
        runs.stream().mapToInt(Run::number).max().orElseThrow(),
        Sql.utc(now),
        slowed == null ? null : (Long) runs.get(slowed.since()).id,
        slowed == null ? null : (Double) whole.factor(),
        projectId,
        streamId);
  }

  /** Over how many they spread, one at least. */
  private static double weeks(List<Run> runs) {
    Duration all = Duration.between(runs.get(0).started, runs.get(runs.size() - 1).started);
    return Math.max(1, all.toSeconds() / (double) WEEK.toSeconds());
  }

  /** How many of the latest runs that have all tests have not had it. */
  private static int missing(List<Run> runs, int last) {
    int missing = 0;
    for (int run = last + 1; run < runs.size(); run++) {
      missing += runs.get(run).main ? 1 : 0;
    }
    return missing;
  }

  private static boolean wasInMost(List<Run> runs, Figures test) {
    int all = 0;
    int with = 0;
    for (int run = Math.max(0, test.last() - 9); run <= test.last(); run++) {
      if (runs.get(run).main) {
        all++;
        with += test.had(run) ? 1 : 0;
      }
    }
    return all >= VANISHED && with * 5 >= all * 4;
  }
}
