package org.vinecellar.store.trust;

import java.util.Collection;
import org.jooq.DSLContext;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.store.sql.Ids;

/** Which tests a stream has had, and since which run. */
final class TestsInStream {
  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;

  TestsInStream(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
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

  /** Those that a run has, which follows all that were entered. */
  void enter(Night night) {
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
