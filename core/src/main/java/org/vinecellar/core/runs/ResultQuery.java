package org.vinecellar.core.runs;

import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.results.Outcome;

/**
 * Which results of a run are asked for. They come failing first, then in execution order.
 *
 * @param outcomes empty for all
 * @param change null for any
 * @param text part of name, suite or first line, whatever the case; null for any
 * @param suiteId only results directly in that suite; null for any
 * @param after where the page before ended; empty for the first
 * @param limit at most that many
 */
public record ResultQuery(
    Set<Outcome> outcomes,
    @Nullable Change change,
    @Nullable String text,
    @Nullable Long suiteId,
    Optional<ResultCursor> after,
    int limit) {
  /** Copies the set. */
  public ResultQuery {
    outcomes = Set.copyOf(outcomes);
  }

  /** Every result, from the first. */
  public static ResultQuery first(int limit) {
    return new ResultQuery(Set.of(), null, null, null, Optional.empty(), limit);
  }
}
