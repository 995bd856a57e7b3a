package org.vinecellar.store.triage.rules;

import static org.vinecellar.store.generated.Tables.RULE;

import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Semaphore;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.core.triage.rules.Rule;
import org.vinecellar.core.triage.rules.RuleDraft;
import org.vinecellar.core.triage.rules.RuleStore;
import org.vinecellar.core.triage.rules.RuleTrial;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.Categories;
import org.vinecellar.store.triage.rows.GroupRows;
import org.vinecellar.store.work.WorkKind;

/** Rules in PostgreSQL. Thread-safe. */
public final class PgRuleStore implements RuleStore {
  private static final int TRIALS_AT_ONCE = 2;

  private final Sql sql;
  private final Semaphore trials = new Semaphore(TRIALS_AT_ONCE);

  /** On that database. */
  public PgRuleStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Rule> rules(int projectId, Hand hand) {
    return sql.transaction(dsl -> new RuleRows(dsl, projectId).all(hand.now()));
  }

  @Override
  public Rule add(int projectId, RuleDraft draft, int runs, Hand hand) {
    RuleDraft checked = draft.checked(hand.now());
    return sql.transaction(
        dsl -> {
          List<Rule> before = held(dsl, projectId, hand);
          if (before.size() >= MOST) {
            throw new CellarException(
                ProblemCode.TOO_LARGE,
                "there are "
                    + MOST
                    + " rules already, which are as many as there can be; remove"
                    + " those that never explain anything");
          }
          Long id =
              dsl.insertInto(RULE)
                  .set(RULE.PROJECT_ID, projectId)
                  .set(RULE.VERSION, 1)
                  .set(RULE.POSITION, before.size())
                  .set(said(dsl, projectId, checked))
                  .set(RULE.CHANGED_AT, Sql.utc(hand.now()))
                  .set(RULE.CHANGED_BY, hand.name())
                  .returning(RULE.ID)
                  .fetchSingle(RULE.ID);
          apply(dsl, projectId, checked, runs, hand);
          return one(dsl, projectId, id, hand);
        });
  }

  @Override
  public Rule change(int projectId, long id, int version, RuleDraft draft, int runs, Hand hand) {
    RuleDraft checked = draft.checked(hand.now());
    return sql.transaction(
        dsl -> {
          Rule before = one(dsl, projectId, id, hand);
          int changed =
              dsl.update(RULE)
                  .set(said(dsl, projectId, checked))
                  .set(RULE.VERSION, RULE.VERSION.plus(1))
                  .setNull(RULE.TROUBLE)
                  .set(RULE.CHANGED_AT, Sql.utc(hand.now()))
                  .set(RULE.CHANGED_BY, hand.name())
                  .where(
                      RULE.PROJECT_ID.eq(projectId),
                      RULE.ID.eq(id),
                      RULE.VERSION.eq(version),
                      RULE.DELETED_AT.isNull())
                  .execute();
          if (changed == 0) {
            throw meanwhile(
                "the rule “"
                    + before.said().name()
                    + "” is version "
                    + before.version()
                    + " by now, not "
                    + version);
          }
          apply(dsl, projectId, checked, runs, hand);
          return one(dsl, projectId, id, hand);
        });
  }

  @Override
  public void remove(int projectId, long id, Hand hand) {
    sql.transaction(
        dsl -> {
          Rule unused = one(dsl, projectId, id, hand);
          return dsl.update(RULE)
              .set(RULE.DELETED_AT, Sql.utc(hand.now()))
              .set(RULE.CHANGED_BY, hand.name())
              .where(RULE.PROJECT_ID.eq(projectId), RULE.ID.eq(id))
              .execute();
        });
  }

