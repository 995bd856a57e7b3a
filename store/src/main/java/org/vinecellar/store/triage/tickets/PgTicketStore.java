package org.vinecellar.store.triage.tickets;

import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.GROUP_TICKET;
import static org.vinecellar.store.generated.Tables.TICKET;
import static org.vinecellar.store.generated.Tables.TRACKER;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.triage.tickets.TrackerSettings;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.GroupNews;
import org.vinecellar.store.triage.rows.Regroupings;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Tickets in PostgreSQL. Thread-safe. */
public final class PgTicketStore implements TicketStore {
  private static final int MOST_OF_GROUP = 20;
  private static final int LONGEST_KEY = 200;
  private static final int LONGEST_TITLE = 1_000;
  private static final int LONGEST_UNSAID = 20_000;
  private static final int LONGEST_TROUBLE = 1_000;

  /** Who takes an errand has so long; longer than a tracker may take to answer all its calls. */
  private static final Duration TAKEN = Duration.ofMinutes(5);

  private static final Duration FIRST_WAIT = Duration.ofSeconds(5);
  private static final Duration LONGEST_WAIT = Duration.ofMinutes(10);

  private static final String ERRANDS =
      "update ticket t set taken_until = ?::timestamptz, tries = t.tries + 1 from (select project_id, id"
          + " from ticket where due_at <= ?::timestamptz"
          + " and coalesce(taken_until, due_at) <= ?::timestamptz and exists (select 1 from tracker k"
          + " where k.project_id = ticket.project_id) and exists (select 1 from group_ticket l"
          + " where l.project_id = ticket.project_id and l.ticket_id = ticket.id)%s"
          + " order by due_at limit ? for update skip locked) d"
          + " where t.project_id = d.project_id and t.id = d.id returning t.*";

  private final Sql sql;

  /** On that database. */
  public PgTicketStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public Optional<Kept> tracker(int projectId) {
    return sql.with(dsl -> new TrackerRows(dsl, projectId).find());
  }

  @Override
  public Kept keep(
      int projectId, TrackerSettings settings, @Nullable String secret, int version, Hand hand) {
    TrackerSettings checked = settings.checked();
    return sql.transaction(
        dsl -> new TrackerRows(dsl, projectId).keep(checked, secret, version, hand));
  }

  @Override
  public void forget(int projectId, Hand hand) {
    sql.transaction(
        dsl -> {
          new TrackerRows(dsl, projectId).forget();
          return true;
        });
  }

  @Override
  public List<Ticket> ofGroup(int projectId, long group) {
    return sql.with(
        dsl -> GroupTickets.of(dsl, projectId, Regroupings.of(dsl, projectId).of(group)));
  }

