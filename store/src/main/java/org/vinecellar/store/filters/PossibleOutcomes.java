package org.vinecellar.store.filters;

import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Operator;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.store.generated.tables.Result;
import org.vinecellar.store.generated.tables.Run;

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

  /**
   * The outcomes that a filter asks for, if it asks for nothing else: then it lets through all
   * results of tests that have one of them.
   */
  public static Optional<Set<Outcome>> only(Criterion criterion) {
    if (criterion instanceof Criterion.Any any && !any.of().isEmpty()) {
      Set<Outcome> either = EnumSet.noneOf(Outcome.class);
      for (Criterion one : any.of()) {
        Optional<Set<Outcome>> only = only(one);
        if (only.isEmpty()) {
          return Optional.empty();
        }
        either.addAll(only.get());
      }
      return Optional.of(either);
    }
    return criterion instanceof Criterion.Compares compares
        ? Optional.ofNullable(told(compares)).map(Set::of)
        : Optional.empty();
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

  /**
   * That a run has a result with one of them, by what its row counts. Set-ups are not counted among
   * them; a filter that tells outcomes lets none through.
   */
  public Condition condition(Run run) {
    return outcomes.containsAll(ALL) ? DSL.noCondition() : sum(run, outcomes).gt(DSL.inline(0));
  }

  /** How many results of tests with one of some outcomes a run has, by what its row counts. */
  public static Field<Integer> sum(Run run, Set<Outcome> outcomes) {
    Field<Integer> sum = DSL.inline(0);
    for (Outcome outcome : outcomes) {
      sum =
          sum.plus(
              switch (outcome) {
                case PASSED -> run.PASSED;
                case FAILED -> run.FAILED;
                case ERRORED -> run.ERRORED;
                case SKIPPED -> run.SKIPPED;
                case NOT_REACHED -> run.NOT_REACHED;
              });
    }
    return sum;
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