  @Override
  public int takeBack(int projectId, long id, Hand hand) {
    return sql.transaction(
        dsl -> {
          // A run that it explains right now is explained first, and taken back as well.
          new GroupRows(dsl, projectId).lock();
          Rule rule = one(dsl, projectId, id, hand);
          dsl.update(RULE)
              .set(RULE.IS_ON, false)
              .set(RULE.VERSION, RULE.VERSION.plus(rule.said().on() ? 1 : 0))
              .set(RULE.CHANGED_AT, Sql.utc(hand.now()))
              .set(RULE.CHANGED_BY, hand.name())
              .where(RULE.PROJECT_ID.eq(projectId), RULE.ID.eq(id))
              .execute();
          int results =
              dsl.fetchSingle(
                      "select count(*)::int from decision d join failure f"
                          + " on f.group_id = d.group_id and f.decision_id = d.id"
                          + " where d.project_id = ? and d.rule_id = ? and d.undone_at is null",
                      projectId,
                      id)
                  .get(0, Integer.class);
          dsl.execute(
              "with gone as (update decision set undone_at = ?::timestamptz, undone_by = ?"
                  + " where project_id = ? and rule_id = ? and undone_at is null"
                  + " returning group_id) insert into work (kind, project_id, subject_id,"
                  + " asked_at, due_at, tries) select ?, ?, g.group_id, ?::timestamptz,"
                  + " ?::timestamptz, 0 from (select distinct group_id from gone) g",
              Sql.utc(hand.now()),
              hand.name(),
              projectId,
              id,
              WorkKind.CARRY_GROUP.name(),
              projectId,
              Sql.utc(hand.now()),
              Sql.utc(hand.now()));
          return results;
        });
  }

  @Override
  public void order(int projectId, List<Long> ids, Hand hand) {
    sql.transaction(
        dsl -> {
          List<Rule> before = held(dsl, projectId, hand);
          if (ids.size() != before.size()
              || !new HashSet<>(ids)
                  .equals(new HashSet<>(before.stream().map(Rule::id).toList()))) {
            throw meanwhile("these are not the rules that there are by now");
          }
          for (int i = 0; i < ids.size(); i++) {
            dsl.update(RULE)
                .set(RULE.POSITION, i)
                .where(RULE.PROJECT_ID.eq(projectId), RULE.ID.eq(ids.get(i)))
                .execute();
          }
          return true;
        });
  }

  @Override
  public RuleTrial trial(int projectId, RuleDraft draft, @Nullable Long rule, int runs, Hand hand) {
    draft.checkCondition(hand.now());
    if (!trials.tryAcquire()) {
      throw new TryLaterException(
          ProblemCode.TOO_MANY_AT_ONCE,
          "other rules are being tried right now; try again in a moment",
          Duration.ofSeconds(2));
    }
    try {
      return sql.transaction(
          dsl -> new RuleTrying(dsl, projectId, draft, rule, hand.now()).on(runs));
    } finally {
      trials.release();
    }
  }

  /** All of them; nobody else adds or orders any until this ends. */
  private static List<Rule> held(DSLContext dsl, int projectId, Hand hand) {
    dsl.execute("select pg_advisory_xact_lock(?, ?)", 0x72756c65, projectId);
    return new RuleRows(dsl, projectId).all(hand.now());
  }

  private static Rule one(DSLContext dsl, int projectId, long id, Hand hand) {
    return new RuleRows(dsl, projectId)
        .all(hand.now()).stream()
            .filter(rule -> rule.id() == id)
            .findFirst()
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "there is no rule " + id + "; perhaps somebody removed it"));
  }

  private static Map<Field<?>, Object> said(DSLContext dsl, int projectId, RuleDraft draft) {
    Map<Field<?>, Object> values = new java.util.HashMap<>();
    values.put(RULE.NAME, draft.name().strip());
    values.put(RULE.FILTER, draft.filter().strip());
    values.put(RULE.PATTERN, draft.pattern());
    values.put(RULE.CATEGORY_ID, Categories.named(dsl, projectId, draft.category()).id());
    values.put(
        RULE.COMMENT, draft.comment() == null ? DSL.castNull(RULE.COMMENT) : draft.comment());
    values.put(RULE.IS_ON, draft.on());
    return values;
  }

  /** Asks for it in the latest runs with something that nobody explained. */
  private static void apply(DSLContext dsl, int projectId, RuleDraft draft, int runs, Hand hand) {
    if (runs > 0 && draft.on()) {
      dsl.execute(
          "insert into work (kind, project_id, subject_id, asked_at, due_at, tries)"
              + " select ?, ?, r.id, ?::timestamptz, ?::timestamptz, 0 from run r"
              + " where r.project_id = ? and r.number is not null and r.deleted_at is null"
              + " and exists (select 1 from group_run gr where gr.project_id = r.project_id"
              + " and gr.run_id = r.id and gr.open > 0)"
              + " order by r.started_at desc, r.id desc limit ?",
          WorkKind.APPLY_RULES.name(),
          projectId,
          Sql.utc(hand.now()),
          Sql.utc(hand.now()),
          projectId,
          runs);
    }
  }

  private static CellarException meanwhile(String what) {
    return new CellarException(
        ProblemCode.EDITED_MEANWHILE, what + ": somebody changed it; look again");
  }
}
