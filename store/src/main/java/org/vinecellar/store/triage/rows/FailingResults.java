package org.vinecellar.store.triage.rows;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.ResultQuery;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.store.sql.Ids;

/** The failing results of a run that stand, with what they say. */
public final class FailingResults {
  private static final int AT_ONCE = 200;

  /** Of larger runs, the first suites tell whose code is ours. */
  private static final int SUITES = 2_000;

  private static final String SELECT =
      "select r.place, r.test_id, r.first_line, a.failure_type, a.message, a.trace, a.attempt_no,"
          + " t.name, t.parameters, t.suite_id from result r"
          + " join test t on t.project_id = ? and t.id = r.test_id"
          + " left join lateral (select * from attempt a where a.run_id = r.run_id"
          + " and a.place = r.place and a.outcome in (1, 2) order by a.attempt_no desc limit 1) a on true"
          + " where r.run_id = ? and r.outcome <> 0 and r.outcome in (1, 2) and not r.superseded"
          + "%s order by r.place";

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final Map<Integer, SuitePath> suites = new HashMap<>();

  /** Of a run of that project. */
  public FailingResults(DSLContext dsl, int projectId, long runId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
  }

  /** One of them. */
  public record One(int place, int testId, TestId test, List<Failure> failures) {}

  /** Whether there is one. */
  public boolean areThere() {
    return dsl.fetchSingle(
            "select exists (select 1 from result r where r.run_id = ? and r.outcome <> 0"
                + " and r.outcome in (1, 2) and not r.superseded)",
            runId)
        .get(0, Boolean.class);
  }

  /** In the order of their places; a few at a time are held. */
  public void each(Consumer<One> consumer) {
    each(dsl.resultQuery(String.format(SELECT, ""), projectId, runId), consumer);
  }

  /** Those at some places, in the same way. */
  public void at(Collection<Integer> places, Consumer<One> consumer) {
    String select = String.format(SELECT, " and r.place = any(?)");
    each(dsl.resultQuery(select, projectId, runId, Ids.of(places)), consumer);
  }

  private void each(ResultQuery<Record> query, Consumer<One> consumer) {
    try (Cursor<Record> rows = query.fetchSize(AT_ONCE).fetchLazy()) {
      while (rows.hasNext()) {
        List<Record> some = new ArrayList<>(rows.fetchNext(AT_ONCE));
        load(some);
        some.forEach(row -> consumer.accept(one(row)));
      }
    }
  }

  private One one(Record row) {
    String message = row.get("message", String.class);
    String trace = row.get("trace", String.class);
    String line = row.get("first_line", String.class);
    Failure failure =
        row.get("attempt_no") == null
            ? new Failure(null, line, null)
            : new Failure(row.get("failure_type", String.class), message, trace);
    SuitePath suite = suites.getOrDefault(row.get("suite_id", Integer.class), SuitePath.ROOT);
    return new One(
        row.get("place", Integer.class),
        row.get("test_id", Integer.class),
        TestId.of(suite, row.get("name", String.class), row.get("parameters", String.class)),
        List.of(failure));
  }

  /** Names of suites of the run, which tell packages of ours. */
  public List<String> suiteNames() {
    return dsl.fetch(
            "select s.name from run_suite rs join suite s on s.project_id = ? and s.id = rs.suite_id"
                + " where rs.run_id = ? order by s.id limit ?",
            projectId,
            runId,
            SUITES)
        .getValues(0, String.class);
  }

  private void load(List<Record> rows) {
    Set<Integer> wanted = new HashSet<>();
    for (Record row : rows) {
      Integer suite = row.get("suite_id", Integer.class);
      if (suite != null && !suites.containsKey(suite)) {
        wanted.add(suite);
      }
    }
    if (wanted.isEmpty()) {
      return;
    }
    Map<Integer, Record> known = new HashMap<>();
    dsl.fetch(
            "with recursive up (id, parent_id, name) as (select id, parent_id, name from suite"
                + " where project_id = ? and id = any(?) union select s.id, s.parent_id, s.name"
                + " from suite s join up on up.parent_id = s.id where s.project_id = ?)"
                + " select id, parent_id, name from up",
            projectId,
            Ids.of(wanted),
            projectId)
        .forEach(row -> known.put(row.get(0, Integer.class), row));
    wanted.forEach(id -> suites.put(id, path(id, known)));
  }

  private static SuitePath path(@Nullable Integer id, Map<Integer, Record> known) {
    Record row = id == null ? null : known.get(id);
    return row == null
        ? SuitePath.ROOT
        : path(row.get(1, Integer.class), known).child(row.get(2, String.class));
  }
}
