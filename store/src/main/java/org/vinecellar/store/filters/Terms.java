package org.vinecellar.store.filters;

import org.jooq.Condition;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;

/** A thing in the tables of a query: what its attributes are there. */
abstract class Terms {
  final int projectId;

  /** How deep in sub-queries it stands: the names of tables there say so. */
  final int depth;

  Terms(int projectId, int depth) {
    this.projectId = projectId;
    this.depth = depth;
  }

  /** The name of a table in a sub-query right below. */
  String below(String name) {
    return name + (depth + 1);
  }

  /**
   * That a value compares so.
   *
   * @param key of a keyed attribute; null for any
   */
  abstract Condition holds(Attribute attribute, @Nullable String key, Match match);

  /** That there is one at the other end for which it holds. */
  abstract Condition within(Relation relation, Criterion criterion);

  /** That a criterion holds. */
  final Condition of(Criterion criterion) {
    if (criterion instanceof Criterion.All all) {
      return DSL.and(all.of().stream().map(this::of).toList());
    }
    if (criterion instanceof Criterion.Any any) {
      return DSL.or(any.of().stream().map(this::of).toList());
    }
    if (criterion instanceof Criterion.Not not) {
      // What is null does not hold.
      return DSL.condition("({0}) is not true", of(not.of()));
    }
    if (criterion instanceof Criterion.Within within) {
      return within(within.relation(), within.of());
    }
    if (criterion instanceof Criterion.Compares compares) {
      return holds(compares.attribute(), compares.key(), Match.of(compares));
    }
    Criterion.Present present = (Criterion.Present) criterion;
    return holds(present.attribute(), present.key(), Match.present());
  }

  static IllegalStateException notHere(Object name) {
    return new IllegalStateException(name + " is no term of this thing");
  }
}
