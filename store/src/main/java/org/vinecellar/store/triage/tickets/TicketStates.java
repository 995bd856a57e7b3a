package org.vinecellar.store.triage.tickets;

import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.GROUP_TICKET;
import static org.vinecellar.store.generated.Tables.TICKET;
import static org.vinecellar.store.generated.Tables.TRACKER;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.TreeSet;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.GroupNews;
import org.vinecellar.store.triage.rows.Regroupings;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** What trackers say of tickets, and what ends with them. In a transaction. */
final class TicketStates {
  static final int LONGEST_KEY = 200;
  static final int LONGEST_TITLE = 1_000;
  private static final int LONGEST_TROUBLE = 1_000;
  private static final Duration FIRST_WAIT = Duration.ofSeconds(5);
  private static final Duration LONGEST_WAIT = Duration.ofMinutes(10);

  private final DSLContext dsl;
  private final int projectId;

  TicketStates(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** The tracker has answered: it is there again, and says that. */
  void seen(long ticket, Entry entry, Instant now) {
    write(ticket, entry, now);
    int back =
        dsl.update(TRACKER)
            .setNull(TRACKER.TROUBLE)
            .setNull(TRACKER.TROUBLE_AT)
            .where(TRACKER.PROJECT_ID.eq(projectId), TRACKER.TROUBLE.isNotNull())
            .execute();
    if (back > 0) {
      // What waits need not wait any longer.
      dsl.update(TICKET)
          .set(TICKET.DUE_AT, Sql.utc(now))
          .where(
              TICKET.PROJECT_ID.eq(projectId),
              TICKET.TROUBLE.isNotNull(),
              TICKET.DUE_AT.isNotNull())
          .execute();
    }
  }

  /** What an entry says now, of the ticket that is it. */
  void write(long ticket, Entry entry, Instant now) {
    String key = Texts.cut(entry.key(), LONGEST_KEY);
    Record before =
        dsl.fetchOne(
            "select key, title, state, is_open, lost_at from ticket where project_id = ? and id = ?"
                + " for update",
            projectId,
            ticket);
    if (before == null) {
      return;
    }
    Instant told = entry.closedAt();
    // A tracker's clock may go before ours.
    Instant closed = told != null && told.isAfter(now) ? now : told;
    long kept = before.get("key") == null ? keyed(ticket, key) : ticket;
    dsl.update(TICKET)
        .set(TICKET.TITLE, Texts.cut(entry.title(), LONGEST_TITLE))
        .set(TICKET.STATE, Texts.cut(entry.state(), LONGEST_KEY))
        .set(TICKET.IS_OPEN, entry.open())
        .set(
            TICKET.CLOSED_AT,
            entry.open()
                ? DSL.val((OffsetDateTime) null)
                : closed == null
                    ? DSL.coalesce(TICKET.CLOSED_AT, DSL.val(Sql.utc(now)))
                    : DSL.val(Sql.utc(closed)))
        .set(TICKET.CHECKED_AT, Sql.utc(now))
        .setNull(TICKET.LOST_AT)
        .setNull(TICKET.TROUBLE)
        .setNull(TICKET.DRAFT)
        .setNull(TICKET.MARK)
        .set(TICKET.TRIES, 0)
        .setNull(TICKET.TAKEN_UNTIL)
        .set(
            TICKET.DUE_AT,
            DSL.when(TICKET.UNSAID.isNotNull().and(canBeTold()), DSL.val(Sql.utc(now)))
                .otherwise(
                    Sql.utc(now.plus(entry.open() ? TicketStore.FRESH : TicketStore.CLOSED))))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(kept))
        .execute();
    Boolean open = before.get("is_open", Boolean.class);
    if (open == null
        || open != entry.open()
        || before.get("lost_at") != null
        || !entry.title().equals(before.get("title"))
        || !entry.state().equals(before.get("state"))) {
      changed(kept, now);
    }
  }

  /** What waits for a tracker that takes no comments is no reason to ask it again and again. */
  private Condition canBeTold() {
    return DSL.exists(
        DSL.selectOne()
            .from(TRACKER)
            .where(TRACKER.PROJECT_ID.eq(projectId), TRACKER.COMMENT_URL.ne("")));
  }

