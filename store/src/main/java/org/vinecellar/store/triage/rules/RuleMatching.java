package org.vinecellar.store.triage.rules;

import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.TEST;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.triage.rules.RuleDraft;
import org.vinecellar.core.triage.rules.RulePattern;
import org.vinecellar.core.triage.rules.RulePatterns;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.PossibleOutcomes;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.FailingResults;

/**
 * Finds the first of some rules that each failure of a run fits. Neither a filter that looks too
 * far nor many patterns on long texts keep it for ever: it says what it left.
 */
final class RuleMatching {
  /** So long one filter may look through one run. */
  private static final Duration PATIENCE = Duration.ofSeconds(3);

  private final DSLContext dsl;
  private final int projectId;
  private final Instant now;
  private final List<RuleDraft> rules;
  private final Map<Integer, String> troubles = new HashMap<>();
  private final RulePatterns patterns;
  private final long until;
  private int left;

  /** Whether a rule may explain what is at a place. */
  @FunctionalInterface
  interface Allowed {
    boolean is(int place, int rule);
  }

  /**
   * @param rules in their order
   * @param patience for all that is asked of it
   */
  RuleMatching(
      DSLContext dsl, int projectId, List<RuleDraft> rules, Instant now, Duration patience) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.now = now;
    this.rules = List.copyOf(rules);
    this.until = System.nanoTime() + patience.toNanos();
    List<@Nullable RulePattern> all = new ArrayList<>();
    for (int i = 0; i < rules.size(); i++) {
      all.add(pattern(i));
    }
    this.patterns = new RulePatterns(all);
  }

  private @Nullable RulePattern pattern(int rule) {
    try {
      String text = rules.get(rule).pattern();
      return text.isEmpty() ? null : RulePattern.of(text);
    } catch (CellarException e) {
      troubles.put(rule, e.text());
      return null;
    }
  }

  /** Why some rules could not be asked, by their positions. */
  Map<Integer, String> troubles() {
    return troubles;
  }

  /** Failures that there was no time for. */
  int left() {
    return left;
  }

  /** The first rule for each place that fits one. */
  Map<Integer, Integer> first(long runId, Collection<Integer> places, Allowed allowed) {
    List<@Nullable Set<Integer>> filtered = new ArrayList<>();
    for (int i = 0; i < rules.size(); i++) {
      filtered.add(filtered(i, runId, places));
    }
    Map<Integer, Integer> found = new HashMap<>();
    Set<Integer> toRead = new HashSet<>();
    for (int place : places) {
      Integer rule = next(place, -1, filtered, allowed);
      if (rule != null && !patterns.has(rule)) {
        found.put(place, rule);
      } else if (rule != null) {
        toRead.add(place);
      }
    }
    if (!toRead.isEmpty()) {
      new FailingResults(dsl, projectId, runId)
          .at(
              toRead,
              some -> {
                for (FailingResults.One one : some) {
                  Integer rule = inText(one.place(), one.failures(), filtered, allowed);
                  if (rule != null) {
                    found.put(one.place(), rule);
                  }
                }
              });
    }
    return found;
  }

  private @Nullable Integer inText(
      int place, List<Failure> failures, List<@Nullable Set<Integer>> filtered, Allowed allowed) {
    if (System.nanoTime() > until) {
      left++;
      return null;
    }
    String text = failures.isEmpty() ? "" : RulePattern.text(failures.get(0));
    BitSet worth = patterns.worthTrying(text);
    Integer rule = next(place, -1, filtered, allowed);
    while (rule != null) {
      if (worth.get(rule) && patterns.isIn(rule, text)) {
        return rule;
      }
      rule = next(place, rule, filtered, allowed);
    }
    return null;
  }

  /** The first rule after one whose filter lets the place through. */
  private @Nullable Integer next(
      int place, int after, List<@Nullable Set<Integer>> filtered, Allowed allowed) {
    for (int i = after + 1; i < rules.size(); i++) {
      Set<Integer> some = filtered.get(i);
      if (!troubles.containsKey(i)
          && (some == null || some.contains(place))
          && allowed.is(place, i)) {
        return i;
      }
    }
    return null;
  }

  /** What the filter of a rule lets through; null for all. */
  private @Nullable Set<Integer> filtered(int rule, long runId, Collection<Integer> places) {
    String filter = rules.get(rule).filter();
    if (filter.isBlank() || troubles.containsKey(rule)) {
      return null;
    }
    try {
      Criterion criterion = RuleDraft.criterion(filter, now);
      return System.nanoTime() > until ? late(rule) : asked(criterion, runId, places);
    } catch (CellarException e) {
      troubles.put(rule, e.text());
    } catch (DataAccessException e) {
      CellarException known = Sql.translated(e);
      if (Sql.isTimeLimit(e)) {
        troubles.put(rule, "its filter looks too far: " + known.text());
      } else {
        throw e;
      }
    }
    return Set.of();
  }

  private Set<Integer> late(int rule) {
    troubles.put(rule, "there was no time left to ask it");
    return Set.of();
  }

  /** In a savepoint: a filter that takes too long ends nothing else. */
  private Set<Integer> asked(Criterion criterion, long runId, Collection<Integer> places) {
    Set<Outcome> outcomes = PossibleOutcomes.of(criterion).failing(true);
    if (outcomes.isEmpty()) {
      return Set.of();
    }
    return dsl.transactionResult(
        tx -> {
          tx.dsl().execute("set local statement_timeout = " + PATIENCE.toMillis());
          Set<Integer> some =
              tx.dsl()
                  .select(RESULT.PLACE)
                  .from(RESULT)
                  .join(TEST)
                  .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
                  .where(
                      RESULT.RUN_ID.eq(runId),
                      RESULT.SUPERSEDED.isFalse(),
                      PossibleOutcomes.condition(RESULT, outcomes),
                      RESULT.PLACE.eq(org.jooq.impl.DSL.any(Ids.of(places))),
                      Conditions.ofResults(projectId, runId, criterion))
                  .fetchSet(RESULT.PLACE);
          tx.dsl().execute("set local statement_timeout to default");
          return some;
        });
  }
}
