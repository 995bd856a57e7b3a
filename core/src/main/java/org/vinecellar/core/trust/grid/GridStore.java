package org.vinecellar.core.trust.grid;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;

/** Tests by runs. Everything is of one project. */
public interface GridStore {
  /** Empty when there is no such stream, or no such run in it. */
  Optional<Grid> grid(int projectId, Question question);

  /**
   * What is asked for.
   *
   * @param stream by its name
   * @param filter of tests
   * @param run the number of a run of which only failing tests are told, and no later runs; null
   *     for all tests and the latest runs
   * @param branch null for all
   * @param runs so many at most, the latest
   * @param tests so many at most
   */
  record Question(
      String stream,
      Criterion filter,
      @Nullable Integer run,
      @Nullable String branch,
      int runs,
      int tests) {}
}
