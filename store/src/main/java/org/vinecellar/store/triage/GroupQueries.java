package org.vinecellar.store.triage;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.Scope;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.GroupDetail.Similar;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.grouping.Template;
import org.vinecellar.store.results.Packed;

/** What there is to know of one failure group. */
final class GroupQueries {
  // These stand in the statements themselves: PostgreSQL plans anew each time what depends on them.
  private static final int TESTS = 50;
  private static final int STRIP = 60;
  private static final int PAST = 50;
  private static final int SIMILAR = 5;
  private static final int LOOKED_AT = 100;

  private static final int VALUES = 20;
  private static final int SHOTS = 6;
  private static final String[] PICTURES = {"image/png", "image/jpeg", "image/gif", "image/webp"};
  private static final int MOST_COUNTED = GroupDetail.MOST_COUNTED;

  /** A group has as many results as there were nights; the latest of them tell what it is now. */
  private static final String LATEST =
      "select f.test_id, f.run_id from failure f where f.group_id = ?"
          + " order by f.run_id desc limit "
          + GroupDetail.LATEST;

  /** Runs of the group that can be shown, latest first. */
  private static final String RUNS =
      "from group_run gr join run r on r.project_id = gr.project_id and r.id = gr.run_id"
          + " and r.number is not null join stream m on m.project_id = gr.project_id"
          + " and m.id = r.stream_id and m.deleted_at is null"
          + " where gr.project_id = ? and gr.group_id = ?";

  private final DSLContext dsl;
  private final int projectId;
  private final long group;

