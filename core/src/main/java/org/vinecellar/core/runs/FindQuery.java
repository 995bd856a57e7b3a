package org.vinecellar.core.runs;

import java.util.Objects;
import java.util.Optional;
import org.vinecellar.core.filters.Criterion;

/**
 * A page of results over all runs: those of the newest run first, in a run the failing ones first.
 *
 * @param filter of results
 * @param after where the page before ended; empty for the first
 * @param limit at most that many
 */
public record FindQuery(Criterion filter, Optional<FindCursor> after, int limit) {
  /** Checks nulls. */
  public FindQuery {
    Objects.requireNonNull(filter);
    Objects.requireNonNull(after);
  }
}
