package org.vinecellar.store.triage;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.Comparator;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.triage.desk.GroupDetail.Similar;
import org.vinecellar.core.triage.grouping.Likeness;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.sql.Json;

/** Failure groups that are like one. */
final class SimilarGroups {
  private static final int SHOWN_WORDS = 8;

  // These stand in the statement itself: PostgreSQL plans anew each time what depends on them.
  private static final int LOOKED_AT = 200;
  private static final int TESTS = 40;
  private static final int RUNS = 100;

  /** So many of the latest failures of a test tell which other groups it has. */
  private static final int OF_TEST = 20;

  /** What has less in common is not worth a look. */
  private static final double LIKE_ENOUGH = 0.3;

  private final DSLContext dsl;
  private final int projectId;
  private final long group;

  SimilarGroups(DSLContext dsl, int projectId, long group) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.group = group;
  }

  /** By the words of their errors, of those that have a band of them, or a test, in common. */
  List<Similar> all() {
    Record own =
        dsl.fetchOne(
            "select words from failure_group where project_id = ? and id = ?", projectId, group);
    if (own == null) {
      return List.of();
    }
    List<String> words = words(own.get(0, String.class));
    return dsl
        .fetch(
            "with own as (select test_id from (select f.test_id from failure f where f.group_id = ?"
                + " order by f.run_id desc limit "
                + LOOKED_AT
                + ") f group by 1 order by count(*) desc, 1 limit "
                + TESTS
                + "),"
                + " near as (select o.group_id from group_key k join group_key o"
                + " on o.project_id = k.project_id and o.use = k.use and o.key_high = k.key_high"
                + " and o.key_low = k.key_low where k.project_id = ? and k.group_id = ?"
                + " and k.use = 3 and o.group_id <> ? limit "
                + LOOKED_AT
                + "), same as (select f.group_id,"
                + " count(distinct own.test_id)::int as tests from own cross join lateral (select l.group_id"
                + " from failure l where l.test_id = own.test_id order by l.run_id desc limit "
                + OF_TEST
                + ") f where f.group_id <> ? group by 1 order by 2 desc"
                + " limit "
                + LOOKED_AT
                + "), late as (select gr.run_id from group_run gr where gr.project_id = ?"
                + " and gr.group_id = ? order by gr.started_at desc, gr.run_id desc limit "
                + RUNS
                + ")"
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
            group,
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
