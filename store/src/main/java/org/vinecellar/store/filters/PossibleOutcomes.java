package org.vinecellar.store.filters;

import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Operator;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.store.generated.tables.Result;

/**
 * Which outcomes results can have that a filter lets through: never too few. The index of what did
 * not pass is only used where the outcomes are told.
 */
public final class PossibleOutcomes {
  private static final Set<Outcome> ALL = EnumSet.allOf(Outcome.class);

  private final Set<Outcome> outcomes;

  private PossibleOutcomes(Set<Outcome> outcomes) {
    this.outcomes = outcomes;
  }

  /** Those of a filter of results. */
  public static PossibleOutcomes of(Criterion criterion) {
    return new PossibleOutcomes(possible(criterion));
  }

  private static Set<Outcome> possible(Criterion criterion) {
    if (criterion instanceof Criterion.All all) {
      Set<Outcome> left = new HashSet<>(ALL);
      all.of().forEach(one -> left.retainAll(possible(one)));
      return left;
    }
    if (criterion instanceof Criterion.Any any) {
      return any.of().stream().flatMap(one -> possible(one).stream()).collect(Collectors.toSet());
    }
    if (criterion instanceof Criterion.Compares compares) {
      Outcome told = told(compares);
      return told == null ? ALL : Set.of(told);
    }
    // Set-ups have an outcome in their column and none for a filter: what is denied tells nothing.
    return ALL;
  }

  private static @Nullable Outcome told(Criterion.Compares compares) {
    if (compares.attribute() != Attribute.RESULT_OUTCOME || compares.operator() != Operator.EQ) {
      return null;
    }
    return Outcome.ofWord(((Criterion.Words) compares.operand()).text()).orElse(null);
  }

  /** Those of one half. */
  public Set<Outcome> failing(boolean failing) {
    return outcomes.stream()
        .filter(outcome -> outcome.isFailing() == failing)
        .collect(Collectors.toSet());
  }

  /** That a result has one of them. */
  public Condition condition(Result result) {
    return condition(result, outcomes);
  }

  /** That a result has one of the outcomes, said so that the index is seen to cover it. */
  public static Condition condition(Result result, Set<Outcome> outcomes) {
    if (outcomes.containsAll(ALL)) {
      return DSL.noCondition();
    }
    List<Integer> codes = outcomes.stream().map(Outcome::code).sorted().toList();
    return outcomes.contains(Outcome.PASSED)
        ? result.OUTCOME.in(codes)
        : result.OUTCOME.ne(DSL.inline(Outcome.PASSED.code())).and(result.OUTCOME.in(codes));
  }
}