  @Override
  public Ticket link(
      int projectId,
      long group,
      String key,
      @Nullable Entry seen,
      @Nullable String say,
      Hand hand) {
    if (key.isBlank() || key.length() > LONGEST_KEY) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "a ticket's key has 1 to " + LONGEST_KEY + " characters");
    }
    return sql.transaction(
        dsl -> {
          long into = there(dsl, projectId, group);
          // Of a tracker before this one there may have been an entry of that name.
          long id =
              dsl.fetchSingle(
                      "insert into ticket (project_id, key, title, due_at, tries, made_at, made_by)"
                          + " values (?, ?, ?, ?::timestamptz, 0, ?::timestamptz, ?)"
                          + " on conflict (project_id, key) do update set"
                          + " due_at = excluded.due_at, tries = 0 returning id",
                      projectId,
                      key,
                      key,
                      Sql.utc(hand.now()),
                      Sql.utc(hand.now()),
                      hand.name())
                  .get(0, Long.class);
          boolean made = linked(dsl, projectId, into, id, hand);
          if (made && say != null) {
            unsaid(dsl, projectId, id, say);
          }
          if (seen != null) {
            write(dsl, projectId, id, seen, hand.now());
          }
          return one(dsl, projectId, into, id);
        });
  }

  @Override
  public Ticket leave(
      int projectId, long group, String title, String text, String mark, Hand hand) {
    return sql.transaction(
        dsl -> {
          long into = there(dsl, projectId, group);
          long id =
              dsl.insertInto(TICKET)
                  .set(TICKET.PROJECT_ID, projectId)
                  .set(TICKET.TITLE, cut(title, LONGEST_TITLE))
                  .set(TICKET.DRAFT, text)
                  .set(TICKET.MARK, mark)
                  .set(TICKET.DUE_AT, Sql.utc(hand.now()))
                  .set(TICKET.TRIES, 0)
                  .set(TICKET.MADE_AT, Sql.utc(hand.now()))
                  .set(TICKET.MADE_BY, hand.name())
                  .returning(TICKET.ID)
                  .fetchSingle(TICKET.ID);
          boolean unused = linked(dsl, projectId, into, id, hand);
          return one(dsl, projectId, into, id);
        });
  }

  /** Whether it was not linked before. */
  private static boolean linked(DSLContext dsl, int projectId, long group, long id, Hand hand) {
    int linked =
        dsl.execute(
            "insert into group_ticket (project_id, group_id, ticket_id, linked_at, linked_by)"
                + " values (?, ?, ?, ?::timestamptz, ?) on conflict do nothing",
            projectId,
            group,
            id,
            Sql.utc(hand.now()),
            hand.name());
    if (GroupTickets.of(dsl, projectId, group).size() > MOST_OF_GROUP) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          "the group has " + MOST_OF_GROUP + " tickets already; take one away that says less");
    }
    GroupNews.tell(dsl, projectId, group);
    return linked > 0;
  }

  @Override
  public void unlink(int projectId, long group, long ticket, Hand hand) {
    sql.transaction(
        dsl -> {
          long into = there(dsl, projectId, group);
          Ticket unused = one(dsl, projectId, into, ticket);
          dsl.execute(
              "with recursive w (id) as (select ?::int union select o.group_id from w"
                  + " join regrouping o on o.project_id = ? and o.to_group_id = w.id"
                  + " and o.test_id = 0) delete from group_ticket l using w"
                  + " where l.project_id = ? and l.group_id = w.id and l.ticket_id = ?",
              into,
              projectId,
              projectId,
              ticket);
          // What nobody needs is not made, and not asked for.
          dsl.execute(
              "delete from ticket t where t.project_id = ? and t.id = ? and not exists"
                  + " (select 1 from group_ticket l where l.project_id = t.project_id"
                  + " and l.ticket_id = t.id)",
              projectId,
              ticket);
          endIfClosed(dsl, projectId, into, hand.now());
          GroupNews.tell(dsl, projectId, into);
          return true;
        });
  }

  @Override
  public void say(int projectId, long group, long ticket, String text, Hand hand) {
    sql.transaction(
        dsl -> {
          Ticket unused = one(dsl, projectId, there(dsl, projectId, group), ticket);
          unsaid(dsl, projectId, ticket, text);
          return dueNow(dsl, projectId, ticket, hand.now());
        });
  }

  @Override
  public void ask(int projectId, long group, long ticket, Hand hand) {
    sql.transaction(
        dsl -> {
          Ticket unused = one(dsl, projectId, there(dsl, projectId, group), ticket);
          return dueNow(dsl, projectId, ticket, hand.now());
        });
  }

  private static int dueNow(DSLContext dsl, int projectId, long ticket, Instant now) {
    return dsl.update(TICKET)
        .set(TICKET.DUE_AT, Sql.utc(now))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
        .execute();
  }

  private static void unsaid(DSLContext dsl, int projectId, long ticket, String text) {
    int fits =
        dsl.execute(
            "update ticket set unsaid = case when unsaid is null then ? else unsaid || ? end"
                + " where project_id = ? and id = ? and length(coalesce(unsaid, '')) + ? < ?",
            text,
            "\n\n" + text,
            projectId,
            ticket,
            text.length(),
            LONGEST_UNSAID);
    if (fits == 0) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          "what waits to be told of that ticket is longer than " + LONGEST_UNSAID + " characters");
    }
  }

  @Override
  public List<Errand> due(Instant now, int most) {
    return sql.transaction(
        dsl ->
            dsl.fetch(
                    String.format(ERRANDS, ""),
                    Sql.utc(now.plus(TAKEN)),
                    Sql.utc(now),
                    Sql.utc(now),
                    most)
                .map(PgTicketStore::errand));
  }

  @Override
  public Optional<Errand> take(int projectId, long ticket, Instant now) {
    return sql.transaction(
        dsl ->
            dsl
                .fetch(
                    String.format(ERRANDS, " and project_id = ? and id = ?"),
                    Sql.utc(now.plus(TAKEN)),
                    Sql.utc(now),
                    Sql.utc(now),
                    projectId,
                    ticket,
                    1)
                .stream()
                .findFirst()
                .map(PgTicketStore::errand));
  }

  private static Errand errand(Record row) {
    return new Errand(
        row.get("project_id", Integer.class),
        row.get("id", Long.class),
        row.get("key", String.class),
        row.get("title", String.class),
        row.get("draft", String.class),
        row.get("mark", String.class),
        row.get("unsaid", String.class),
        row.get("tries", Integer.class) - 1);
  }

  @Override
  public void seen(int projectId, long ticket, Entry entry, Instant now) {
    sql.transaction(
        dsl -> {
          write(dsl, projectId, ticket, entry, now);
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
                .where(TICKET.PROJECT_ID.eq(projectId), TICKET.TROUBLE.isNotNull())
                .and(TICKET.DUE_AT.isNotNull())
                .execute();
          }
          return true;
        });
  }

  private static void write(DSLContext dsl, int projectId, long ticket, Entry entry, Instant now) {
    String key = cut(entry.key(), LONGEST_KEY);
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
    long kept = before.get("key") == null ? keyed(dsl, projectId, ticket, key) : ticket;
    dsl.update(TICKET)
        .set(TICKET.TITLE, cut(entry.title(), LONGEST_TITLE))
        .set(TICKET.STATE, cut(entry.state(), LONGEST_KEY))
        .set(TICKET.IS_OPEN, entry.open())
        .set(
            TICKET.CLOSED_AT,
            entry.open()
                ? DSL.val((java.time.OffsetDateTime) null)
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
            DSL.when(TICKET.UNSAID.isNotNull(), DSL.val(Sql.utc(now)))
                .otherwise(Sql.utc(now.plus(entry.open() ? FRESH : CLOSED))))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(kept))
        .execute();
    Boolean open = before.get("is_open", Boolean.class);
    if (open == null
        || open != entry.open()
        || before.get("lost_at") != null
        || !entry.title().equals(before.get("title"))
        || !entry.state().equals(before.get("state"))) {
      changed(dsl, projectId, kept, now);
    }
  }

  /** It has been made: from now on it is known by its key, and is one with who has that already. */
  private static long keyed(DSLContext dsl, int projectId, long ticket, String key) {
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

  @Override
  public void lost(int projectId, long ticket, Instant now) {
    sql.transaction(
        dsl -> {
          int lost =
              dsl.update(TICKET)
                  .set(TICKET.LOST_AT, Sql.utc(now))
                  .where(
                      TICKET.PROJECT_ID.eq(projectId),
                      TICKET.ID.eq(ticket),
                      TICKET.LOST_AT.isNull())
                  .execute();
          dsl.update(TICKET)
              .set(TICKET.CHECKED_AT, Sql.utc(now))
              .setNull(TICKET.TROUBLE)
              .setNull(TICKET.UNSAID)
              .setNull(TICKET.TAKEN_UNTIL)
              .set(TICKET.TRIES, 0)
              .set(TICKET.DUE_AT, Sql.utc(now.plus(CLOSED)))
              .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
              .execute();
          if (lost > 0) {
            changed(dsl, projectId, ticket, now);
          }
          return true;
        });
  }

  /** Those who look at its groups see it, and what held until it is closed may end. */
  private static void changed(DSLContext dsl, int projectId, long ticket, Instant now) {
    Regroupings said = Regroupings.of(dsl, projectId);
    TreeSet<Long> groups = new TreeSet<>();
    dsl.fetch(
            "select group_id from group_ticket where project_id = ? and ticket_id = ?",
            projectId,
            ticket)
        .forEach(row -> groups.add(said.of(row.get(0, Long.class))));
    for (long group : groups) {
      endIfClosed(dsl, projectId, group, now);
      GroupNews.tell(dsl, projectId, group);
    }
  }

  /** What was decided until the tickets of a group are closed. */
  private static void endIfClosed(DSLContext dsl, int projectId, long group, Instant now) {
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
            .set(DECISION.ENDS_AT, DSL.greatest(DECISION.MADE_AT, closed(projectId, tickets, now)))
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
  private static org.jooq.Field<java.time.OffsetDateTime> closed(
      int projectId, List<Ticket> tickets, Instant now) {
    return DSL.coalesce(
        DSL.field(
            DSL.select(DSL.max(TICKET.CLOSED_AT))
                .from(TICKET)
                .where(
                    TICKET.PROJECT_ID.eq(projectId),
                    TICKET.ID.in(tickets.stream().map(Ticket::id).toList()))),
        DSL.val(Sql.utc(now)));
  }

  @Override
  public void told(int projectId, long ticket, Instant now) {
    sql.with(
        dsl ->
            dsl.update(TICKET)
                .setNull(TICKET.UNSAID)
                .set(TICKET.DUE_AT, Sql.utc(now.plus(FRESH)))
                .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
                .execute());
  }

  @Override
  public void untold(int projectId, long ticket, String text) {
    sql.transaction(
        dsl ->
            dsl.execute(
                "update ticket set unsaid = ? || coalesce(?::text || unsaid, '')"
                    + " where project_id = ? and id = ?",
                text,
                "\n\n",
                projectId,
                ticket));
  }

  @Override
  public void failed(int projectId, long ticket, String trouble, int tries, Instant now) {
    String why = cut(trouble, LONGEST_TROUBLE);
    Duration wait = FIRST_WAIT.multipliedBy(1L << Math.min(tries, 20));
    sql.transaction(
        dsl -> {
          dsl.update(TICKET)
              .set(TICKET.TROUBLE, why)
              .setNull(TICKET.TAKEN_UNTIL)
              .set(
                  TICKET.DUE_AT,
                  Sql.utc(now.plus(wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait)))
              .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
              .execute();
          return dsl.update(TRACKER)
              .set(TRACKER.TROUBLE, why)
              .set(TRACKER.TROUBLE_AT, DSL.coalesce(TRACKER.TROUBLE_AT, DSL.val(Sql.utc(now))))
              .where(TRACKER.PROJECT_ID.eq(projectId))
              .execute();
        });
  }

  private static Ticket one(DSLContext dsl, int projectId, long group, long ticket) {
    return GroupTickets.of(dsl, projectId, group).stream()
        .filter(one -> one.id() == ticket)
        .findFirst()
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND,
                    "group " + group + " has no ticket " + ticket + "; perhaps it was taken away"));
  }

  /** The group that has what it had. */
  private static long there(DSLContext dsl, int projectId, long group) {
    long belongs = Regroupings.of(dsl, projectId).of(group);
    if (!dsl.fetchExists(
        FAILURE_GROUP, FAILURE_GROUP.PROJECT_ID.eq(projectId), FAILURE_GROUP.ID.eq(belongs))) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "there is no failure group " + group + "; perhaps its runs were deleted");
    }
    return belongs;
  }

  private static String cut(String text, int most) {
    String clean = text.replace("\0", "");
    return clean.length() > most ? clean.substring(0, most) : clean;
  }
}
