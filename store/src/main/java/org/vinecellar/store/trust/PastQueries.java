package org.vinecellar.store.trust;

import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.trust.evidence.Environments;
import org.vinecellar.core.trust.history.PastResult;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;

/** What a test did before. */
final class PastQueries {
  /** So many runs are looked through at once, and at most. */
  private static final int RUNS = 250;

  private static final int MOST_RUNS = 10_000;

  private final DSLContext dsl;
  private final int projectId;

  PastQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<PastResult> of(long test, String stream, @Nullable String branch, int limit) {
    Long id =
        dsl
            .fetch(
                "select id from stream where project_id = ? and name = ? and deleted_at is null",
                projectId,
                stream)
            .stream()
            .map(row -> row.get(0, Long.class))
            .findFirst()
            .orElse(null);
    if (id == null) {
      return List.of();
    }
    Set<Integer> names = Lineage.of(dsl, projectId, id).withEarlier(Set.of((int) test));
    Map<Long, String> called = called(names, test);
    List<PastResult> all = new ArrayList<>();
    OffsetDateTime started = null;
    int number = 0;
    for (int seen = 0; all.size() < limit && seen < MOST_RUNS; seen += RUNS) {
      List<Record> runs = runs(id, branch, started, number);
      if (runs.isEmpty()) {
        break;
      }
      all.addAll(results(stream, runs, names, called));
      Record last = runs.get(runs.size() - 1);
      started = last.get("started_at", OffsetDateTime.class);
      number = last.get("number", Integer.class);
    }
    return all.size() > limit ? List.copyOf(all.subList(0, limit)) : all;
  }

  private Map<Long, String> called(Set<Integer> names, long test) {
    Map<Long, String> called = new HashMap<>();
    if (names.size() > 1) {
      dsl.fetch(
              "select id, name || coalesce(parameters, '') from test where project_id = ?"
                  + " and id = any(?) and id <> ?",
              projectId,
              Ids.of(names),
              test)
          .forEach(row -> called.put(row.get(0, Long.class), row.get(1, String.class)));
    }
    return called;
  }

  private List<Record> runs(
      long stream, @Nullable String branch, @Nullable OffsetDateTime started, int number) {
    return List.copyOf(
        dsl.fetch(
            "select r.id, r.number, r.started_at, r.commit_id, r.branch,"
                + " coalesce((select jsonb_object_agg(l.key, l.value) from run_label l"
                + " where l.run_id = r.id and l.key = any(?)), '{}')::text as labels"
                + " from run r where r.project_id = ? and r.stream_id = ? and r.number is not null"
                + " and (?::text is null or r.branch = ?)"
                + " and (?::timestamptz is null or (r.started_at, r.number) < (?::timestamptz, ?))"
                + " order by r.started_at desc, r.number desc limit ?",
            Environments.LABELS.toArray(String[]::new),
            projectId,
            stream,
            branch,
            branch,
            started,
            started,
            number,
            RUNS));
  }

  private List<PastResult> results(
      String stream, List<Record> runs, Set<Integer> names, Map<Long, String> called) {
    Map<Long, List<Record>> byRun = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select x.run_id, x.place, x.test_id, x.outcome, x.duration_us, x.attempts, x.stumbled,"
                + " f.group_id, coalesce(g.results, s.reach, 0) as alike from result x left join failure f on f.run_id = x.run_id"
                + " and f.place = x.place left join group_run g on g.project_id = ?"
                + " and g.group_id = f.group_id and g.run_id = f.run_id"
                + " left join stumble s on x.stumbled and s.run_id = x.run_id and s.place = x.place"
                + " where x.run_id = any(?) and x.test_id = any(?) and not x.superseded and x.kind = 0 order by x.place",
            projectId,
            Ids.of(runs.stream().map(row -> row.get("id", Long.class)).toList()),
            Ids.of(names))) {
      byRun.computeIfAbsent(row.get("run_id", Long.class), k -> new ArrayList<>()).add(row);
    }
    List<PastResult> all = new ArrayList<>();
    for (Record run : runs) {
      List<Record> rows = byRun.get(run.get("id", Long.class));
      if (rows != null) {
        all.add(past(stream, run, worst(rows), called));
      }
    }
    return all;
  }

  /** Of several results in one run, the worst; of those that passed, one that did not at once. */
  private static Record worst(List<Record> rows) {
    Record worst = rows.get(0);
    for (Record row : rows) {
      Outcome one = Outcome.ofCode(row.get("outcome", Integer.class));
      Outcome before = Outcome.ofCode(worst.get("outcome", Integer.class));
      boolean worse = one != before && one.worse(before) == one;
      boolean stumbled =
          row.get("stumbled", Boolean.class) && !worst.get("stumbled", Boolean.class);
      if (worse || (one == before && stumbled)) {
        worst = row;
      }
    }
    return worst;
  }

  private static PastResult past(String stream, Record run, Record row, Map<Long, String> called) {
    Long micros = row.get("duration_us", Long.class);
    return new PastResult(
        new PastResult.Run(
            run.get("id", Long.class),
            stream,
            run.get("number", Integer.class),
            run.get("started_at", OffsetDateTime.class).toInstant(),
            run.get("commit_id", String.class),
            run.get("branch", String.class),
            Json.map(JSONB.valueOf(run.get("labels", String.class)))),
        Packed.id(row.get("place", Integer.class)),
        Outcome.ofCode(row.get("outcome", Integer.class)),
        micros == null ? TestResult.NO_DURATION : micros,
        row.get("attempts", Integer.class),
        row.get("stumbled", Boolean.class),
        row.get("group_id", Long.class),
        row.get("alike", Integer.class),
        called.get(row.get("test_id", Long.class)));
  }
}
