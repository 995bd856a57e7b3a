package org.vinecellar.store.triage;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.Scope;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.GroupDetail.Similar;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.grouping.Likeness;
import org.vinecellar.core.triage.grouping.Template;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Json;

/** What there is to know of one failure group. */
final class GroupQueries {
  private static final int TESTS = 50;
  private static final int STREAMS = 20;
  private static final int STRIP = 60;
  private static final int PAST = 50;
  private static final int SIMILAR = 5;
  private static final int SHOWN_WORDS = 8;
  private static final int LOOKED_AT = 200;

  /** So many of the latest failures of a test tell which other groups it has. */
  private static final int OF_TEST = 20;

  private static final int VALUES = 20;
  private static final int SHOTS = 6;
  private static final String[] PICTURES = {"image/png", "image/jpeg", "image/gif", "image/webp"};
  private static final int MOST_COUNTED = GroupDetail.MOST_COUNTED;

  /** What has less in common is not worth a look. */
  private static final double LIKE_ENOUGH = 0.3;

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
          + " and r.started_at < n.last_at order by r.started_at desc, r.id desc limit ?) x"
          + " left join (select gr.run_id from group_run gr where gr.project_id = ?"
          + " and gr.group_id = ? and gr.stream_id = n.stream_id and gr.started_at < n.last_at"
          + " order by gr.started_at desc, gr.run_id desc limit ?) y on y.run_id = x.id";

  private static final int NEAR = 200;

  private final DSLContext dsl;
  private final int projectId;
  private final long group;

