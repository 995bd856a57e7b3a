package org.vinecellar.store.quarantine;

import org.jooq.DSLContext;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.store.sql.Sql;

/** What is promised of a stream goes on with the one that it becomes. */
public final class HandingOn {
  private HandingOn() {}

  /** Of a test that is in quarantine in both, that of the other stream stays; its own is ended. */
  public static void of(DSLContext dsl, int projectId, long from, long to, Hand hand) {
    dsl.execute(
        "update quarantine q set ended_at = least(?::timestamptz,"
            + " (q.until_on + 1)::timestamp at time zone 'UTC'), ended_by = ?,"
            + " version = q.version + 1, changed_at = ?::timestamptz, changed_by = ?"
            + " where q.project_id = ? and q.stream_id = ? and q.ended_at is null"
            + " and exists (select 1 from quarantine o where o.project_id = q.project_id"
            + " and o.stream_id = ? and o.test_id = q.test_id and o.ended_at is null)",
        Sql.utc(hand.now()),
        hand.name(),
        Sql.utc(hand.now()),
        hand.name(),
        projectId,
        from,
        to);
    dsl.execute(
        "update quarantine set stream_id = ? where project_id = ? and stream_id = ?",
        to,
        projectId,
        from);
  }
}
