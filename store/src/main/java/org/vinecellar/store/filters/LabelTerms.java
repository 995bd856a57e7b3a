package org.vinecellar.store.filters;

import org.jooq.Condition;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.store.generated.tables.RunLabel;

/** A label of a run. */
final class LabelTerms extends Terms {
  private final RunLabel label;

  LabelTerms(int projectId, int depth, RunLabel label) {
    super(projectId, depth);
    this.label = label;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case LABEL_KEY -> match.name(label.KEY);
      case LABEL_VALUE -> match.name(label.VALUE);
      default -> throw notHere(attribute);
    };
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    throw notHere(relation);
  }
}