  /** It has been made: from now on it is known by its key, and is one with who has that already. */
  private long keyed(long ticket, String key) {
    Record other =
        dsl.fetchOne("select id from ticket where project_id = ? and key = ?", projectId, key);
    if (other == null) {
      dsl.update(TICKET)
          .set(TICKET.KEY, key)
          .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
          .execute();
      return ticket;
    }
    long kept = other.get(0, Long.class);
    dsl.execute(
        "insert into group_ticket select project_id, group_id, ?, linked_at, linked_by"
            + " from group_ticket where project_id = ? and ticket_id = ? on conflict do nothing",
        kept,
        projectId,
        ticket);
    dsl.deleteFrom(GROUP_TICKET)
        .where(GROUP_TICKET.PROJECT_ID.eq(projectId), GROUP_TICKET.TICKET_ID.eq(ticket))
        .execute();
    dsl.deleteFrom(TICKET).where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket)).execute();
    return kept;
  }

  void lost(long ticket, Instant now) {
    int lost =
        dsl.update(TICKET)
            .set(TICKET.LOST_AT, Sql.utc(now))
            .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket), TICKET.LOST_AT.isNull())
            .execute();
    dsl.update(TICKET)
        .set(TICKET.CHECKED_AT, Sql.utc(now))
        .setNull(TICKET.TROUBLE)
        .setNull(TICKET.UNSAID)
        .setNull(TICKET.TAKEN_UNTIL)
        .set(TICKET.TRIES, 0)
        .set(TICKET.DUE_AT, Sql.utc(now.plus(TicketStore.CLOSED)))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
        .execute();
    if (lost > 0) {
      changed(ticket, now);
    }
  }

  void failed(long ticket, String trouble, int tries, Instant now) {
    String why = Texts.cut(trouble, LONGEST_TROUBLE);
    Duration wait = FIRST_WAIT.multipliedBy(1L << Math.min(tries, 20));
    dsl.update(TICKET)
        .set(TICKET.TROUBLE, why)
        .setNull(TICKET.TAKEN_UNTIL)
        .set(
            TICKET.DUE_AT,
            Sql.utc(now.plus(wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait)))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
        .execute();
    dsl.update(TRACKER)
        .set(TRACKER.TROUBLE, why)
        .set(TRACKER.TROUBLE_AT, DSL.coalesce(TRACKER.TROUBLE_AT, DSL.val(Sql.utc(now))))
        .where(TRACKER.PROJECT_ID.eq(projectId))
        .execute();
  }

  /** Those who look at its groups see it, and what held until it is closed may end. */
  private void changed(long ticket, Instant now) {
    Regroupings said = Regroupings.of(dsl, projectId);
    TreeSet<Long> groups = new TreeSet<>();
    dsl.fetch(
            "select group_id from group_ticket where project_id = ? and ticket_id = ?",
            projectId,
            ticket)
        .forEach(row -> groups.add(said.of(row.get(0, Long.class))));
    for (long group : groups) {
      endIfClosed(group, now);
      GroupNews.tell(dsl, projectId, group);
    }
  }

  /** What was decided until the tickets of a group are closed. */
  void endIfClosed(long group, Instant now) {
    List<Ticket> tickets = GroupTickets.of(dsl, projectId, group);
    boolean closed =
        !tickets.isEmpty()
            && tickets.stream()
                .allMatch(
                    one ->
                        Boolean.FALSE.equals(one.open()) && one.mismatch() != Ticket.Mismatch.LOST);
    if (!closed) {
      return;
    }
    int ended =
        dsl.update(DECISION)
            .set(DECISION.ENDS_AT, DSL.greatest(DECISION.MADE_AT, closed(tickets, now)))
            .set(DECISION.ENDED_BY, EndedBy.TICKET.code())
            .where(
                DECISION.PROJECT_ID.eq(projectId),
                DECISION.GROUP_ID.eq(group),
                DECISION.UNDONE_AT.isNull(),
                DECISION.UNTIL_CLOSED.isTrue(),
                DECISION.ENDS_AT.isNull().or(DECISION.ENDS_AT.gt(Sql.utc(now))))
            .execute();
    if (ended > 0) {
      WorkRows.ask(dsl, WorkKind.CARRY_GROUP, projectId, group, now);
    }
  }

  /** When the last of them was closed. */
  private Field<OffsetDateTime> closed(List<Ticket> tickets, Instant now) {
    return DSL.coalesce(
        DSL.field(
            DSL.select(DSL.max(TICKET.CLOSED_AT))
                .from(TICKET)
                .where(
                    TICKET.PROJECT_ID.eq(projectId),
                    TICKET.ID.in(tickets.stream().map(Ticket::id).toList()))),
        DSL.val(Sql.utc(now)));
  }
}
