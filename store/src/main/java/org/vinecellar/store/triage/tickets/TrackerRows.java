package org.vinecellar.store.triage.tickets;

import static org.vinecellar.store.generated.Tables.TICKET;
import static org.vinecellar.store.generated.Tables.TRACKER;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.tickets.TicketStore.Kept;
import org.vinecellar.core.triage.tickets.TrackerSettings;
import org.vinecellar.store.sql.Sql;

/** How the tracker of a project is spoken to. */
final class TrackerRows {
  private final DSLContext dsl;
  private final int projectId;

  TrackerRows(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Optional<Kept> find() {
    return dsl.selectFrom(TRACKER)
        .where(TRACKER.PROJECT_ID.eq(projectId))
        .fetchOptional()
        .map(TrackerRows::kept);
  }

  /** In a transaction. */
  Kept keep(TrackerSettings settings, @Nullable String secret, int version, Hand hand) {
    dsl.execute("select 1 from project where id = ? for update", projectId);
    Optional<Kept> before = find();
    int current = before.map(Kept::version).orElse(0);
    if (current != version) {
      throw new CellarException(
          ProblemCode.EDITED_MEANWHILE,
          "how the tracker is spoken to is version "
              + current
              + " by now, not "
              + version
              + "; look at it again, and change that");
    }
    boolean same = before.isPresent() && before.get().settings().origin().equals(settings.origin());
    // A secret goes to nobody but whom it was given for.
    String kept = secret == null && same ? before.get().secret() : secret;
    if (settings.header().contains("{secret}") && (kept == null || kept.isEmpty())) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the header has {secret}: say the secret"
              + (before.isPresent() ? "; the one before was for another host" : ""));
    }
    Map<Field<?>, Object> row = row(settings);
    dsl.insertInto(TRACKER)
        .set(row)
        .set(TRACKER.PROJECT_ID, projectId)
        .set(TRACKER.VERSION, current + 1)
        .set(TRACKER.SECRET, kept)
        .set(TRACKER.CHANGED_AT, Sql.utc(hand.now()))
        .set(TRACKER.CHANGED_BY, hand.name())
        .onConflict(TRACKER.PROJECT_ID)
        .doUpdate()
        .set(row)
        .set(TRACKER.VERSION, current + 1)
        .set(TRACKER.SECRET, kept)
        .set(TRACKER.CHANGED_AT, Sql.utc(hand.now()))
        .set(TRACKER.CHANGED_BY, hand.name())
        .setNull(TRACKER.TROUBLE)
        .setNull(TRACKER.TROUBLE_AT)
        .execute();
    if (before.isPresent() && !same) {
      dsl.update(TICKET)
          .set(TICKET.LOST_AT, Sql.utc(hand.now()))
          .set(TICKET.TROUBLE, "it was of the tracker before")
          .setNull(TICKET.DUE_AT)
          .setNull(TICKET.UNSAID)
          .where(TICKET.PROJECT_ID.eq(projectId), TICKET.KEY.isNotNull())
          .execute();
    }
    // What waits is tried at once.
    dsl.update(TICKET)
        .set(TICKET.DUE_AT, Sql.utc(hand.now()))
        .where(TICKET.PROJECT_ID.eq(projectId), TICKET.DUE_AT.isNotNull())
        .execute();
    return find().orElseThrow();
  }

  void forget() {
    dsl.deleteFrom(TRACKER).where(TRACKER.PROJECT_ID.eq(projectId)).execute();
  }

  private static Map<Field<?>, Object> row(TrackerSettings settings) {
    Map<Field<?>, Object> row = new LinkedHashMap<>();
    row.put(TRACKER.NAME, settings.name());
    row.put(TRACKER.FIND_URL, settings.find());
    row.put(TRACKER.READ_URL, settings.read());
    row.put(TRACKER.PAGE_URL, settings.page());
    row.put(TRACKER.CREATE_URL, settings.create());
    row.put(TRACKER.CREATE_BODY, settings.createBody());
    row.put(TRACKER.COMMENT_URL, settings.comment());
    row.put(TRACKER.COMMENT_BODY, settings.commentBody());
    row.put(TRACKER.HEADER, settings.header());
    row.put(TRACKER.LIST_AT, settings.where().list());
    row.put(TRACKER.ENTRY_AT, settings.where().entry());
    row.put(TRACKER.KEY_AT, settings.where().key());
    row.put(TRACKER.TITLE_AT, settings.where().title());
    row.put(TRACKER.TEXT_AT, settings.where().text());
    row.put(TRACKER.STATE_AT, settings.where().state());
    row.put(TRACKER.CLOSED_AT_AT, settings.where().closedAt());
    row.put(TRACKER.CLOSED_STATES, String.join("\n", settings.closed()));
    return row;
  }

  private static Kept kept(Record row) {
    return new Kept(
        new TrackerSettings(
            row.get(TRACKER.NAME),
            row.get(TRACKER.FIND_URL),
            row.get(TRACKER.READ_URL),
            row.get(TRACKER.PAGE_URL),
            row.get(TRACKER.CREATE_URL),
            row.get(TRACKER.CREATE_BODY),
            row.get(TRACKER.COMMENT_URL),
            row.get(TRACKER.COMMENT_BODY),
            row.get(TRACKER.HEADER),
            new TrackerSettings.Where(
                row.get(TRACKER.LIST_AT),
                row.get(TRACKER.ENTRY_AT),
                row.get(TRACKER.KEY_AT),
                row.get(TRACKER.TITLE_AT),
                row.get(TRACKER.TEXT_AT),
                row.get(TRACKER.STATE_AT),
                row.get(TRACKER.CLOSED_AT_AT)),
            List.of(row.get(TRACKER.CLOSED_STATES).split("\n"))),
        row.get(TRACKER.SECRET),
        row.get(TRACKER.VERSION),
        row.get(TRACKER.CHANGED_AT).toInstant(),
        row.get(TRACKER.CHANGED_BY),
        row.get(TRACKER.TROUBLE),
        Sql.instantOrNull(row.get(TRACKER.TROUBLE_AT)));
  }
}
