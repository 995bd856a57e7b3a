package org.vinecellar.store.trust;

import java.math.BigDecimal;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.store.sql.Ids;

/**
 * Which tests a stream has had, and since which run. A run that has the same tests as one of those
 * before it brings none: it is known by a sum over them, so that not each of them is looked for in
 * each run.
 */
final class TestsInStream {
  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Set<BigDecimal> entered = new HashSet<>();
  private final Set<BigDecimal> enteredOfMain = new HashSet<>();

  /**
   * @param earlier some of the runs that were entered, the latest
   */
  TestsInStream(DSLContext dsl, int projectId, long streamId, List<Night> earlier) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    Map<Long, BigDecimal> sums = new HashMap<>();
    dsl.fetch(
            "select run_id, tests from run_learned where project_id = ? and stream_id = ?"
                + " and run_id = any(?)",
            projectId,
            streamId,
            Ids.of(earlier.stream().map(Night::run).toList()))
        .forEach(row -> sums.put(row.get(0, Long.class), row.get(1, BigDecimal.class)));
    for (Night night : earlier) {
      BigDecimal sum = sums.get(night.run());
      if (sum != null) {
        isNew(night, sum);
      }
    }
  }

  private boolean isNew(Night night, BigDecimal sum) {
    boolean isNew = entered.add(sum);
    return night.branch() == null ? enteredOfMain.add(sum) : isNew;
  }

  /** As if none of these runs had been: they are the latest. */
  void forget(Collection<Long> runs) {
    dsl.execute(
        "delete from test_in_stream where project_id = ? and stream_id = ? and first_run_id = any(?)",
        projectId,
        streamId,
        Ids.of(runs));
    dsl.execute(
        "update test_in_stream set main_run_id = null where project_id = ? and stream_id = ?"
            + " and main_run_id = any(?)",
        projectId,
        streamId,
        Ids.of(runs));
  }

  /**
   * @param sum over the tests of a run
   * @param mayBeNew whether no run before it is known to have the same ones
   */
  record Entered(BigDecimal sum, boolean mayBeNew) {}

  /** Those that a run has, which follows all that were entered. */
  Entered enter(Night night) {
    BigDecimal sum =
        dsl.fetchSingle(
                "select coalesce(sum(hashint4extended(test_id, 0)), 0) from result_row"
                    + " where run_id = ? and (state >> 6) & 3 = 0",
                night.run())
            .get(0, BigDecimal.class);
    boolean isNew = isNew(night, sum);
    if (isNew) {
      enterEach(night);
    }
    return new Entered(sum, isNew);
  }

  private void enterEach(Night night) {
    Integer main = night.branch() == null ? (Integer) (int) night.run() : null;
    dsl.execute(
        "insert into test_in_stream (project_id, stream_id, test_id, first_run_id, main_run_id)"
            + " select ?, ?, r.test_id, r.run_id, ?::integer"
            + " from result_row r where r.run_id = ? and (r.state >> 6) & 3 = 0"
            // Not looked for first: a database that does not know yet how many there are would look
            // through all of them for each.
            + " on conflict do nothing",
        projectId,
        streamId,
        main,
        night.run());
    if (main != null) {
      dsl.execute(
          "update test_in_stream s set main_run_id = ? where s.project_id = ? and s.stream_id = ?"
              + " and s.main_run_id is null and exists (select 1 from result_row r"
              + " where r.run_id = ? and r.test_id = s.test_id and (r.state >> 6) & 3 = 0)",
          main,
          projectId,
          streamId,
          night.run());
    }
  }
}
