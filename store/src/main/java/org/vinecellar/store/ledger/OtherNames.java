package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.EARLIER_NAME;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.store.sql.Ids;

/**
 * Tests that only one of two runs has, by the other names that they had in their stream, or have by
 * now. A test that the run before had under any of them is not new, and is not gone as long as one
 * of them is there.
 */
final class OtherNames {
  private static final String OF_STREAM = " e.project_id = ? and e.stream_id = ? ";

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final long runId;
  private final long previous;
  private @Nullable Map<Integer, Before> before;
  private @Nullable Set<Integer> here;

  private OtherNames(DSLContext dsl, int projectId, long streamId, long runId, long previous) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.runId = runId;
    this.previous = previous;
  }

  /** Of a stream; null where no test has had another one. */
  static @Nullable OtherNames of(
      DSLContext dsl, int projectId, long streamId, long runId, long previous) {
    return dsl.fetchExists(
            EARLIER_NAME,
            EARLIER_NAME.PROJECT_ID.eq(projectId),
            EARLIER_NAME.STREAM_ID.eq(streamId))
        ? new OtherNames(dsl, projectId, streamId, runId, previous)
        : null;
  }

  /**
   * What is known of a test that had another name in the run before.
   *
   * @param madeUp whether it has another one in each run
   */
  record Before(Outcome outcome, boolean madeUp) {}

  /** Of some tests that the run before has not, those that it had under another name. */
  Map<Integer, Before> before(List<Integer> tests) {
    Map<Integer, Before> found = new HashMap<>();
    now(tests)
        .forEach(
            (test, now) -> {
              Before stood = before().get(now);
              if (stood != null) {
                found.put(test, stood);
              }
            });
    return found;
  }

  /** Of some tests that the run has not, those that it has under another name. */
  Set<Integer> stillHere(List<Integer> tests) {
    Set<Integer> still = new HashSet<>();
    now(tests)
        .forEach(
            (test, now) -> {
              if (here().contains(now)) {
                still.add(test);
              }
            });
    return still;
  }

  /** As what they go on, of those of them that have several names. */
  private Map<Integer, Integer> now(List<Integer> tests) {
    if (tests.isEmpty()) {
      return Map.of();
    }
    List<Object> values = new ArrayList<>(List.of(Ids.of(tests), projectId, streamId));
    values.addAll(List.of(Ids.of(tests), projectId, streamId));
    return dsl.fetch(
            "select e.test_id, e.now_test_id from earlier_name e where e.test_id = any(?) and"
                + OF_STREAM
                + "union select e.now_test_id, e.now_test_id from earlier_name e"
                + " where e.now_test_id = any(?) and"
                + OF_STREAM,
            values.toArray())
        .intoMap(row -> row.get(0, Integer.class), row -> row.get(1, Integer.class));
  }

  private Map<Integer, Before> before() {
    if (before == null) {
      Map<Integer, Before> all = new HashMap<>();
      for (Record row : standing(previous)) {
        Outcome outcome = Outcome.ofCode(row.get(1, Integer.class));
        all.merge(
            row.get(0, Integer.class),
            new Before(outcome, row.get(2, Boolean.class)),
            (a, b) -> new Before(a.outcome.worse(b.outcome), a.madeUp || b.madeUp));
      }
      before = all;
    }
    return before;
  }

  private Set<Integer> here() {
    if (here == null) {
      here = new HashSet<>(standing(runId).getValues(0, Integer.class));
    }
    return here;
  }

  /** What stands in a run of the tests that have several names, by those of now. */
  private Result<Record> standing(long run) {
    return dsl.fetch(
        "with e as materialized (select e.test_id, e.now_test_id, e.made_up from earlier_name e where"
            + OF_STREAM
            + "), n as (select test_id, now_test_id from e"
            + " union select now_test_id, now_test_id from e),"
            + " m as (select now_test_id, bool_or(made_up) as made_up from e group by 1)"
            + " select n.now_test_id, r.outcome, m.made_up from result r"
            + " join n on n.test_id = r.test_id join m on m.now_test_id = n.now_test_id"
            + " where r.run_id = ? and not r.superseded group by 1, 2, 3",
        projectId,
        streamId,
        run);
  }
}
