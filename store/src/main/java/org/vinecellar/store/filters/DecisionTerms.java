package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.RULE;

import org.jooq.Condition;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.store.generated.tables.Category;
import org.vinecellar.store.generated.tables.Decision;
import org.vinecellar.store.generated.tables.Rule;

/** What explains failures. */
final class DecisionTerms extends Terms {
  private final Decision decision;

  DecisionTerms(int projectId, int depth, Decision decision) {
    super(projectId, depth);
    this.decision = decision;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case DECISION_CATEGORY -> category(match);
      case DECISION_COMMENT -> match.text(decision.COMMENT);
      case DECISION_BY -> match.name(decision.MADE_BY);
      case DECISION_MADE -> match.time(decision.MADE_AT);
      case DECISION_RULE -> rule(match);
      case DECISION_ENDS -> match.time(decision.ENDS_AT);
      default -> throw notHere(attribute);
    };
  }

  private Condition category(Match match) {
    Category category = CATEGORY.as(below("category"));
    return decision.CATEGORY_ID.in(
        DSL.select(category.ID)
            .from(category)
            .where(category.PROJECT_ID.eq(projectId), match.text(category.NAME)));
  }

  private Condition rule(Match match) {
    Rule rule = RULE.as(below("rule"));
    return decision.RULE_ID.in(
        DSL.select(rule.ID).from(rule).where(rule.PROJECT_ID.eq(projectId), match.name(rule.NAME)));
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    throw notHere(relation);
  }
}
