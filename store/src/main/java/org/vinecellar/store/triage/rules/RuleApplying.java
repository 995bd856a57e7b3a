package org.vinecellar.store.triage.rules;

import static org.vinecellar.store.generated.Tables.RULE;
import static org.vinecellar.store.generated.Tables.RUN;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.decisions.Scope;
import org.vinecellar.core.triage.rules.Rule;
import org.vinecellar.store.ledger.GroupCounts;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.Categories;
import org.vinecellar.store.triage.rows.GroupRows;
import org.vinecellar.store.work.WorkKind;

/** Lets the rules of a project explain what nobody else has explained in a run. */
public final class RuleApplying {
  private static final Duration PATIENCE = Duration.ofSeconds(30);

  /** When an explanation of a group is taken away, rules look at so many of its latest runs. */
  private static final int RUNS = 200;

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final OffsetDateTime startedAt;
  private final Instant now;

  private record Open(int group, int testId) {}

  private record Key(long rule, int group) {}

  private RuleApplying(DSLContext dsl, int projectId, long runId, Record run, Instant now) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
    this.startedAt = run.get(RUN.STARTED_AT);
    this.now = now;
  }

  /** Work: does it. While it lasts, the run does not change. */
  public static void run(DSLContext dsl, int projectId, long runId, Instant now) {
    Record run = held(dsl, projectId, runId);
    if (run == null) {
      return;
    }
    new GroupRows(dsl, projectId).lock();
    if (new RuleApplying(dsl, projectId, runId, run, now).all() > 0) {
      new GroupCounts(dsl, projectId).decidedInRun(runId);
      dsl.execute("select pg_notify('vine_run', ?)", projectId + "/" + runId);
    }
  }

  /**
   * Does it within other work on the run, by which nobody else makes groups.
   *
   * @return results that are explained by it
   */
  public static int toRun(DSLContext dsl, int projectId, long runId, Instant now) {
    Record run = held(dsl, projectId, runId);
    return run == null ? 0 : new RuleApplying(dsl, projectId, runId, run, now).all();
  }

  private static @Nullable Record held(DSLContext dsl, int projectId, long runId) {
    return dsl.select(RUN.STARTED_AT)
        .from(RUN)
        .where(
            RUN.PROJECT_ID.eq(projectId),
            RUN.ID.eq(runId),
            RUN.NUMBER.isNotNull(),
            RUN.DELETED_AT.isNull())
        .forUpdate()
        .fetchOne();
  }

  /** Asks for it in runs of a group, after something that explained it was taken away. */
  public static void askFor(DSLContext dsl, int projectId, long group, Instant now) {
    dsl.execute(
        "insert into work (kind, project_id, subject_id, asked_at, due_at, tries)"
            + " select ?, ?, gr.run_id, ?::timestamptz, ?::timestamptz, 0 from group_run gr"
            + " where gr.project_id = ? and gr.group_id = ? and gr.open > 0 and exists (select 1"
            + " from rule u where u.project_id = ? and u.is_on and u.deleted_at is null)"
            + " order by gr.started_at desc, gr.run_id desc limit ?",
        WorkKind.APPLY_RULES.name(),
        projectId,
        Sql.utc(now),
        Sql.utc(now),
        projectId,
        group,
        projectId,
        RUNS);
  }

  private int all() {
    List<Rule> rules = new RuleRows(dsl, projectId).on();
    Map<Integer, Open> open = rules.isEmpty() ? Map.of() : open();
    if (open.isEmpty()) {
      return 0;
    }
    Set<Key> barred = barred(open.values());
    RuleMatching matching =
        new RuleMatching(dsl, projectId, rules.stream().map(Rule::said).toList(), now, PATIENCE);
    Map<Integer, Integer> found =
        new TreeMap<>(
            matching.first(
                runId,
                open.keySet(),
                (place, rule) ->
                    !barred.contains(
                        new Key(
                            rules.get(rule).id(), Objects.requireNonNull(open.get(place)).group))));
    tell(rules, matching);
    if (!found.isEmpty()) {
      explain(rules, open, found);
    }
    return found.size();
  }

  /** Failures that nobody explained; without groups that returned, which are a person's. */
  private Map<Integer, Open> open() {
    Map<Integer, Open> open = new HashMap<>();
    dsl.fetch(
            "select f.place, f.group_id, f.test_id from failure f where f.run_id = ?"
                + " and f.decision_id is null and not exists (select 1 from decision e"
                + " where e.project_id = ? and e.group_id = f.group_id and e.undone_at is null"
                + " and e.scope in (1, 2) and e.ends_at <= ?::timestamptz)",
            runId,
            projectId,
            startedAt)
        .forEach(
            row ->
                open.put(
                    row.get(0, Integer.class),
                    new Open(row.get(1, Integer.class), row.get(2, Integer.class))));
    return open;
  }

  /** Groups of which a person said that a rule is wrong about them. */
  private Set<Key> barred(Collection<Open> open) {
    Set<Key> barred = new HashSet<>();
    dsl.fetch(
            "select distinct rule_id, group_id from decision where project_id = ?"
                + " and group_id = any(?) and rule_barred",
            projectId,
            groups(open))
        .forEach(row -> barred.add(new Key(row.get(0, Long.class), row.get(1, Integer.class))));
    return barred;
  }

  private static org.jooq.Field<Integer[]> groups(Collection<Open> open) {
    return Ids.of(open.stream().map(Open::group).distinct().toList());
  }

  /** What kept rules from being asked; nothing where nothing did. */
  private void tell(List<Rule> rules, RuleMatching matching) {
    for (int i = 0; i < rules.size(); i++) {
      Rule rule = rules.get(i);
      String trouble = matching.troubles().get(i);
      if (trouble == null && matching.left() > 0 && !rule.said().pattern().isEmpty()) {
        trouble =
            "there was no time for "
                + matching.left()
                + " failures of the latest run; let fewer or simpler patterns look";
      }
      if (!Objects.equals(trouble, rule.trouble())) {
        dsl.update(RULE)
            .set(RULE.TROUBLE, trouble)
            .where(RULE.PROJECT_ID.eq(projectId), RULE.ID.eq(rule.id()))
            .execute();
      }
    }
  }

  private void explain(List<Rule> rules, Map<Integer, Open> open, Map<Integer, Integer> found) {
    Map<Key, Integer> first = new LinkedHashMap<>();
    Map<Long, Integer> counts = new TreeMap<>();
    found.forEach(
        (place, rule) -> {
          long id = rules.get(rule).id();
          first.putIfAbsent(new Key(id, Objects.requireNonNull(open.get(place)).group), place);
          counts.merge(id, 1, Integer::sum);
        });
    Map<Key, Integer> decisions = new HashMap<>();
    for (Rule rule : rules) {
      Map<Integer, Integer> groups = new LinkedHashMap<>();
      first.forEach(
          (key, place) -> {
            if (key.rule == rule.id()) {
              groups.put(key.group, place);
            }
          });
      if (!groups.isEmpty()) {
        decided(rule, groups, open)
            .forEach((group, decision) -> decisions.put(new Key(rule.id(), group), decision));
      }
    }
    Integer[] places = found.keySet().toArray(Integer[]::new);
    Integer[] by = new Integer[places.length];
    for (int i = 0; i < places.length; i++) {
      long rule = rules.get(Objects.requireNonNull(found.get(places[i]))).id();
      by[i] = decisions.get(new Key(rule, Objects.requireNonNull(open.get(places[i])).group));
    }
    dsl.execute(
        "update failure f set decision_id = n.decision_id, origin = ?"
            + " from unnest(?, ?) as n(place, decision_id)"
            + " where f.run_id = ? and f.place = n.place and f.decision_id is null",
        DecisionOrigin.RULE.code(),
        Ids.of(places),
        Ids.of(by),
        runId);
    counts.forEach(
        (rule, n) ->
            dsl.update(RULE)
                .set(RULE.EXPLAINED, RULE.EXPLAINED.plus(n))
                .set(
                    RULE.LAST_AT,
                    DSL.greatest(DSL.coalesce(RULE.LAST_AT, startedAt), DSL.val(startedAt)))
                .where(RULE.PROJECT_ID.eq(projectId), RULE.ID.eq(rule))
                .execute());
  }

  /** The decision of a rule on each group; one that stands and says the same is used again. */
  private Map<Integer, Integer> decided(
      Rule rule, Map<Integer, Integer> groups, Map<Integer, Open> open) {
    long category = Categories.kept(dsl, projectId, rule.said().category()).id();
    Map<Integer, Integer> decisions = new HashMap<>();
    dsl.fetch(
            "select group_id, max(id) from decision where project_id = ? and group_id = any(?)"
                + " and rule_id = ? and scope = ? and undone_at is null and category_id = ?"
                + " and comment is not distinct from ?::text group by 1",
            projectId,
            Ids.of(groups.keySet()),
            rule.id(),
            Scope.FITTING.code(),
            category,
            rule.said().comment())
        .forEach(row -> decisions.put(row.get(0, Integer.class), row.get(1, Integer.class)));
    List<Integer> missing =
        groups.keySet().stream().filter(group -> !decisions.containsKey(group)).toList();
    if (!missing.isEmpty()) {
      List<Integer> places =
          missing.stream().map(group -> Objects.requireNonNull(groups.get(group))).toList();
      List<Integer> tests =
          places.stream().map(place -> Objects.requireNonNull(open.get(place)).testId).toList();
      dsl.fetch(
              "insert into decision (project_id, group_id, run_id, place, test_id, since, scope,"
                  + " rule_id, category_id, comment, made_at, made_by) select ?, n.group_id, ?,"
                  + " n.place, n.test_id, ?::timestamptz, ?, ?, ?, ?::text, ?::timestamptz, ?"
                  + " from unnest(?, ?, ?) as n(group_id, place, test_id) returning group_id, id",
              projectId,
              runId,
              startedAt,
              Scope.FITTING.code(),
              rule.id(),
              category,
              rule.said().comment(),
              Sql.utc(now),
              rule.said().name(),
              Ids.of(missing),
              Ids.of(places),
              Ids.of(tests))
          .forEach(row -> decisions.put(row.get(0, Integer.class), row.get(1, Integer.class)));
    }
    return decisions;
  }
}
