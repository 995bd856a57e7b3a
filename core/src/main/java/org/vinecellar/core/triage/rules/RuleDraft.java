package org.vinecellar.core.triage.rules;

import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What somebody writes as a rule. A failure has to fit the filter and the pattern, whichever of
 * them is written.
 *
 * @param filter of results; empty for none
 * @param pattern as {@link RulePattern} reads it; empty for none
 * @param category by its name
 * @param comment Markdown; null for none
 * @param on whether it explains anything
 */
public record RuleDraft(
    String name,
    String filter,
    String pattern,
    String category,
    @Nullable String comment,
    boolean on) {
  private static final int LONGEST_NAME = 100;

  /** Checks nulls. */
  public RuleDraft {
    Objects.requireNonNull(name);
    Objects.requireNonNull(filter);
    Objects.requireNonNull(pattern);
    Objects.requireNonNull(category);
  }

  /**
   * Itself, when it can be kept.
   *
   * @throws CellarException {@code INVALID_VALUE}, with what is wrong
   */
  public RuleDraft checked(Instant now) {
    if (name.isBlank() || name.length() > LONGEST_NAME) {
      throw invalid("give the rule a name of up to " + LONGEST_NAME + " characters");
    }
    checkCondition(now);
    return this;
  }

  /**
   * Looks over the condition alone.
   *
   * @throws CellarException {@code INVALID_VALUE}, with what is wrong
   */
  public void checkCondition(Instant now) {
    if (filter.isBlank() && pattern.isEmpty()) {
      throw invalid("write a filter or a pattern: a rule without both would explain everything");
    }
    Criterion unusedFilter = criterion(filter, now);
    if (!pattern.isEmpty()) {
      RulePattern unusedPattern = RulePattern.of(pattern);
    }
  }

  /** What a filter of a rule asks at that time. */
  public static Criterion criterion(String filter, Instant now) {
    return Resolver.read(filter, Thing.RESULT, now);
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
