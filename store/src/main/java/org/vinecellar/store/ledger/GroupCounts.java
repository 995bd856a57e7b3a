package org.vinecellar.store.ledger;

import java.util.Collection;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Result;
import org.vinecellar.store.sql.Ids;

/**
 * How many results each failure group has, by run and over all. Told anew after failures of a run
 * or a group changed, in the same transaction and as its last change: the rows of the groups are
 * held from then on, so that nobody else counts what is not yet to be seen.
 */
public final class GroupCounts {
  private static final String COUNTED =
      "select f.group_id, f.run_id, count(*) as results,"
          + " count(*) filter (where f.decision_id is null) as open"
          + " from failure f where ";

  /** The same of tests alone, by the category of what explains them. */
  private static final String CAUSES =
      "select f.group_id, f.run_id, d.category_id, count(*) as results from failure f"
          + " join decision d on d.project_id = ? and d.id = f.decision_id"
          + " where f.outcome <> 0 and ";

  /** Rows as they are to be, as {@code n}; those of a run that is gone are none. */
  private static final String ROWS =
      "n as (select c.*, r.stream_id, r.started_at from c join run r on r.project_id = ?"
          + " and r.id = c.run_id and r.number is not null)";

  private static final String WRITE =
      " on conflict (project_id, group_id, run_id) do update set stream_id = excluded.stream_id,"
          + " started_at = excluded.started_at, results = excluded.results, open = excluded.open"
          + " where (g.stream_id, g.started_at, g.results, g.open) is distinct from"
          + " (excluded.stream_id, excluded.started_at, excluded.results, excluded.open)";

  /** Without a join to the list of groups, of which PostgreSQL cannot know how long it is. */
  private static final String SUMS =
      "update failure_group g set results = s.results, open = s.open, runs = s.runs,"
          + " last_at = s.last_at from (select r.group_id, sum(r.results)::int as results,"
          + " sum(r.open)::int as open, count(*)::int as runs, max(r.started_at) as last_at"
          + " from group_run r where r.project_id = ? and r.group_id = any(?) group by r.group_id) s"
          + " where g.project_id = ? and g.id = s.group_id and (g.results, g.open, g.runs, g.last_at)"
          + " is distinct from (s.results, s.open, s.runs, s.last_at)";

  /**
   * What the rows of one run add to the sums, and take from them: a group may have thousands of
   * runs that stay as they are.
   */
  private static final String DIFFERENCE =
      "with n as (select group_id, results, open, started_at from group_run where project_id = ? and run_id = ?),"
          + " o as (select * from unnest(?::int[], ?::int[], ?::int[]) as o(group_id, results, open)),"
          + " d as (select coalesce(n.group_id, o.group_id) as group_id,"
          + " coalesce(n.results, 0) - coalesce(o.results, 0) as results,"
          + " coalesce(n.open, 0) - coalesce(o.open, 0) as open,"
          + " (n.group_id is not null)::int - (o.group_id is not null)::int as runs, n.started_at"
          + " from n full join o on o.group_id = n.group_id)%s"
          + " update failure_group g set results = g.results + d.results, open = g.open + d.open,"
          + " runs = g.runs + d.runs%s, last_at = case when d.started_at is not null"
          + " and (g.last_at is null or d.started_at >= g.last_at) then d.started_at"
          // All of the group, and not the latest of the project until one is of the group.
          + " else (select max(r.started_at) from (select x.started_at from group_run x"
          + " where x.project_id = g.project_id and x.group_id = g.id offset 0) r) end"
          // Each by its key, however few groups the statistics know of: the rows are held, so that
          // they stay where they are.
          + " from (select d.*, x.at from %s cross join lateral (select y.ctid as at from failure_group y"
          + " where y.project_id = ? and y.id = d.group_id offset 0) x) d where g.ctid = d.at";

