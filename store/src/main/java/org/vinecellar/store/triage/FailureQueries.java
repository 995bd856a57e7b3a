package org.vinecellar.store.triage;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.triage.tickets.GroupTickets;

/** Failing results with their groups and decisions. */
final class FailureQueries {
  /** Begins the key of a run that its sender named. */
  private static final String GIVEN = "key:";

  /** As it is called where suites are left out but for the innermost. */
  static final String TEST_NAME =
      "coalesce(s.name, '') || '#' || t.name || coalesce(t.parameters, '')";

  /** Few rows are chosen first: what belongs to them is looked up for these alone. */
  private static final String SELECT =
      "with chosen as materialized (select r.id, r.number, r.run_key, x.place, x.test_id"
          + " from run r join result x on x.run_id = r.id and x.outcome <> 0"
          + " and x.outcome in (1, 2) and not x.superseded"
          + " where r.project_id = ? and r.id = any(?) and (r.number, x.place) > (?, ?)"
          + " order by r.number, x.place limit ?)"
          + " select r.number, r.run_key, r.place, (with recursive up (id, parent_id, name, depth) as ("
          + "select id, parent_id, name, 0 from suite where project_id = t.project_id"
          + " and id = t.suite_id union all select u.id, u.parent_id, u.name, up.depth + 1"
          + " from suite u join up on u.id = up.parent_id where u.project_id = t.project_id)"
          + " select string_agg(name, ' › ' order by depth desc) from up) as path, "
          + TEST_NAME
          + " as test, f.group_id, g.kind, d.id as decision, c.name as category, f.origin,"
          + " d.comment, d.made_by"
          + " from chosen r join test t on t.project_id = ? and t.id = r.test_id"
          + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
          + " left join failure f on f.run_id = r.id and f.place = r.place"
          + " left join failure_group g on g.project_id = t.project_id and g.id = f.group_id"
          + " left join decision d on d.project_id = t.project_id and d.id = f.decision_id"
          + " left join category c on c.project_id = t.project_id and c.id = d.category_id"
          + " order by r.number, r.place";

  private static final String RUNS =
      "select r.id, r.number from stream m join run r on r.project_id = m.project_id"
          + " and r.stream_id = m.id where m.project_id = ? and m.name = ?"
          + " and r.number between ? and ? order by r.number limit ?";

  /** So many runs are looked through at first, and each time twice as many as before. */
  private static final int FIRST_RUNS = 16;

  private static final int MOST_RUNS = 1_024;

  private final DSLContext dsl;
  private final int projectId;

  FailureQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Optional<ResultId> find(long runId, String test) {
    return dsl
        .fetch(
            "select f.place from failure f"
                + " join test t on t.project_id = ? and t.id = f.test_id"
                + " left join suite s on s.project_id = ? and s.id = t.suite_id"
                + " where f.run_id = ? and "
                + TEST_NAME
                + " = ? order by f.place limit 1",
            projectId,
            projectId,
            runId,
            test)
        .stream()
        .findFirst()
        .map(row -> Packed.id(row.get(0, Integer.class)));
  }

  List<FailureLine> lines(TriageStore.Wanted wanted) {
    TriageStore.After after = wanted.after();
    List<Record> rows = new ArrayList<>();
    int from = after == null ? wanted.from() : Math.max(wanted.from(), after.run());
    int many = FIRST_RUNS;
    while (rows.size() < wanted.limit() && from <= wanted.to()) {
      Result<Record> runs = dsl.fetch(RUNS, projectId, wanted.stream(), from, wanted.to(), many);
      if (runs.isEmpty()) {
        break;
      }
      rows.addAll(
          dsl.fetch(
              SELECT,
              projectId,
              Ids.of(runs.getValues(0, Integer.class)),
              after == null ? 0 : after.run(),
              after == null ? Integer.MIN_VALUE : Packed.place(after.result()),
              wanted.limit() - rows.size(),
              projectId));
      from = runs.get(runs.size() - 1).get(1, Integer.class) + 1;
      many = Math.min(many * 2, MOST_RUNS);
    }
    Map<Long, List<Ticket>> tickets = GroupTickets.of(dsl, projectId, groups(rows));
    return rows.stream().map(row -> line(row, tickets)).toList();
  }

  private static Set<Long> groups(List<Record> rows) {
    Set<Long> groups = new HashSet<>();
    for (Record row : rows) {
      Long group = row.get("group_id", Long.class);
      if (group != null) {
        groups.add(group);
      }
    }
    return groups;
  }

  private static FailureLine line(Record row, Map<Long, List<Ticket>> tickets) {
    Long group = row.get("group_id", Long.class);
    Integer kind = row.get("kind", Integer.class);
    String path = row.get("path", String.class);
    return new FailureLine(
        row.get("number", Integer.class),
        key(row.get("run_key", String.class)),
        Packed.id(row.get("place", Integer.class)),
        path == null ? "" : path,
        row.get("test", String.class),
        group,
        kind == null ? null : KeyKind.ofCode(kind),
        said(row),
        group == null ? List.of() : tickets.getOrDefault(group, List.of()));
  }

  /** As its sender gave it. */
  private static @Nullable String key(String kept) {
    return kept.startsWith(GIVEN) ? kept.substring(GIVEN.length()) : null;
  }

  /** What was decided, of a row that tells of a decision. */
  static FailureLine.@Nullable Said said(Record row) {
    Long decision = row.get("decision", Long.class);
    DecisionOrigin origin = DecisionOrigin.ofCode(row.get("origin", Integer.class));
    return decision == null || origin == null
        ? null
        : new FailureLine.Said(
            decision,
            row.get("category", String.class),
            origin,
            row.get("comment", String.class),
            row.get("made_by", String.class));
  }
}
