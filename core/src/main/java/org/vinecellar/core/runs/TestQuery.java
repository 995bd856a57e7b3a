package org.vinecellar.core.runs;

import java.util.Objects;
import org.vinecellar.core.filters.Criterion;

/**
 * A page of tests, by number: those that came first come first.
 *
 * @param filter of tests
 * @param after only tests with a larger number; 0 for the first page
 * @param limit at most that many
 */
public record TestQuery(Criterion filter, long after, int limit) {
  /** Checks nulls. */
  public TestQuery {
    Objects.requireNonNull(filter);
  }
}
