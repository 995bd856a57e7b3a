package org.vinecellar.store.triage;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.store.ledger.GroupCounts;
import org.vinecellar.store.triage.rows.GroupRows;
import org.vinecellar.store.triage.rules.RuleApplying;

/**
 * Brings what was decided at one result to others of its group: to those that are in it by a strong
 * key, or of the same test; never where two decisions on the group say different things. What was
 * decided of a whole group holds for all that it had then. What people decide goes before what
 * rules say.
 */
public final class Carrying {
  private static final String UPDATE =
      "update failure f set decision_id = c.id, origin = 3 from ("
          + "select u.run_id, u.place, (array_agg(d.id order by d.since desc, d.id desc))[1] as id"
          + " from failure u"
          + " join run r on r.project_id = ? and r.id = u.run_id"
          + " join decision d on d.project_id = ? and d.group_id = u.group_id"
          + " and d.undone_at is null and d.scope in (1, 2)"
          + " where (u.decision_id is null or u.origin = 2) and %s"
          + " and (d.ends_at is null or r.started_at < d.ends_at)"
          + " and (d.scope = 2 and u.run_id <= d.up_to_run_id"
          + " or d.since <= r.started_at and (u.carries or u.joined = 0 and d.test_id = u.test_id))"
          + " and not exists (select 1 from decision o where o.project_id = ?"
          + " and o.group_id = u.group_id and o.undone_at is null and o.scope in (1, 2)"
          + " and (o.ends_at is null or r.started_at < o.ends_at)"
          + " and (o.category_id, o.comment) is distinct from (d.category_id, d.comment))"
          + " group by u.run_id, u.place) c where f.run_id = c.run_id and f.place = c.place";

  private Carrying() {}

  /** To all failures of a run. */
  static int toRun(DSLContext dsl, int projectId, long runId) {
    return update(dsl, projectId, "u.run_id = ?", runId);
  }

  /** To the failures of a group in a run. */
  static int toGroupInRun(DSLContext dsl, int projectId, long groupId, long runId) {
    return update(dsl, projectId, "u.group_id = ? and u.run_id = ?", groupId, runId);
  }

  /** Work: takes away what was taken back or has ended, and carries to all failures of a group. */
  public static void group(DSLContext dsl, int projectId, long groupId, Instant now) {
    int unused = over(dsl, projectId, "f.group_id = ?", groupId);
    unused = update(dsl, projectId, "u.group_id = ?", groupId);
    new GroupCounts(dsl, projectId).decidedInGroups(List.of(groupId));
    RuleApplying.askFor(dsl, projectId, groupId, now);
  }

  /**
   * Work: the same for the failures of a run, once they can be seen by all. Who decided while they
   * were being grouped did not see them, and was not seen.
   */
  public static void run(DSLContext dsl, int projectId, long runId, Instant now) {
    if (dsl.fetchOne(
            "select 1 from run where project_id = ? and id = ? and deleted_at is null for update",
            projectId,
            runId)
        == null) {
      return;
    }
    new GroupRows(dsl, projectId).lock();
    int gone = over(dsl, projectId, "f.run_id = ?", runId);
    int carried = toRun(dsl, projectId, runId);
    if (gone > 0) {
      carried += RuleApplying.toRun(dsl, projectId, runId, now);
    }
    if (gone + carried > 0) {
      new GroupCounts(dsl, projectId).decidedInRun(runId);
      dsl.execute("select pg_notify('vine_run', ?)", projectId + "/" + runId);
    }
  }

  /** Takes away what was taken back or has ended. */
  private static int over(DSLContext dsl, int projectId, String which, long of) {
    return dsl.execute(
            "update failure f set decision_id = null, origin = null from decision d"
                + " where d.project_id = ? and d.id = f.decision_id and d.undone_at is not null"
                + " and "
                + which,
            projectId,
            of)
        + dsl.execute(
            "update failure f set decision_id = null, origin = null from decision d, run r"
                + " where f.origin = 3 and d.project_id = ? and d.id = f.decision_id"
                + " and r.project_id = ? and r.id = f.run_id and r.started_at >= d.ends_at and "
                + which,
            projectId,
            projectId,
            of);
  }

  private static int update(DSLContext dsl, int projectId, String which, Object... of) {
    Object[] all = new Object[of.length + 3];
    all[0] = projectId;
    all[1] = projectId;
    System.arraycopy(of, 0, all, 2, of.length);
    all[of.length + 2] = projectId;
    return dsl.execute(String.format(UPDATE, which), all);
  }
}
