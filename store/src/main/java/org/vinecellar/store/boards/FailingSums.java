package org.vinecellar.store.boards;

import static org.vinecellar.store.generated.Tables.EARLIER_NAME;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_FAILING;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jooq.impl.DSL;
import org.vinecellar.core.boards.FailureTally;
import org.vinecellar.core.boards.TestFailures;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.store.results.FailingTests;
import org.vinecellar.store.results.KeptTests;

/**
 * Which tests failed most in some runs, by the one row that each run keeps of what failed in it
 * ({@code run_failing}). Not thread-safe.
 */
final class FailingSums {
  /** Runs at a time. */
  private static final int FETCHED = 100;

  private final DSLContext dsl;
  private final int projectId;
  private final Condition fitting;

  /** By stream and test: a test goes on as another one in a stream. */
  private final FailureTally byStream = new FailureTally();

  private final FailureTally byTest = new FailureTally();
  private final Map<Long, Long> now = new HashMap<>();

  /**
   * @param fitting which runs
   */
  FailingSums(DSLContext dsl, int projectId, Condition fitting) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.fitting = fitting;
  }

  /** The first that failed or errored most often; names that go on as others are told as these. */
  List<TestFailures> most(int limit) {
    eachRun(
        (stream, tests) ->
            FailingTests.read(
                tests,
                (test, failed, errored) -> byStream.add(key(stream, test), failed, errored, 1)));
    findNames(byStream.keys());
    byStream.forEach(
        (key, failed, errored, runs) ->
            byTest.add(now.getOrDefault(key, (long) (int) key), failed, errored, runs));
    List<FailureTally.Counted> most = byTest.most(limit);
    Map<Long, Integer> runs = runsOfRenamed(most);
    Map<Long, KeptTest> tests =
        KeptTests.byNumber(dsl, projectId, most.stream().map(FailureTally.Counted::key).toList());
    List<TestFailures> failing = new ArrayList<>();
    for (FailureTally.Counted one : most) {
      KeptTest kept = tests.get(one.key());
      if (kept != null) {
        failing.add(
            new TestFailures(
                kept, one.failed(), one.errored(), runs.getOrDefault(one.key(), one.runs())));
      }
    }
    return failing;
  }

  @FunctionalInterface
  private interface EachRun {
    void run(long stream, byte[] tests);
  }

  private void eachRun(EachRun each) {
    try (Cursor<Record2<Long, byte[]>> rows =
        dsl.select(RUN.STREAM_ID, RUN_FAILING.TESTS)
            .from(RUN)
            .join(RUN_FAILING)
            .on(RUN_FAILING.RUN_ID.eq(RUN.ID))
            .where(fitting)
            .fetchSize(FETCHED)
            .fetchLazy()) {
      rows.forEach(row -> each.run(row.value1(), row.value2()));
    }
  }

  /** Numbers of rows have 32 bits. */
  private static long key(long stream, long test) {
    return stream << 32 | test;
  }

  /** As what those go on that have another name now. */
  private void findNames(long[] keys) {
    Integer[] streams =
        Arrays.stream(keys)
            .mapToInt(key -> (int) (key >> 32))
            .distinct()
            .boxed()
            .toArray(Integer[]::new);
    Integer[] tests =
        Arrays.stream(keys).mapToInt(key -> (int) key).distinct().boxed().toArray(Integer[]::new);
    dsl.select(EARLIER_NAME.STREAM_ID, EARLIER_NAME.TEST_ID, EARLIER_NAME.NOW_TEST_ID)
        .from(EARLIER_NAME)
        .where(EARLIER_NAME.PROJECT_ID.eq(projectId))
        .and(DSL.condition("{0} = any({1})", EARLIER_NAME.STREAM_ID, DSL.val(streams)))
        .and(DSL.condition("{0} = any({1})", EARLIER_NAME.TEST_ID, DSL.val(tests)))
        .fetchSize(FETCHED)
        .forEach(row -> now.put(key(row.value1(), row.value2()), row.value3()));
  }

  /** In how many runs those failed that have several names, of which two may fail in one run. */
  private Map<Long, Integer> runsOfRenamed(List<FailureTally.Counted> most) {
    Map<Long, Integer> runs = new HashMap<>();
    Set<Long> renamed = new HashSet<>(now.values());
    most.stream()
        .map(FailureTally.Counted::key)
        .filter(renamed::contains)
        .forEach(test -> runs.put(test, 0));
    if (!runs.isEmpty()) {
      eachRun(
          (stream, tests) -> {
            Set<Long> here = new HashSet<>();
            FailingTests.read(
                tests,
                (test, failed, errored) -> {
                  long name = now.getOrDefault(key(stream, test), test);
                  if (runs.containsKey(name)) {
                    here.add(name);
                  }
                });
            here.forEach(name -> runs.merge(name, 1, Integer::sum));
          });
    }
    return runs;
  }
}