  GroupQueries(DSLContext dsl, int projectId, long group) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.group = group;
  }

  GroupDetail detail(GroupLine line) {
    List<Similar> similar = new SimilarGroups(dsl, projectId, group).all();
    return new GroupDetail(
        line,
        values(line),
        tests(),
        shots(),
        new GroupStreams(dsl, projectId, group).all(),
        strip(),
        past(),
        similar.stream().limit(SIMILAR).toList(),
        Regrouping.of(dsl, projectId, group),
        Suggestions.of(dsl, projectId, similar));
  }

  /** Of the latest of its results. */
  private List<List<String>> values(GroupLine line) {
    String first = line.template().split("\n", 2)[0].strip();
    List<Set<String>> values = new ArrayList<>();
    for (String text :
        dsl.fetch(
                "select distinct n.first_line from (select r.first_line from failure f"
                    + " join result r on r.run_id = f.run_id and r.place = f.place"
                    + " where f.group_id = ? order by f.run_id desc, f.place limit "
                    + LOOKED_AT
                    + ") n where n.first_line is not null order by 1",
                group)
            .getValues(0, String.class)) {
      Template.values(first, text.strip())
          .ifPresent(
              some -> {
                for (int i = 0; i < some.size(); i++) {
                  if (values.size() == i) {
                    values.add(new TreeSet<>());
                  }
                  values.get(i).add(some.get(i));
                }
              });
    }
    return values.stream().map(some -> some.stream().limit(VALUES).toList()).toList();
  }

  /** The last picture of the last try tells most; one of each test before a second of one. */
  private List<GroupDetail.Shot> shots() {
    return dsl.fetch(
            "select n.*, "
                + FailureQueries.TEST_NAME
                + " as test, r.id as run_id, r.number as run_number, r.started_at as run_at,"
                + " m.name as run_stream from (select f.run_id, f.place, f.test_id, a.attempt_no,"
                + " a.attachment_no, a.name, row_number() over (partition by f.test_id"
                + " order by f.run_id desc, f.place) as nr from (select f.* from failure f"
                + " where f.group_id = ? order by f.run_id desc, f.place limit "
                + LOOKED_AT
                + ") f"
                + " cross join lateral (select a.* from attachment a where a.run_id = f.run_id"
                + " and a.place = f.place and a.blob_id is not null and a.media_type = any(?)"
                + " order by a.attempt_no desc, a.attachment_no desc limit 1) a) n"
                + " join run r on r.project_id = ? and r.id = n.run_id and r.number is not null"
                + " join stream m on m.project_id = r.project_id and m.id = r.stream_id"
                + " join test t on t.project_id = r.project_id and t.id = n.test_id"
                + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
                + " order by n.nr, n.run_id desc, n.place limit "
                + SHOTS,
            group,
            PICTURES,
            projectId)
        .map(
            row -> {
              ResultId result = Packed.id(row.get("place", Integer.class));
              return new GroupDetail.Shot(
                  DeskQueries.seen(row, "run_"),
                  row.get("test", String.class),
                  result,
                  new AttachmentId(
                      result.part(),
                      result.ordinal(),
                      row.get("attempt_no", Integer.class),
                      row.get("attachment_no", Integer.class)),
                  row.get("name", String.class));
            });
  }

  private List<GroupDetail.OfTest> tests() {
    return dsl.fetch(
            "with n as (select f.test_id, count(*)::int as results, max(f.run_id) as run_id from ("
                + LATEST
                + ") f group by f.test_id order by 2 desc, 3 desc, 1 limit "
                + TESTS
                + ") select n.test_id, n.results, "
                + FailureQueries.TEST_NAME
                + " as test, r.id as last_id, r.number as last_number, r.started_at as last_at,"
                + " m.name as last_stream, (select min(f.place) from failure f"
                + " where f.run_id = n.run_id and f.group_id = ? and f.test_id = n.test_id) as place"
                + " from n join test t on t.project_id = ? and t.id = n.test_id"
                + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
                + " join lateral (select r.* from run r where r.project_id = t.project_id"
                + " and r.id = n.run_id and r.number is not null limit 1) r on true"
                + " join stream m on m.project_id = t.project_id"
                + " and m.id = r.stream_id order by n.results desc, n.run_id desc, n.test_id",
            group,
            group,
            projectId)
        .map(
            row ->
                new GroupDetail.OfTest(
                    row.get("test_id", Long.class),
                    row.get("test", String.class),
                    row.get("results", Integer.class),
                    DeskQueries.seen(row, "last_"),
                    Packed.id(row.get("place", Integer.class))));
  }

  private List<GroupDetail.InRun> strip() {
    return dsl.fetch(
            "select * from (select r.id as run_id, r.number as run_number, r.started_at as run_at,"
                + " m.name as run_stream, gr.results, gr.open "
                + RUNS
                + " order by gr.started_at desc, gr.run_id desc limit "
                + STRIP
                + ") n order by n.run_at, n.run_id",
            projectId,
            group)
        .map(
            row ->
                new GroupDetail.InRun(
                    DeskQueries.seen(row, "run_"),
                    row.get("results", Integer.class),
                    row.get("open", Integer.class)));
  }

  private List<GroupDetail.Past> past() {
    return dsl.fetch(
            "select d.id as decision, d.comment, d.made_by, d.made_at, d.scope, d.ends_at, d.ended_by,"
                + " d.undone_at, d.undone_by, a.group_id as like_group, c.name as category, "
                + DeskQueries.ORIGIN
                + " as origin, r.id as run_id,"
                + " r.number as run_number, r.started_at as run_at, m.name as run_stream,"
                + " (select count(*)::int from (select 1 from failure f"
                + " where f.group_id = d.group_id and f.decision_id = d.id limit "
                + MOST_COUNTED
                + ") k) as results"
                + " from decision d"
                + " join category c on c.project_id = d.project_id and c.id = d.category_id"
                + " left join decision a on a.project_id = d.project_id and a.id = d.like_id"
                + " left join run r on r.project_id = d.project_id and r.id = d.run_id"
                + " and r.number is not null left join stream m on m.project_id = d.project_id"
                + " and m.id = r.stream_id where d.project_id = ? and d.group_id = ?"
                + " order by d.id desc limit "
                + PAST,
            projectId,
            group)
        .map(
            row ->
                new GroupDetail.Past(
                    Objects.requireNonNull(FailureQueries.said(row)),
                    row.get("run_number") == null ? null : DeskQueries.seen(row, "run_"),
                    Objects.requireNonNull(DeskQueries.instant(row, "made_at")),
                    Scope.ofCode(row.get("scope", Integer.class)).word(),
                    row.get("results", Integer.class),
                    DeskQueries.instant(row, "ends_at"),
                    EndedBy.ofCode(row.get("ended_by", Integer.class)),
                    DeskQueries.instant(row, "undone_at"),
                    row.get("undone_by", String.class),
                    row.get("like_group", Long.class)));
  }
}
