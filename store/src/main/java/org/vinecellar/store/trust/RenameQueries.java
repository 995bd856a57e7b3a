package org.vinecellar.store.trust;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.TrustStore.Renamed;
import org.vinecellar.store.results.KeptTests;

/** Tests that go on under other names, as they are told. */
final class RenameQueries {
  private static final String SELECT =
      "select s.old_test_id, s.new_test_id, s.state, s.likely, s.reasons, r.number";

  private final DSLContext dsl;
  private final int projectId;

  RenameQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<Renamed> of(String stream) {
    return renamed(
        List.copyOf(
            dsl.fetch(
                SELECT
                    + " from stream m join succession s on s.project_id = m.project_id"
                    + " and s.stream_id = m.id left join run r on r.project_id = s.project_id"
                    + " and r.id = s.run_id where m.project_id = ? and m.name = ? and s.state <> 4"
                    + " and s.reasons <> 'FOLDED'"
                    + " order by r.number nulls last, s.old_test_id",
                projectId,
                stream)));
  }

  /** Those that lead to a test, however many there are, and from it, in whatever stream. */
  List<Renamed> around(long test) {
    return renamed(
        List.copyOf(
            dsl.fetch(
                "with recursive back (id, depth) as (select ?::integer, 0 union"
                    + " select s.old_test_id, b.depth + 1 from back b join succession s"
                    + " on s.project_id = ? and s.new_test_id = b.id and s.state in (1, 3)"
                    + " and s.reasons <> 'FOLDED'"
                    + " where b.depth < 100) "
                    + SELECT
                    + " from succession s left join run r on r.project_id = s.project_id"
                    + " and r.id = s.run_id where s.project_id = ?"
                    + " and (s.new_test_id in (select id from back) and s.reasons <> 'FOLDED'"
                    + " or s.old_test_id = ?)"
                    + " order by s.made_at desc, s.old_test_id",
                test,
                projectId,
                projectId,
                test)));
  }

  private List<Renamed> renamed(List<Record> rows) {
    Set<Long> ids = new HashSet<>();
    for (Record row : rows) {
      ids.add(row.get(0, Long.class));
      ids.add(row.get(1, Long.class));
    }
    Map<Long, KeptTest> tests = KeptTests.byNumber(dsl, projectId, ids);
    List<Renamed> renamed = new ArrayList<>();
    for (Record row : rows) {
      KeptTest old = tests.get(row.get(0, Long.class));
      KeptTest now = tests.get(row.get(1, Long.class));
      int state = row.get(2, Integer.class);
      if (old != null && now != null) {
        renamed.add(
            new Renamed(
                old,
                now,
                state == 1 || state == 3,
                state > 2,
                row.get(3, Double.class),
                Renaming.reasons(row.get(4, String.class)),
                row.get(5, Integer.class)));
      }
    }
    return renamed;
  }
}
