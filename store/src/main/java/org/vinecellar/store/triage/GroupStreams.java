package org.vinecellar.store.triage;

import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.desk.GroupDetail;

/** Since when each stream has a failure group. */
final class GroupStreams {
  /** These stand in the statement itself: PostgreSQL's plan depends on how many they are. */
  private static final int STREAMS = 20;

  private static final int NEAR = 200;

  /**
   * Of the nearest runs of a stream before the last one with the group, the latest without it, and
   * the time of the farthest that was looked at: both are read in their order, and none is looked
   * up by itself.
   */
  private static final String RECENT =
      "select (array_agg(x.id order by x.started_at desc, x.id desc)"
          + " filter (where y.run_id is null and not x.is_open))[1] as id,"
          + " min(x.started_at) as oldest from (select r.id, r.started_at, r.is_open from run r"
          + " where r.project_id = ? and r.stream_id = n.stream_id and r.number is not null"
          + " and r.started_at < n.last_at order by r.started_at desc, r.id desc limit "
          + NEAR
          + ") x"
          + " left join (select gr.run_id from group_run gr where gr.project_id = ?"
          + " and gr.group_id = ? and gr.stream_id = n.stream_id and gr.started_at < n.last_at"
          + " order by gr.started_at desc, gr.run_id desc limit "
          + NEAR
          + ") y on y.run_id = x.id";

  private final DSLContext dsl;
  private final int projectId;
  private final long group;

  GroupStreams(DSLContext dsl, int projectId, long group) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.group = group;
  }

  /**
   * By the time at which runs began: the latest one with the group, the one before its first of a
   * row of runs that all have it, and whether one without it came since.
   */
  List<GroupDetail.OfStream> all() {
    String without =
        " and not exists (select 1 from group_run gr where gr.project_id = x.project_id"
            + " and gr.group_id = ? and gr.run_id = x.id) and not x.is_open";
    return dsl.fetch(
            "with n as (select gr.stream_id, m.name, gr.runs, gr.last_at from (select stream_id,"
                + " count(*)::int as runs, max(started_at) as last_at from group_run"
                + " where project_id = ? and group_id = ? group by 1) gr join stream m"
                + " on m.project_id = ? and m.id = gr.stream_id and m.deleted_at is null"
                + " order by gr.last_at desc limit "
                + STREAMS
                + ") select n.name, n.runs, n.last_at,"
                + " z.number as last_number, z.commit_id as last_commit, b.number as before_number,"
                + " b.started_at as before_at, b.commit_id as before_commit,"
                + " a.number as since_number, a.started_at as since_at, a.commit_id as since_commit,"
                + " exists (select 1 from run x where x.project_id = ? and x.stream_id = n.stream_id"
                + " and x.number is not null and x.started_at > n.last_at"
                + without
                + ") as gone from n join lateral (select r.* from group_run gr join run r"
                + " on r.project_id = gr.project_id and r.id = gr.run_id where gr.project_id = ?"
                + " and gr.group_id = ? and gr.stream_id = n.stream_id"
                + " order by gr.started_at desc, gr.run_id desc limit 1) z on true"
                + " cross join lateral ("
                + RECENT
                + ") near left join lateral (select x.* from run x where near.id is null"
                + " and x.project_id = ? and x.stream_id = n.stream_id and x.number is not null"
                + " and x.started_at <= near.oldest"
                + without
                + " order by x.started_at desc, x.id desc limit 1) far on true"
                + " left join run b on b.project_id = ? and b.id = coalesce(near.id, far.id)"
                + " join lateral (select r.* from group_run gr join run r"
                + " on r.project_id = gr.project_id and r.id = gr.run_id where gr.project_id = ?"
                + " and gr.group_id = ? and gr.stream_id = n.stream_id"
                + " and (b.started_at is null or gr.started_at > b.started_at)"
                + " order by gr.started_at, gr.run_id limit 1) a on true order by n.last_at desc",
            projectId,
            group,
            projectId,
            projectId,
            group,
            projectId,
            group,
            projectId,
            projectId,
            group,
            projectId,
            group,
            projectId,
            projectId,
            group)
        .map(
            row ->
                new GroupDetail.OfStream(
                    row.get("name", String.class),
                    row.get("runs", Integer.class),
                    Objects.requireNonNull(commit(row, "last_")),
                    Objects.requireNonNull(commit(row, "since_")),
                    commit(row, "before_"),
                    row.get("gone", Boolean.class)));
  }

  private static GroupDetail.@Nullable Commit commit(Record row, String prefix) {
    Integer number = row.get(prefix + "number", Integer.class);
    return number == null
        ? null
        : new GroupDetail.Commit(
            number,
            Objects.requireNonNull(DeskQueries.instant(row, prefix + "at")),
            row.get(prefix + "commit", String.class));
  }
}
