package org.vinecellar.store.triage;

import java.time.OffsetDateTime;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.Cause;
import org.vinecellar.core.triage.decisions.GroupInRun;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.triage.tickets.GroupTickets;

/** Why results of a run fail. */
public final class CauseQueries {
  /** Where each group was seen first is looked up once, however many results it has. */
  private static final String SELECT =
      "with f as materialized (select f.* from failure f where f.run_id = ? and f.place = any(?)),"
          + " s as materialized (select i.id as group_id, (select gr.run_id from group_run gr"
          + " where gr.project_id = ? and gr.group_id = i.id"
          + " order by gr.started_at, gr.run_id limit 1) as run_id"
          + " from (select distinct group_id as id from f) i),"
          + " b as materialized (select s.group_id, r.id, r.number, r.started_at, m.name from s"
          + " join run r on r.project_id = ? and r.id = s.run_id and r.number is not null"
          + " join stream m on m.project_id = r.project_id and m.id = r.stream_id)"
          + " select f.place, g.id, g.kind, g.sentence, g.template, f.origin, d.id as decision,"
          + " f.decision_id is null and "
          + String.format(GroupInRunQueries.RETURNED, "w.started_at")
          + " as returned,"
          + " d.comment, d.made_by, c.name as category, b.id as seen_in, b.number, b.started_at,"
          + " b.name as stream from f join failure_group g on g.project_id = ? and g.id = f.group_id"
          + " join run w on w.project_id = g.project_id and w.id = f.run_id"
          + " left join decision d on d.project_id = g.project_id and d.id = f.decision_id"
          + " left join category c on c.project_id = d.project_id and c.id = d.category_id"
          + " left join b on b.group_id = f.group_id";

  private CauseQueries() {}

  /** The causes of results by their places; of those that are not grouped there is none. */
  public static Map<Integer, Cause> of(
      DSLContext dsl, int projectId, long run, Collection<Integer> places) {
    Map<Integer, Cause> causes = new HashMap<>();
    if (!places.isEmpty()) {
      Result<Record> rows = dsl.fetch(SELECT, run, Ids.of(places), projectId, projectId, projectId);
      Map<Long, List<Ticket>> tickets =
          GroupTickets.of(dsl, projectId, new HashSet<>(rows.getValues("id", Long.class)));
      rows.forEach(row -> causes.put(row.get("place", Integer.class), cause(row, run, tickets)));
    }
    return causes;
  }

  private static Cause cause(Record row, long run, Map<Long, List<Ticket>> tickets) {
    long group = row.get("id", Long.class);
    return new Cause(
        group,
        KeyKind.ofCode(row.get("kind", Integer.class)),
        row.get("sentence", String.class),
        row.get("template", String.class),
        FailureQueries.said(row),
        row.get("returned", Boolean.class),
        seen(row, run),
        tickets.getOrDefault(group, List.of()));
  }

  /** Where a group was first seen, of a row that tells it. */
  static GroupInRun.@Nullable Seen seen(Record row, long run) {
    Long first = row.get("seen_in", Long.class);
    String stream = row.get("stream", String.class);
    Integer number = row.get("number", Integer.class);
    return first == null || stream == null || number == null
        ? null
        : new GroupInRun.Seen(
            stream, number, row.get("started_at", OffsetDateTime.class).toInstant(), first == run);
  }
}
