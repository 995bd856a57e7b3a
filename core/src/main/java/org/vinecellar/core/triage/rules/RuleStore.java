package org.vinecellar.core.triage.rules;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;

/**
 * Keeps the rules of a project, in their order: of several that a failure fits, the first explains
 * it. Rules explain what nobody else did, and never a group that came back after it was mended.
 */
public interface RuleStore {
  /** So many a project can have. */
  int MOST = 100;

  /** So many of the latest runs with failures a rule can be tried on, or applied to. */
  int MOST_RUNS = 100;

  /** All of them. A project that never had any gets those to start with. */
  List<Rule> rules(int projectId, Hand hand);

  /**
   * Keeps a new one, after all others.
   *
   * @param runs to so many of the latest runs it is applied at once, in the background; 0 for none
   * @throws org.vinecellar.core.problem.CellarException {@code INVALID_VALUE} when it cannot be
   *     kept or there is no such category, {@code TOO_LARGE} when there are too many
   */
  Rule add(int projectId, RuleDraft draft, int runs, Hand hand);

  /**
   * Changes one. What it has explained stays as it was said.
   *
   * @param version that was seen
   * @param runs as in {@link #add}
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}, {@code INVALID_VALUE},
   *     {@code EDITED_MEANWHILE} when that is not its version any more
   */
  Rule change(int projectId, long id, int version, RuleDraft draft, int runs, Hand hand);

  /**
   * Removes one. What it has explained stays as it was said.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}
   */
  void remove(int projectId, long id, Hand hand);

  /**
   * Switches one off and takes back all that it has explained, in the background.
   *
   * @return results that lose their explanation by it
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}
   */
  int takeBack(int projectId, long id, Hand hand);

  /**
   * Puts them into another order.
   *
   * @param ids of all of them
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE} when these are not
   *     all that there are
   */
  void order(int projectId, List<Long> ids, Hand hand);

  /**
   * What a rule would do.
   *
   * @param rule that it would replace; null for a new one
   * @param runs on so many of the latest that have failures
   * @throws org.vinecellar.core.problem.CellarException {@code INVALID_VALUE} when its condition
   *     cannot be read
   */
  RuleTrial trial(int projectId, RuleDraft draft, @Nullable Long rule, int runs, Hand hand);
}
