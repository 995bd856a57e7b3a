package org.vinecellar.store.triage.tickets;

import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.TICKET;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.triage.tickets.TrackerSettings;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.GroupNews;
import org.vinecellar.store.triage.rows.Regroupings;

/** Tickets in PostgreSQL. Thread-safe. */
public final class PgTicketStore implements TicketStore {
  private static final int MOST_OF_GROUP = 20;

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
    if (key.isBlank() || key.length() > TicketStates.LONGEST_KEY) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a ticket's key has 1 to " + TicketStates.LONGEST_KEY + " characters");
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
            Errands.unsaid(dsl, projectId, id, say);
          }
          if (seen != null) {
            new TicketStates(dsl, projectId).write(id, seen, hand.now());
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
                  .set(TICKET.TITLE, Texts.cut(title, TicketStates.LONGEST_TITLE))
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
          new TicketStates(dsl, projectId).endIfClosed(into, hand.now());
          GroupNews.tell(dsl, projectId, into);
          return true;
        });
  }

  @Override
  public void say(int projectId, long group, long ticket, String text, Hand hand) {
    sql.transaction(
        dsl -> {
          Ticket unused = one(dsl, projectId, there(dsl, projectId, group), ticket);
          Errands.unsaid(dsl, projectId, ticket, text);
          return Errands.dueNow(dsl, projectId, ticket, hand.now());
        });
  }

  @Override
  public void ask(int projectId, long group, long ticket, Hand hand) {
    sql.transaction(
        dsl -> {
          Ticket unused = one(dsl, projectId, there(dsl, projectId, group), ticket);
          return Errands.dueNow(dsl, projectId, ticket, hand.now());
        });
  }

  @Override
  public List<Errand> due(Instant now, int most) {
    return sql.transaction(dsl -> Errands.due(dsl, now, most));
  }

  @Override
  public Optional<Errand> take(int projectId, long ticket, Instant now) {
    return sql.transaction(dsl -> Errands.of(dsl, projectId, ticket, now)).stream().findFirst();
  }

  @Override
  public void seen(int projectId, long ticket, Entry entry, Instant now) {
    states(projectId, states -> states.seen(ticket, entry, now));
  }

  @Override
  public void lost(int projectId, long ticket, Instant now) {
    states(projectId, states -> states.lost(ticket, now));
  }

  @Override
  public void told(int projectId, long ticket, String text, Instant now) {
    // What somebody left meanwhile stands after it, and is due.
    sql.transaction(
        dsl ->
            dsl.execute(
                "update ticket set unsaid = nullif(substr(unsaid, ? + 3), ''), due_at = case"
                    + " when length(unsaid) > ? then ?::timestamptz else ?::timestamptz end"
                    + " where project_id = ? and id = ? and left(unsaid, ?) = ?",
                text.codePointCount(0, text.length()),
                text.codePointCount(0, text.length()),
                Sql.utc(now),
                Sql.utc(now.plus(FRESH)),
                projectId,
                ticket,
                text.codePointCount(0, text.length()),
                text));
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
    states(projectId, states -> states.failed(ticket, trouble, tries, now));
  }

  private void states(int projectId, Consumer<TicketStates> what) {
    boolean unused =
        sql.transaction(
            dsl -> {
              what.accept(new TicketStates(dsl, projectId));
              return true;
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
}
