package org.vinecellar.core.runs;

import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;

/**
 * A page of results of a run. They come failing first, then in execution order.
 *
 * @param filter of results
 * @param suiteId only results directly in that suite, or {@link #NO_SUITE}; null for any
 * @param after where the page before ended; empty for the first
 * @param limit at most that many
 */
public record ResultQuery(
    Criterion filter, @Nullable Long suiteId, Optional<ResultCursor> after, int limit) {
  /** In place of a suite: results that stand in none. */
  public static final long NO_SUITE = 0;

  /** Checks nulls. */
  public ResultQuery {
    Objects.requireNonNull(filter);
  }

  /** Every result, from the first. */
  public static ResultQuery first(int limit) {
    return new ResultQuery(Criterion.EVERYTHING, null, Optional.empty(), limit);
  }
}
