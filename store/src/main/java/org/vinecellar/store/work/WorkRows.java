package org.vinecellar.store.work;

import static org.vinecellar.store.generated.Tables.WORK;

import java.time.Instant;
import org.jooq.DSLContext;
import org.vinecellar.store.sql.Sql;

/** Asks for work. */
public final class WorkRows {
  private WorkRows() {}

  /**
   * Asks for work within a transaction: it will be done if, and only if, that one commits. Asking
   * twice is asking once; nobody waits.
   *
   * @param subject what it is about
   */
  public static void ask(DSLContext dsl, WorkKind kind, int projectId, long subject, Instant now) {
    dsl.insertInto(WORK)
        .set(WORK.KIND, kind.name())
        .set(WORK.PROJECT_ID, projectId)
        .set(WORK.SUBJECT_ID, subject)
        .set(WORK.ASKED_AT, Sql.utc(now))
        .set(WORK.DUE_AT, Sql.utc(now))
        .set(WORK.TRIES, 0)
        .execute();
  }
}
