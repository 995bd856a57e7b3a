package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.RUN;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.triage.decisions.GroupInRun;
import org.vinecellar.core.triage.decisions.Outage;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.triage.tickets.GroupTickets;

/** The failure groups of a run. */
public final class GroupInRunQueries {
  private static final String TOTALS =
      "select count(distinct group_id), count(*), count(*) filter (where decision_id is null)"
          + " from failure where run_id = ?";

  /** Whether something that people decided of a group {@code g} had ended by a time. */
  static final String RETURNED =
      "exists (select 1 from decision e where e.project_id = g.project_id and e.group_id = g.id"
          + " and e.undone_at is null and e.scope in (1, 2) and e.ends_at <= %s)";

  private static final String LINES =
      "with f as (select group_id, place, test_id, decision_id, origin from failure"
          + " where run_id = ?), n as (select group_id, count(*) as results,"
          + " count(distinct test_id) as tests,"
          + " count(*) filter (where decision_id is null) as open, min(place) as place,"
          + " (array_agg(test_id order by place))[1] as test_id,"
          + " mode() within group (order by decision_id) as said from f group by group_id"
          + " order by (count(*) filter (where decision_id is null) = 0), count(*) desc, group_id"
          + " limit ?), o as (select group_id, decision_id, min(origin) as origin from f"
          + " where decision_id is not null group by 1, 2)"
          + " select n.group_id, n.results, n.tests, n.open, n.place, g.kind, g.sentence, g.template,"
          + FailureQueries.TEST_NAME
          + " as test, d.id as decision, c.name as category, d.comment, d.made_by,"
          + " o.origin, n.open > 0 and "
          + String.format(RETURNED, "w.started_at")
          + " as returned, b.id as seen_in, b.number, b.started_at,"
          + " m.name as stream"
          + " from n join failure_group g on g.project_id = ? and g.id = n.group_id"
          + " left join o on o.group_id = n.group_id and o.decision_id = n.said"
          + " join run w on w.project_id = g.project_id and w.id = ?"
          + " join test t on t.project_id = g.project_id and t.id = n.test_id"
          + " left join suite s on s.project_id = g.project_id and s.id = t.suite_id"
          + " left join decision d on d.project_id = g.project_id and d.id = n.said"
          + " left join category c on c.project_id = g.project_id and c.id = d.category_id"
          + " left join lateral (select r.* from group_run gr join run r"
          + " on r.project_id = gr.project_id and r.id = gr.run_id and r.number is not null"
          + " where gr.project_id = g.project_id and gr.group_id = g.id"
          + " order by gr.started_at, gr.run_id limit 1) b on true"
          + " left join stream m on m.project_id = g.project_id and m.id = b.stream_id"
          + " order by n.open = 0, n.results desc, n.group_id";

  /** The widest group of a run, beside the tests that ran or were kept from it. */
  private static final String WIDEST =
      "select r.passed + r.failed + r.errored + r.not_reached as ran, w.results as widest,"
          + " g.id as group_id, g.kind, g.sentence, g.template from run r join lateral (select"
          + " gr.group_id, gr.results from group_run gr where gr.project_id = r.project_id"
          + " and gr.run_id = r.id order by gr.results desc, gr.group_id limit 1) w on true"
          + " join failure_group g on g.project_id = r.project_id and g.id = w.group_id"
          + " where r.project_id = ? and r.id = ?";

