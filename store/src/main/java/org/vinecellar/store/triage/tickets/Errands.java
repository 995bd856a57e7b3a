package org.vinecellar.store.triage.tickets;

import static org.vinecellar.store.generated.Tables.TICKET;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.tickets.TicketStore.Errand;
import org.vinecellar.store.sql.Sql;

/** What is to be done in trackers, each by one at a time. In a transaction. */
final class Errands {
  private static final int LONGEST_UNSAID = 20_000;

  /** Who takes an errand has so long; longer than a tracker may take to answer all its calls. */
  private static final Duration TAKEN = Duration.ofMinutes(5);

  private static final String TAKE =
      "update ticket t set taken_until = ?::timestamptz, tries = t.tries + 1 from (select project_id, id"
          + " from ticket where due_at <= ?::timestamptz"
          + " and coalesce(taken_until, due_at) <= ?::timestamptz and exists (select 1 from tracker k"
          + " where k.project_id = ticket.project_id) and exists (select 1 from group_ticket l"
          + " where l.project_id = ticket.project_id and l.ticket_id = ticket.id)%s"
          + " order by due_at limit ? for update skip locked) d"
          + " where t.project_id = d.project_id and t.id = d.id returning t.*";

  private Errands() {}

  static List<Errand> due(DSLContext dsl, Instant now, int most) {
    return dsl.fetch(
            String.format(TAKE, ""), Sql.utc(now.plus(TAKEN)), Sql.utc(now), Sql.utc(now), most)
        .map(Errands::errand);
  }

  /** Of one ticket: one, or none when somebody else is at it. */
  static List<Errand> of(DSLContext dsl, int projectId, long ticket, Instant now) {
    return dsl.fetch(
            String.format(TAKE, " and project_id = ? and id = ?"),
            Sql.utc(now.plus(TAKEN)),
            Sql.utc(now),
            Sql.utc(now),
            projectId,
            ticket,
            1)
        .map(Errands::errand);
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

  static int dueNow(DSLContext dsl, int projectId, long ticket, Instant now) {
    return dsl.update(TICKET)
        .set(TICKET.DUE_AT, Sql.utc(now))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.ID.eq(ticket))
        .execute();
  }

  /** Leaves something to be told, after what waits already. */
  static void unsaid(DSLContext dsl, int projectId, long ticket, String text) {
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
}
