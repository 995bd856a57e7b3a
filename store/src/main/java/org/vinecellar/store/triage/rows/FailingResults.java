package org.vinecellar.store.triage.rows;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
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
  private static final int AT_ONCE = 1_000;

  /** Of so many the texts are read at once, and of no more than so many bytes. */
  private static final int FEW = 200;

  private static final int BYTES = 8 << 20;

  /** Of larger runs, the first suites tell whose code is ours. */
  private static final int SUITES = 2_000;

  private static final String SELECT =
      "select r.place, r.test_id, r.first_line,"
          + " case r.kind when 0 then r.outcome else 0 end as failed_as"
          + " from result r where r.run_id = ? and r.outcome <> 0"
          + " and r.outcome in (1, 2) and not r.superseded%s order by r.place";

  /** Those that passed when they were tried again. */
  private static final String STUMBLED =
      "from result r where r.run_id = ? and r.outcome = 0 and r.stumbled and r.kind = 0"
          + " and not r.superseded";

  /** The last try that failed. */
  private static final String ATTEMPTS =
      "select distinct on (a.place) a.place, a.failure_type, a.message, a.trace from attempt a"
          + " where a.run_id = ? and a.place = any(?) and a.outcome in (1, 2)"
          + " order by a.place, a.attempt_no desc";

  /** How long that is, in bytes; known without reading it. */
  private static final String LENGTHS =
      "select a.place, max(coalesce(octet_length(a.message), 0)::bigint"
          + " + coalesce(octet_length(a.trace), 0)) as length from attempt a where a.run_id = ?"
          + " and a.place = any(?) and a.outcome in (1, 2) group by a.place";

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

  /**
   * One of them.
   *
   * @param outcome of the test, by its code; 0 for a set-up, and for what passed in the end
   */
  public record One(int place, int testId, TestId test, List<Failure> failures, int outcome) {}

  /** Whether there is one. */
  public boolean areThere() {
    return dsl.fetchSingle(
            "select exists (select 1 from result r where r.run_id = ? and r.outcome <> 0"
                + " and r.outcome in (1, 2) and not r.superseded)",
            runId)
        .get(0, Boolean.class);
  }

  /**
   * In the order of their places; a few at a time are held with their texts.
   *
   * @param consumer of these few; called by one thread at a time, which may be another one: the
   *     next few are read meanwhile, so that it must not use the connection
   */
  public void each(Consumer<List<One>> consumer) {
    each(dsl.resultQuery(String.format(SELECT, ""), runId), consumer);
  }

  /** Those at some places, in the same way, and under the same terms. */
  public void at(Collection<Integer> places, Consumer<List<One>> consumer) {
    String select = String.format(SELECT, " and r.place = any(?)");
    each(dsl.resultQuery(select, runId, Ids.of(places)), consumer);
  }

  /** How many stand as passed that failed at first. */
  public int stumbling() {
    return dsl.fetchSingle(
            "select case when r.retried > 0 then (select count(*) "
                + STUMBLED
                + ") else 0 end::int from run r where r.project_id = ? and r.id = ?",
            runId,
            projectId,
            runId)
        .get(0, Integer.class);
  }

  /** Those, in the same way. */
  public void eachStumbling(Consumer<List<One>> consumer) {
    String select =
        "select r.place, r.test_id, r.first_line, 0 as failed_as " + STUMBLED + " order by r.place";
    each(dsl.resultQuery(select, runId), consumer);
  }

  /** What belongs to some is asked for at once: no plan for all can be a bad one. */
  private void each(ResultQuery<Record> query, Consumer<List<One>> consumer) {
    Alongside alongside = new Alongside("failures of run " + runId, BYTES);
    try (Cursor<Record> rows = query.fetchSize(AT_ONCE).fetchLazy()) {
      while (rows.hasNext()) {
        List<Record> some = rows.fetchNext(AT_ONCE);
        Map<Integer, Record> tests = tests(some);
        Iterator<Part> parts = parts(some).iterator();
        while (parts.hasNext()) {
          Part next = parts.next();
          List<One> part = read(next.rows, tests);
          if (parts.hasNext() || rows.hasNext()) {
            alongside.next(() -> consumer.accept(part), next.bytes);
          } else {
            alongside.end();
            consumer.accept(part);
          }
        }
      }
    } finally {
      alongside.end();
    }
  }

  private Map<Integer, Record> tests(List<Record> rows) {
    Map<Integer, Record> tests =
        by(
            "id",
            dsl.fetch(
                "select id, name, parameters, suite_id from test where project_id = ?"
                    + " and id = any(?)",
                projectId,
                Ids.of(ints(rows, "test_id"))));
    load(tests.values());
    return tests;
  }

  private static final class Part {
    private final List<Record> rows = new ArrayList<>();
    private long bytes;
  }

  /** A few that are short, or fewer that are long: a text may have millions of characters. */
  private List<Part> parts(List<Record> rows) {
    Map<Integer, Record> lengths =
        by("place", dsl.fetch(LENGTHS, runId, Ids.of(ints(rows, "place"))));
    List<Part> parts = new ArrayList<>();
    Part last = new Part();
    for (Record row : rows) {
      Record said = lengths.get(row.get("place", Integer.class));
      long length = said == null ? 0 : said.get("length", Long.class);
      if (last.rows.isEmpty() || last.rows.size() == FEW || last.bytes + length > BYTES) {
        last = new Part();
        parts.add(last);
      }
      last.rows.add(row);
      last.bytes += length;
    }
    return parts;
  }

  private List<One> read(List<Record> rows, Map<Integer, Record> tests) {
    Map<Integer, Record> attempts =
        by("place", dsl.fetch(ATTEMPTS, runId, Ids.of(ints(rows, "place"))));
    List<One> some = new ArrayList<>(rows.size());
    for (Record row : rows) {
      Record test = tests.get(row.get("test_id", Integer.class));
      if (test != null) {
        some.add(one(row, test, attempts.get(row.get("place", Integer.class))));
      }
    }
    return some;
  }

  private static Set<Integer> ints(Collection<Record> rows, String field) {
    Set<Integer> ints = new HashSet<>();
    rows.forEach(row -> ints.add(row.get(field, Integer.class)));
    return ints;
  }

  private static Map<Integer, Record> by(String field, Collection<Record> rows) {
    Map<Integer, Record> by = new HashMap<>();
    rows.forEach(row -> by.put(row.get(field, Integer.class), row));
    return by;
  }

  private One one(Record row, Record test, @Nullable Record attempt) {
    Failure failure =
        attempt == null
            ? new Failure(null, row.get("first_line", String.class), null)
            : new Failure(
                attempt.get("failure_type", String.class),
                attempt.get("message", String.class),
                attempt.get("trace", String.class));
    SuitePath suite = suites.getOrDefault(test.get("suite_id", Integer.class), SuitePath.ROOT);
    return new One(
        row.get("place", Integer.class),
        row.get("test_id", Integer.class),
        TestId.of(suite, test.get("name", String.class), test.get("parameters", String.class)),
        List.of(failure),
        row.get("failed_as", Integer.class));
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

  private void load(Collection<Record> rows) {
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
