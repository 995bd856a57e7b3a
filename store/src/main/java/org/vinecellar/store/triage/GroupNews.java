package org.vinecellar.store.triage;

import org.jooq.DSLContext;

/** Tells those who watch that a failure group is not what it was, once this is committed. */
final class GroupNews {
  private GroupNews() {}

  static void tell(DSLContext dsl, int projectId, long group) {
    dsl.execute("select pg_notify('vine_group', ?)", projectId + "/" + group);
  }
}
