package org.vinecellar.store.triage;

import java.time.Instant;
import org.jooq.DSLContext;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;

/**
 * Runs that are still grouped by less than what is known now. A run that comes meanwhile waits for
 * the latest of them: only they know which group a cause under a new key was before.
 */
final class GroupingAnew {
  /** So many of the latest runs know nearly all causes that go on. */
  private static final int LATEST = 200;

  private static final int SOME = 8;

  private GroupingAnew() {}

  /**
   * Leaves some of the latest runs of a project to be grouped anew. One that cannot be is waited
   * for no longer.
   *
   * @return how many of the latest are behind
   */
  static int some(DSLContext dsl, int projectId, int version, Instant now) {
    return dsl.fetchSingle(
            "with late as (select r.id, r.grouped_by from run r where r.project_id = ?"
                + " and r.number is not null and r.deleted_at is null and r.explained"
                + " order by r.id desc limit ?), behind as (select l.id from late l"
                + " where l.grouped_by between 1 and ? and not exists (select 1 from work w"
                + " where w.kind = ? and w.subject_id = l.id and w.tries > 0)),"
                + " asked as (insert into work (kind, project_id, subject_id, asked_at, due_at, tries)"
                + " select ?, ?, b.id, ?::timestamptz, ?::timestamptz, 0 from behind b"
                + " where not exists (select 1 from work w where w.kind = ? and w.subject_id = b.id)"
                + " order by b.id desc limit ?) select count(*)::int from behind",
            projectId,
            LATEST,
            version - 1,
            WorkKind.EXPLAIN_RUN.name(),
            WorkKind.EXPLAIN_RUN.name(),
            projectId,
            Sql.utc(now),
            Sql.utc(now),
            WorkKind.EXPLAIN_RUN.name(),
            SOME)
        .get(0, Integer.class);
  }
}
