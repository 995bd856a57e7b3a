package org.vinecellar.store.triage;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.desk.Regrouped;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.ledger.GroupCounts;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.GroupNews;
import org.vinecellar.store.triage.rows.GroupRows;
import org.vinecellar.store.triage.rows.Regroupings;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Puts failure groups together and apart, as people say. In a transaction. */
final class Regrouping {
  /** Groups with more results follow in the background. */
  private static final int AT_ONCE = 2_000;

  private final DSLContext dsl;
  private final int projectId;
  private final Hand hand;

  Regrouping(DSLContext dsl, int projectId, Hand hand) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.hand = hand;
    // Runs that are being grouped by what was said before come first, or after.
    new GroupRows(dsl, projectId).lock();
  }

  /**
   * @return the groups that were joined
   */
  Set<Long> join(long into, List<Long> groups) {
    Regroupings before = Regroupings.of(dsl, projectId);
    long stays = before.of(there(into));
    Set<Long> others = new LinkedHashSet<>();
    for (long group : groups) {
      others.add(before.of(there(group)));
    }
    others.remove(stays);
    Set<Long> all = new TreeSet<>(others);
    all.add(stays);
    Decisions.hold(dsl, projectId, all);
    for (long group : others) {
      say(group, Regroupings.WHOLE, stays);
    }
    if (Regroupings.of(dsl, projectId).leadInACircle()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "one of these groups was taken out of another one of them; put it back instead");
    }
    follow(others);
    GroupNews.tell(dsl, projectId, stays);
    return others;
  }

  long part(long group, List<Long> tests) {
    long from = Regroupings.of(dsl, projectId).of(there(group));
    Decisions.hold(dsl, projectId, List.of(from));
    Set<Long> wanted = new LinkedHashSet<>(tests);
    Set<Long> has = new HashSet<>();
    dsl.fetch("select distinct test_id from failure where group_id = ?", from)
        .forEach(row -> has.add(row.get(0, Long.class)));
    if (wanted.isEmpty() || !has.containsAll(wanted)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "say which of the group's own tests are another cause; these are not all among them");
    }
    if (wanted.containsAll(has)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "these are all tests of the group; leave one, or explain the group as it is");
    }
    long made =
        dsl.fetchSingle(
                "insert into failure_group (project_id, kind, signature_version, key_text, sentence,"
                    + " template, words, made_at) select project_id, kind, signature_version,"
                    + " key_text, sentence, template, words, ?::timestamptz from failure_group"
                    + " where project_id = ? and id = ? returning id",
                Sql.utc(hand.now()),
                projectId,
                from)
            .get(0, Long.class);
    for (long test : wanted) {
      say(from, test, made);
    }
    follow(List.of(from));
    return made;
  }

  /**
   * @return the group that had it, or has it again
   */
  long asFound(long group) {
    Record joined =
        dsl.fetchOne(
            "delete from regrouping where project_id = ? and group_id = ? and test_id = ?"
                + " returning to_group_id",
            projectId,
            group,
            Regroupings.WHOLE);
    if (joined != null) {
      long had = Regroupings.of(dsl, projectId).of(joined.get(0, Long.class));
      follow(List.of(had));
      return had;
    }
    List<Long> from =
        dsl.fetch(
                "delete from regrouping where project_id = ? and to_group_id = ? and test_id <> ?"
                    + " returning group_id",
                projectId,
                group,
                Regroupings.WHOLE)
            .getValues(0, Long.class);
    if (from.isEmpty()) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "nobody joined group " + group + " to another one, or took it out of one");
    }
    follow(List.of(group));
    return from.get(0);
  }

  /** Of a group, what people put together with it, or apart from it. */
  static List<Regrouped> of(DSLContext dsl, int projectId, long group) {
    return dsl.fetch(
            "select * from (select 0 as what, r.group_id as other, 0 as tests, r.made_at, r.made_by"
                + " from regrouping r where r.project_id = ? and r.to_group_id = ? and r.test_id = 0"
                + " union all select 1, r.to_group_id, count(*)::int, max(r.made_at),"
                + " max(r.made_by) from regrouping r where r.project_id = ? and r.group_id = ?"
                + " and r.test_id <> 0 group by r.to_group_id"
                + " union all select 2, r.group_id, count(*)::int, max(r.made_at), max(r.made_by)"
                + " from regrouping r where r.project_id = ? and r.to_group_id = ?"
                + " and r.test_id <> 0 group by r.group_id) n"
                + " join failure_group g on g.project_id = ? and g.id = n.other"
                + " order by n.made_at desc, n.other limit 50",
            projectId,
            group,
            projectId,
            group,
            projectId,
            group,
            projectId)
        .map(
            row ->
                new Regrouped(
                    Regrouped.What.values()[row.get("what", Integer.class)],
                    row.get("other", Long.class),
                    KeyKind.ofCode(row.get("kind", Integer.class)),
                    row.get("sentence", String.class),
                    row.get("template", String.class),
                    row.get("tests", Integer.class),
                    Objects.requireNonNull(DeskQueries.instant(row, "made_at")),
                    row.get("made_by", String.class)));
  }

  private long there(long group) {
    if (dsl.fetchOne(
            "select 1 from failure_group where project_id = ? and id = ?", projectId, group)
        == null) {
      throw Decisions.noGroup(group);
    }
    return group;
  }

  private void say(long group, long test, long to) {
    dsl.execute(
        "insert into regrouping (project_id, group_id, test_id, to_group_id, made_at, made_by)"
            + " values (?, ?, ?, ?, ?::timestamptz, ?) on conflict (project_id, group_id, test_id)"
            + " do update set to_group_id = excluded.to_group_id, made_at = excluded.made_at,"
            + " made_by = excluded.made_by",
        projectId,
        group,
        test,
        to,
        Sql.utc(hand.now()),
        hand.name());
  }

  /** What is in these groups goes where it belongs: of small ones at once. */
  private void follow(Collection<Long> groups) {
    Integer results =
        dsl.fetchSingle(
                "select coalesce(sum(results), 0)::int from failure_group where project_id = ?"
                    + " and id = any(?)",
                projectId,
                Ids.of(groups))
            .get(0, Integer.class);
    for (long group : groups) {
      if (results <= AT_ONCE) {
        all(dsl, projectId, group, hand.now());
      } else {
        WorkRows.ask(dsl, WorkKind.REGROUP, projectId, group, hand.now());
      }
    }
  }

  /** Work: brings the failures in a group to where they belong. */
  static void all(DSLContext dsl, int projectId, long group, Instant now) {
    new GroupRows(dsl, projectId).lock();
    Regroupings said = Regroupings.of(dsl, projectId);
    List<Integer> found = new ArrayList<>();
    List<Integer> tests = new ArrayList<>();
    List<Integer> to = new ArrayList<>();
    Set<Long> touched = new LinkedHashSet<>();
    dsl.fetch("select distinct found_group_id, test_id from failure where group_id = ?", group)
        .forEach(
            row -> {
              int from = row.get(0, Integer.class);
              int test = row.get(1, Integer.class);
              int belongs = said.of(from, test);
              if (belongs != group) {
                found.add(from);
                tests.add(test);
                to.add(belongs);
                touched.add((long) belongs);
              }
            });
    if (found.isEmpty()) {
      return;
    }
    // What somebody said of one very result stays; what was said of the group does not follow.
    dsl.execute(
        "update failure f set group_id = n.to_id, decision_id = case when d.scope = 0"
            + " then f.decision_id end, origin = case when d.scope = 0 then f.origin end"
            + " from failure o join unnest(?, ?, ?) as n(found_id, test_id, to_id)"
            + " on n.found_id = o.found_group_id and n.test_id = o.test_id"
            + " left join decision d on d.project_id = ? and d.id = o.decision_id"
            + " where o.group_id = ? and f.run_id = o.run_id and f.place = o.place",
        Ids.of(found),
        Ids.of(tests),
        Ids.of(to),
        projectId,
        group);
    touched.add(group);
    new GroupCounts(dsl, projectId).ofGroups(touched);
    for (long one : touched) {
      Carrying.group(dsl, projectId, one, now);
      GroupNews.tell(dsl, projectId, one);
    }
  }
}