  /**
   * The tests and the stream that a run adds to groups that it did not have before. The run is read
   * once, and each of its tests looked up by itself: by the test alone, since a group may have any
   * number of results.
   */
  private static final String WIDER =
      ", m as materialized (select distinct f.group_id, f.test_id from failure f where f.run_id = ?"
          + " and f.group_id not in (select o.group_id from o)),"
          + " t as materialized (select m.group_id, count(*)::int as tests from m left join lateral (select 1 as x"
          + " from (select f.group_id from failure f where f.test_id = m.test_id and f.run_id <> ? offset 0) o"
          + " where o.group_id = m.group_id limit 1) o on true where o.x is null group by 1),"
          + " s as materialized (select gr.group_id, (o.x is null)::int as streams from group_run gr"
          + " left join lateral (select 1 as x from group_run o where o.project_id = gr.project_id"
          + " and o.group_id = gr.group_id and o.stream_id = gr.stream_id and o.run_id <> gr.run_id"
          + " limit 1) o on true where gr.project_id = ? and gr.run_id = ?"
          + " and gr.group_id not in (select o.group_id from o)),"
          // Put together without a join: of such rows PostgreSQL expects one, and gets thousands. A
          // run that is not to be seen has failures and adds nothing.
          + " w as (select u.group_id, sum(u.results)::int as results, sum(u.open)::int as open,"
          + " sum(u.runs)::int as runs, max(u.started_at) as started_at, sum(u.tests)::int as tests,"
          + " sum(u.streams)::int as streams from (select d.*, 0 as tests, 0 as streams from d union all"
          + " select t.group_id, null, null, null, null, t.tests, 0 from t union all"
          + " select s.group_id, null, null, null, null, 0, s.streams from s) u group by 1"
          + " having count(u.runs) > 0)";

  /** Of a run, what its groups have come to. */
  private static final String RUN_CAUSES =
      "select r.category_id, r.results from run_cause r where r.run_id = ? and r.results <> 0";

  private static final String SUMMED_CAUSES =
      "select g.category_id, sum(g.results)::int from group_cause g where g.project_id = ?"
          + " and g.run_id = ? group by 1";

  private static final String DECIDED = String.format(DIFFERENCE, "", "", "d");

  private static final String OTHERS =
      String.format(
          DIFFERENCE, WIDER, ", tests = g.tests + d.tests, streams = g.streams + d.streams", "w d");

  /** Each of many rows is found from the one before it, whatever number has the same. */
  private static final String DISTINCT =
      "(with recursive one (id) as (select min(x.%2$s) from %1$s x where %3$s union all"
          + " select (select min(x.%2$s) from %1$s x where %3$s and x.%2$s > one.id) from one"
          + " where one.id is not null) select count(id)::int from one)";

  /** Tests and streams of groups whose results are others now. */
  private static final String WIDTH =
      "update failure_group g set tests = "
          + String.format(DISTINCT, "failure", "test_id", "x.group_id = g.id")
          + ", streams = "
          + String.format(
              DISTINCT,
              "group_run",
              "stream_id",
              "x.project_id = g.project_id and x.group_id = g.id")
          + " where g.project_id = ? and g.id = any(?)";

  private static final String NOTHING_LEFT =
      "update failure_group g set results = 0, open = 0, runs = 0, tests = 0, streams = 0,"
          + " last_at = null"
          + " where g.project_id = ? and g.id = any(?) and g.results > 0 and not exists (select 1"
          + " from group_run r where r.project_id = g.project_id and r.group_id = g.id)";

  private final DSLContext dsl;
  private final int projectId;

