package org.vinecellar.store.triage.rules;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.RULE;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.triage.rules.Rule;
import org.vinecellar.core.triage.rules.RuleDraft;
import org.vinecellar.core.triage.rules.Starters;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.Categories;

/** Rules as rows. */
final class RuleRows {
  private final DSLContext dsl;
  private final int projectId;

  RuleRows(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** All in their order. A project that never had any gets those to start with. */
  List<Rule> all(Instant now) {
    if (!dsl.fetchExists(RULE, RULE.PROJECT_ID.eq(projectId))) {
      int position = 0;
      for (Starters.Starter one : Starters.ALL) {
        dsl.insertInto(RULE)
            .set(RULE.PROJECT_ID, projectId)
            .set(RULE.VERSION, 1)
            .set(RULE.POSITION, position++)
            .set(RULE.NAME, one.said().name())
            .set(RULE.FILTER, one.said().filter())
            .set(RULE.PATTERN, one.said().pattern())
            .set(RULE.CATEGORY_ID, Categories.starting(dsl, projectId, one.said().category()).id())
            .set(RULE.COMMENT, one.said().comment())
            .set(RULE.IS_ON, one.said().on())
            .set(RULE.STARTER, one.key())
            .set(RULE.CHANGED_AT, Sql.utc(now))
            .onConflictDoNothing()
            .execute();
      }
    }
    return there(RULE.DELETED_AT.isNull());
  }

  /** Those that explain something, in their order. */
  List<Rule> on() {
    return there(RULE.DELETED_AT.isNull().and(RULE.IS_ON));
  }

  private List<Rule> there(Condition which) {
    return dsl.select(RULE.fields())
        .select(CATEGORY.NAME)
        .from(RULE)
        .join(CATEGORY)
        .on(CATEGORY.PROJECT_ID.eq(RULE.PROJECT_ID), CATEGORY.ID.eq(RULE.CATEGORY_ID))
        .where(RULE.PROJECT_ID.eq(projectId), which)
        .orderBy(RULE.POSITION, RULE.ID)
        .fetch(RuleRows::rule);
  }

  private static Rule rule(Record row) {
    return new Rule(
        row.get(RULE.ID),
        row.get(RULE.VERSION),
        new RuleDraft(
            row.get(RULE.NAME),
            row.get(RULE.FILTER),
            row.get(RULE.PATTERN),
            row.get(CATEGORY.NAME),
            row.get(RULE.COMMENT),
            row.get(RULE.IS_ON)),
        row.get(RULE.STARTER) != null,
        row.get(RULE.EXPLAINED),
        Sql.instantOrNull(row.get(RULE.LAST_AT)),
        row.get(RULE.TROUBLE),
        row.get(RULE.CHANGED_BY),
        Objects.requireNonNull(Sql.instantOrNull(row.get(RULE.CHANGED_AT))));
  }
}
