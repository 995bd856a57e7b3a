package org.vinecellar.store.triage.tickets;

import static org.vinecellar.store.generated.Tables.GROUP_TICKET;
import static org.vinecellar.store.generated.Tables.REGROUPING;

import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.Ticket.Mismatch;
import org.vinecellar.core.triage.tickets.Template;
import org.vinecellar.store.sql.Ids;

/** The tickets of failure groups, with those of groups that people put together with them. */
public final class GroupTickets {
  /** So long after it was seen last, streams that ran this often since are done with a failure. */
  private static final String LONG = "interval '10 days'";

  private static final int RUNS = 5;

  /** Of a group {@code g}: runs of its streams that began since it was seen last. */
  private static final String SINCE =
      "(select count(*) as runs, max(x.started_at) as latest from (select distinct gr.stream_id"
          + " from group_run gr where gr.project_id = g.project_id and gr.group_id = g.id) s"
          + " cross join lateral (select r.started_at from run r where r.project_id = g.project_id"
          + " and r.stream_id = s.stream_id and r.number is not null and r.started_at > g.last_at"
          + " order by r.started_at desc limit 50) x)";

  /** Of a ticket {@code t} and a group {@code g}. */
  private static final String MISMATCH =
      "case when t.lost_at is not null then 0"
          + " when not t.is_open and g.last_at > t.closed_at then 1"
          + " when t.is_open and (select u.runs >= "
          + RUNS
          + " and u.latest > g.last_at + "
          + LONG
          + " from "
          + SINCE
          + " u) then 2 end";

  /** All groups {@code w.id} that belong to {@code w.root} as a whole. */
  private static final String WHOLE =
      "with recursive w (root, id) as (select i, i from unnest(?::int[]) i union"
          + " select w.root, o.group_id from w join regrouping o on o.project_id = ?"
          + " and o.to_group_id = w.id and o.test_id = 0)";

  private static final String SELECT =
      WHOLE
          + " select distinct on (w.root, t.id) w.root, t.*, k.page_url, "
          + MISMATCH
          + " as mismatch, l.linked_at from w join group_ticket l on l.project_id = ?"
          + " and l.group_id = w.id join ticket t on t.project_id = l.project_id"
          + " and t.id = l.ticket_id join failure_group g on g.project_id = l.project_id"
          + " and g.id = w.root left join tracker k on k.project_id = t.project_id"
          + " order by w.root, t.id, l.linked_at";

  private GroupTickets() {}

  /** By the groups; those without any are not among them. */
  public static Map<Long, List<Ticket>> of(DSLContext dsl, int projectId, Collection<Long> groups) {
    Map<Long, List<Ticket>> tickets = new HashMap<>();
    if (groups.isEmpty() || !areThere(dsl, projectId)) {
      return tickets;
    }
    dsl.fetch(SELECT, Ids.of(groups), projectId, projectId)
        .forEach(
            row ->
                tickets
                    .computeIfAbsent(row.get("root", Long.class), k -> new ArrayList<>())
                    .add(ticket(row)));
    return tickets;
  }

  /** Of one. */
  public static List<Ticket> of(DSLContext dsl, int projectId, long group) {
    return of(dsl, projectId, List.of(group)).getOrDefault(group, List.of());
  }

  /**
   * Whether one of a group is not known to be closed. Until the transaction ends, none of them
   * becomes that.
   */
  public static boolean someOpen(DSLContext dsl, int projectId, long group) {
    List<Long> ids = of(dsl, projectId, group).stream().map(Ticket::id).toList();
    dsl.execute(
        "select 1 from ticket where project_id = ? and id = any(?) order by id for share",
        projectId,
        Ids.of(ids));
    return of(dsl, projectId, group).stream()
        .anyMatch(ticket -> !Boolean.FALSE.equals(ticket.open()));
  }

  /**
   * Of a group {@code g} that has a ticket which says what does not fit. Only those are looked at
   * that can have one.
   */
  public static String doesNotFit(int projectId) {
    return "g.id = any(array(select l.group_id from group_ticket l where l.project_id = "
        + projectId
        + " union select o.to_group_id from regrouping o where o.project_id = "
        + projectId
        + " and o.test_id = 0)) and exists (with recursive w (id) as (select g.id union"
        + " select o.group_id from w join regrouping o on o.project_id = g.project_id"
        + " and o.to_group_id = w.id and o.test_id = 0) select 1 from w join group_ticket l"
        + " on l.project_id = g.project_id and l.group_id = w.id join ticket t"
        + " on t.project_id = l.project_id and t.id = l.ticket_id where "
        + MISMATCH
        + " is not null)";
  }

  /** That a group is linked to a ticket, or another one was put together with it. */
  public static Condition canHave(int projectId, Field<Long> group) {
    return group.in(
        DSL.select(GROUP_TICKET.GROUP_ID)
            .from(GROUP_TICKET)
            .where(GROUP_TICKET.PROJECT_ID.eq(projectId))
            .union(
                DSL.select(REGROUPING.TO_GROUP_ID)
                    .from(REGROUPING)
                    .where(REGROUPING.PROJECT_ID.eq(projectId), REGROUPING.TEST_ID.eq(0L))));
  }

  private static boolean areThere(DSLContext dsl, int projectId) {
    return dsl.fetchSingle(
            "select exists (select 1 from group_ticket where project_id = ?)", projectId)
        .get(0, Boolean.class);
  }

  private static Ticket ticket(Record row) {
    String key = row.get("key", String.class);
    String page = row.get("page_url", String.class);
    OffsetDateTime checked = row.get("checked_at", OffsetDateTime.class);
    Integer mismatch = row.get("mismatch", Integer.class);
    return new Ticket(
        row.get("id", Long.class),
        key,
        row.get("title", String.class),
        row.get("state", String.class),
        row.get("is_open", Boolean.class),
        link(page, key),
        checked == null ? null : checked.toInstant(),
        row.get("trouble", String.class),
        mismatch == null ? null : Objects.requireNonNull(Mismatch.values()[mismatch]));
  }

  private static @Nullable String link(@Nullable String page, @Nullable String key) {
    return page == null || page.isEmpty() || key == null
        ? null
        : Template.url(page, Map.of("key", key));
  }
}