  /** In a transaction. */
  public GroupCounts(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** The failures of a run are others now, or the run is gone. */
  public void ofRun(long run) {
    ofRun(run, true);
  }

  /** What is decided of failures of a run is something else now. */
  public void decidedInRun(long run) {
    ofRun(run, false);
  }

  private void ofRun(long run, boolean others) {
    hold(
        Ids.of(
            dsl.fetch(
                    "select group_id from failure where run_id = ? union"
                        + " select group_id from group_run where project_id = ? and run_id = ?",
                    run,
                    projectId,
                    run)
                .into(Integer.class)));
    Result<Record> before =
        dsl.fetch(
            "select group_id, results, open from group_run where project_id = ? and run_id = ?",
            projectId,
            run);
    write("f.run_id = ?", "o.run_id = ?", run, run);
    if (others && before.isNotEmpty()) {
      dsl.execute(WIDTH, projectId, Ids.of(before.getValues(0, Integer.class)));
    }
    Stream<Object> rows =
        Stream.of(
            projectId,
            run,
            before.intoArray(0, Integer.class),
            before.intoArray(1, Integer.class),
            before.intoArray(2, Integer.class));
    Stream<Object> wider = others ? Stream.of(run, run, projectId, run) : Stream.of();
    dsl.execute(
        others ? OTHERS : DECIDED,
        Stream.of(rows, wider, Stream.<Object>of(projectId)).flatMap(some -> some).toArray());
  }

  /** What is decided of failures of a group in a run is something else now. */
  public void ofGroupInRun(long group, long run) {
    Field<Integer[]> groups = Ids.of((int) group);
    hold(groups);
    write(
        "f.run_id = ? and f.group_id = " + group,
        "o.run_id = ? and o.group_id = " + group,
        run,
        run);
    sums(groups);
  }

  /** Failures belong to these groups, or to others of them, that did not before. */
  public void ofGroups(Collection<Long> some) {
    decidedInGroups(some);
    dsl.execute(WIDTH, projectId, Ids.of(some));
  }

  /** What is decided of failures of groups in any of their runs is something else now. */
  public void decidedInGroups(Collection<Long> some) {
    Field<Integer[]> groups = Ids.of(some);
    hold(groups);
    write("f.group_id = any(?)", "o.group_id = any(?)", groups, groups);
    sums(groups);
  }

  /** Results of runs that were out of sight before are gone for good. */
  public void lostResults(Collection<Long> some) {
    if (!some.isEmpty()) {
      Field<Integer[]> groups = Ids.of(some);
      hold(groups);
      dsl.execute(WIDTH, projectId, groups);
    }
  }

  /**
   * From here to the end of the transaction each row is found by an index: a run may have brought
   * more groups than PostgreSQL's statistics know of, which would then be read from end to end for
   * each of them.
   */
  private void hold(Field<Integer[]> groups) {
    dsl.execute("set local enable_seqscan = off");
    dsl.execute(
        "select 1 from failure_group where project_id = ? and id = any(?) order by id for update",
        projectId,
        groups);
  }

  /** {@code not in} is told by a table of keys, however few rows PostgreSQL believes in. */
  private void write(String which, String before, Object of, Object ofBefore) {
    dsl.execute(
        "with c as ("
            + COUNTED
            + which
            + " group by 1, 2), "
            + ROWS
            + ", gone as (delete from group_run o where o.project_id = ? and "
            + before
            + " and (o.group_id, o.run_id) not in (select n.group_id, n.run_id from n))"
            + " insert into group_run as g (project_id, group_id, run_id,"
            + " stream_id, started_at, results, open) select ?, n.group_id, n.run_id, n.stream_id,"
            + " n.started_at, n.results, n.open from n"
            + WRITE,
        of,
        projectId,
        projectId,
        ofBefore,
        projectId);
    // And what that adds to the sums of their runs, which others may change meanwhile for theirs.
    dsl.execute(
        "with c as ("
            + CAUSES
            + which
            + " group by 1, 2, 3), "
            + ROWS
            + ", gone as (delete from group_cause o where o.project_id = ? and "
            + before
            + " and (o.group_id, o.run_id, o.category_id)"
            + " not in (select n.group_id, n.run_id, n.category_id from n)),"
            + " kept as (insert into group_cause as g (project_id, run_id, group_id, category_id, results)"
            + " select ?, n.run_id, n.group_id, n.category_id, n.results from n"
            + " on conflict (project_id, run_id, group_id, category_id) do update"
            + " set results = excluded.results where g.results <> excluded.results),"
            + " d as (select x.run_id, x.category_id, sum(x.results)::int as results from ("
            + "select n.run_id, n.category_id, n.results from n union all"
            + " select o.run_id, o.category_id, - o.results from group_cause o"
            + " where o.project_id = ? and "
            + before
            + ") x group by 1, 2 having sum(x.results) <> 0 order by 1, 2)"
            + " insert into run_cause as s (run_id, category_id, results)"
            + " select d.run_id, d.category_id, d.results from d"
            + " on conflict (run_id, category_id) do update set results = s.results + excluded.results",
        projectId,
        of,
        projectId,
        projectId,
        ofBefore,
        projectId,
        projectId,
        ofBefore);
  }

  /**
   * What explains the failures of a run is summed up anew from what is kept of its groups.
   *
   * @return whether it was something else before
   */
  boolean causesAgain(long run) {
    hold(
        Ids.of(
            dsl.fetch(
                    "select group_id from failure where run_id = ? union"
                        + " select group_id from group_cause where project_id = ? and run_id = ?",
                    run,
                    projectId,
                    run)
                .into(Integer.class)));
    boolean wrong =
        dsl.fetchSingle(
                "select exists (("
                    + RUN_CAUSES
                    + " except "
                    + SUMMED_CAUSES
                    + ") union all ("
                    + SUMMED_CAUSES
                    + " except "
                    + RUN_CAUSES
                    + "))",
                run,
                projectId,
                run,
                projectId,
                run,
                run)
            .get(0, Boolean.class);
    if (wrong) {
      dsl.execute("delete from run_cause where run_id = ?", run);
      dsl.execute(
          "insert into run_cause (run_id, category_id, results) select ?, s.* from ("
              + SUMMED_CAUSES
              + ") s",
          run,
          projectId,
          run);
    }
    return wrong;
  }

  private void sums(Field<Integer[]> groups) {
    dsl.execute(SUMS, projectId, groups, projectId);
    dsl.execute(NOTHING_LEFT, projectId, groups);
  }
}