  GroupQueries(DSLContext dsl, int projectId, long group) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.group = group;
  }

  GroupDetail detail(GroupLine line) {
    List<Similar> similar = similar();
    return new GroupDetail(
        line,
        values(line),
        tests(),
        shots(),
        streams(),
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
                    + " where f.group_id = ? order by f.run_id desc, f.place limit ?) n"
                    + " where n.first_line is not null order by 1",
                group,
                LOOKED_AT)
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
                + " where f.group_id = ? order by f.run_id desc, f.place limit ?) f"
                + " cross join lateral (select a.* from attachment a where a.run_id = f.run_id"
                + " and a.place = f.place and a.blob_id is not null and a.media_type = any(?)"
                + " order by a.attempt_no desc, a.attachment_no desc limit 1) a) n"
                + " join run r on r.project_id = ? and r.id = n.run_id and r.number is not null"
                + " join stream m on m.project_id = r.project_id and m.id = r.stream_id"
                + " join test t on t.project_id = r.project_id and t.id = n.test_id"
                + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
                + " order by n.nr, n.run_id desc, n.place limit ?",
            group,
            LOOKED_AT,
            PICTURES,
            projectId,
            SHOTS)
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
                + ") f group by f.test_id order by 2 desc, 3 desc, 1 limit ?) select n.test_id, n.results, "
                + FailureQueries.TEST_NAME
                + " as test, r.id as last_id, r.number as last_number, r.started_at as last_at,"
                + " m.name as last_stream, (select min(f.place) from failure f"
                + " where f.run_id = n.run_id and f.group_id = ? and f.test_id = n.test_id) as place"
                + " from n join test t on t.project_id = ? and t.id = n.test_id"
                + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
                + " join run r on r.project_id = t.project_id and r.id = n.run_id"
                + " and r.number is not null join stream m on m.project_id = t.project_id"
                + " and m.id = r.stream_id order by n.results desc, n.run_id desc, n.test_id",
            group,
            TESTS,
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
                + " order by gr.started_at desc, gr.run_id desc limit ?) n"
                + " order by n.run_at, n.run_id",
            projectId,
            group,
            STRIP)
        .map(
            row ->
                new GroupDetail.InRun(
                    DeskQueries.seen(row, "run_"),
                    row.get("results", Integer.class),
                    row.get("open", Integer.class)));
  }

  /**
   * By the time at which runs began: the latest one with the group, the one before its first of a
   * row of runs that all have it, and whether one without it came since.
   */
  private List<GroupDetail.OfStream> streams() {
    String without =
        " and not exists (select 1 from group_run gr where gr.project_id = x.project_id"
            + " and gr.group_id = ? and gr.run_id = x.id) and not x.is_open";
    return dsl.fetch(
            "with n as (select r.stream_id, m.name, count(*)::int as runs,"
                + " max(gr.started_at) as last_at "
                + RUNS
                + " group by 1, 2 order by 4 desc limit ?) select n.name, n.runs, n.last_at,"
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
            STREAMS,
            projectId,
            group,
            projectId,
            group,
            projectId,
            NEAR,
            projectId,
            group,
            NEAR,
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

  private List<GroupDetail.Past> past() {
    return dsl.fetch(
            "select d.id as decision, d.comment, d.made_by, d.made_at, d.scope, d.ends_at, d.ended_by,"
                + " d.undone_at, d.undone_by, a.group_id as like_group, c.name as category, "
                + DeskQueries.ORIGIN
                + " as origin, r.id as run_id,"
                + " r.number as run_number, r.started_at as run_at, m.name as run_stream,"
                + " (select count(*)::int from (select 1 from failure f"
                + " where f.group_id = d.group_id and f.decision_id = d.id limit ?) k) as results"
                + " from decision d"
                + " join category c on c.project_id = d.project_id and c.id = d.category_id"
                + " left join decision a on a.project_id = d.project_id and a.id = d.like_id"
                + " left join run r on r.project_id = d.project_id and r.id = d.run_id"
                + " and r.number is not null left join stream m on m.project_id = d.project_id"
                + " and m.id = r.stream_id where d.project_id = ? and d.group_id = ?"
                + " order by d.id desc limit ?",
            MOST_COUNTED,
            projectId,
            group,
            PAST)
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

  /** By the words of their errors, of those that have a band of them, or a test, in common. */
  List<Similar> similar() {
    Record own =
        dsl.fetchOne(
            "select words from failure_group where project_id = ? and id = ?", projectId, group);
    if (own == null) {
      return List.of();
    }
    List<String> words = words(own.get(0, String.class));
    return dsl
        .fetch(
            "with own as (select test_id from ("
                + LATEST
                + ") f group by 1 limit 100),"
                + " near as (select o.group_id from group_key k join group_key o"
                + " on o.project_id = k.project_id and o.use = k.use and o.key_high = k.key_high"
                + " and o.key_low = k.key_low where k.project_id = ? and k.group_id = ?"
                + " and k.use = 3 and o.group_id <> ? limit ?), same as (select f.group_id,"
                + " count(distinct own.test_id)::int as tests from own cross join lateral (select l.group_id"
                + " from failure l where l.test_id = own.test_id order by l.run_id desc limit "
                + OF_TEST
                + ") f where f.group_id <> ? group by 1 order by 2 desc"
                + " limit ?), late as (select gr.run_id from group_run gr where gr.project_id = ?"
                + " and gr.group_id = ? order by gr.started_at desc limit 100)"
                + " select g.id, g.kind, g.sentence, g.template, g.words,"
                + " (select count(*)::int from late join group_run o on o.project_id = g.project_id"
                + " and o.group_id = g.id and o.run_id = late.run_id) as runs,"
                + " coalesce(same.tests, 0) as tests, d.id as decision, d.comment, d.made_by,"
                + " c.name as category, "
                + DeskQueries.ORIGIN
                + " as origin from (select group_id from near union"
                + " select group_id from same) o join failure_group g on g.project_id = ?"
                + " and g.id = o.group_id and g.results > 0 left join same on same.group_id = g.id"
                + " left join lateral (select d.* from decision d where d.project_id = g.project_id"
                + " and d.group_id = g.id and d.undone_at is null and d.scope > 0"
                + " order by d.scope = 3, coalesce(d.ends_at, 'infinity') desc, d.id desc limit 1) d on true left join category c"
                + " on c.project_id = g.project_id and c.id = d.category_id",
            group,
            projectId,
            group,
            group,
            LOOKED_AT,
            group,
            LOOKED_AT,
            projectId,
            group,
            projectId)
        .map(row -> like(row, words))
        .stream()
        .filter(one -> one.likeness() >= LIKE_ENOUGH)
        .sorted(
            Comparator.comparingDouble(Similar::likeness)
                .thenComparingInt(Similar::sameTests)
                .reversed()
                .thenComparingLong(Similar::id))
        .toList();
  }

  private static Similar like(Record row, List<String> words) {
    List<String> others = words(row.get("words", String.class));
    return new Similar(
        row.get("id", Long.class),
        KeyKind.ofCode(row.get("kind", Integer.class)),
        row.get("sentence", String.class),
        row.get("template", String.class),
        Likeness.of(words, others),
        Likeness.common(words, others, SHOWN_WORDS),
        row.get("tests", Integer.class),
        row.get("runs", Integer.class),
        FailureQueries.said(row));
  }

  private static List<String> words(String json) {
    return Json.read(json, new TypeReference<List<String>>() {});
  }
}
