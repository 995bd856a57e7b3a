package org.vinecellar.store.triage.rows;

import org.jooq.DSLContext;

/** Tells those who watch that a failure group is not what it was, once this is committed. */
public final class GroupNews {
  private GroupNews() {}

  /** Of one that changed. */
  public static void tell(DSLContext dsl, int projectId, long group) {
    dsl.execute("select pg_notify('vine_group', ?)", projectId + "/" + group);
  }
}