  /** The tests of a run that were not reached, by the group of the nearest set-up around them. */
  private static final String KEPT =
      "with recursive setup as (select f.group_id, r.place, t.suite_id from result r"
          + " join failure f on f.run_id = r.run_id and f.place = r.place join test t"
          + " on t.project_id = ? and t.id = r.test_id where r.run_id = ? and r.kind = ?"
          + " and r.outcome <> 0 and r.outcome in (1, 2) and not r.superseded),"
          + " under (id, place, group_id, steps) as (select s.suite_id, s.place, s.group_id, 0"
          + " from setup s where s.suite_id is not null union all select i.id, u.place, u.group_id,"
          + " u.steps + 1 from under u join suite i on i.project_id = ? and i.parent_id = u.id),"
          + " nearest as (select distinct on (id) id, group_id from under"
          + " order by id, steps, place)"
          + " select coalesce(n.group_id, (select s.group_id from setup s where s.suite_id is null"
          + " order by s.place limit 1)) as group_id, count(*)::int from result r join test t"
          + " on t.project_id = ? and t.id = r.test_id left join nearest n on n.id = t.suite_id"
          + " where r.run_id = ? and r.outcome <> 0 and r.outcome = ? and not r.superseded group by 1";

  private GroupInRunQueries() {}

  static TriageStore.GroupsInRun of(DSLContext dsl, int projectId, long runId, int limit) {
    Record run =
        dsl.select(RUN.NOT_COMPARED, RUN.SET_UPS)
            .from(RUN)
            .where(
                RUN.PROJECT_ID.eq(projectId),
                RUN.ID.eq(runId),
                RUN.NUMBER.isNotNull(),
                RUN.DELETED_AT.isNull())
            .fetchOne();
    if (run == null) {
      throw new CellarException(ProblemCode.NOT_FOUND, "there is no run " + runId);
    }
    Record totals = dsl.fetchSingle(TOTALS, runId);
    Map<Long, Integer> kept = run.get(RUN.SET_UPS) == 0 ? Map.of() : kept(dsl, projectId, runId);
    Result<Record> rows = dsl.fetch(LINES, runId, limit, projectId, runId);
    Map<Long, List<Ticket>> tickets =
        GroupTickets.of(dsl, projectId, rows.getValues("group_id", Long.class));
    List<GroupInRun> lines = rows.map(row -> line(row, runId, kept, tickets));
    Record widest = dsl.fetchOne(WIDEST, projectId, runId);
    return new TriageStore.GroupsInRun(
        lines,
        totals.get(0, Integer.class),
        totals.get(1, Integer.class),
        totals.get(2, Integer.class),
        run.get(RUN.NOT_COMPARED),
        widest == null ? null : outage(widest));
  }

  private static Map<Long, Integer> kept(DSLContext dsl, int projectId, long runId) {
    Map<Long, Integer> kept = new HashMap<>();
    dsl.fetch(
            KEPT,
            projectId,
            runId,
            ResultKind.SETUP.code(),
            projectId,
            projectId,
            runId,
            Outcome.NOT_REACHED.code())
        .forEach(
            row -> {
              Long group = row.get(0, Long.class);
              if (group != null) {
                kept.put(group, row.get(1, Integer.class));
              }
            });
    return kept;
  }

  /** Of a row with the widest group of a run and the tests that ran; null when it is none. */
  public static @Nullable Outage outage(Record row) {
    Integer widest = row.get("widest", Integer.class);
    int ran = row.get("ran", Integer.class);
    return widest == null || !Outage.is(widest, ran)
        ? null
        : new Outage(
            row.get("group_id", Long.class),
            KeyKind.ofCode(row.get("kind", Integer.class)),
            row.get("sentence", String.class),
            row.get("template", String.class),
            widest,
            ran);
  }

  private static GroupInRun line(
      Record row, long runId, Map<Long, Integer> kept, Map<Long, List<Ticket>> tickets) {
    long group = row.get("group_id", Long.class);
    return new GroupInRun(
        group,
        KeyKind.ofCode(row.get("kind", Integer.class)),
        row.get("sentence", String.class),
        row.get("template", String.class),
        row.get("results", Integer.class),
        row.get("tests", Integer.class),
        row.get("open", Integer.class),
        kept.getOrDefault(group, 0),
        Packed.id(row.get("place", Integer.class)),
        row.get("test", String.class),
        FailureQueries.said(row),
        row.get("returned", Boolean.class),
        CauseQueries.seen(row, runId),
        tickets.getOrDefault(group, List.of()));
  }
}
