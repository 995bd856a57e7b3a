package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;

/**
 * Sums for boards. All of them come from what is kept up to date with each run, not from results.
 */
public interface BoardFacts {
  /** So many dimensions at most. */
  int MOST_DIMENSIONS = 3;

  /** More cells than these tell nobody anything. */
  int MOST_CELLS = 20_000;

  /**
   * Runs of a period, taken together.
   *
   * @param runs which of them
   * @param step null for the whole period as one; such cells are at its beginning
   * @param dimensions up to three
   * @return in no order; those without a run are not among them
   * @throws org.vinecellar.core.problem.CellarException when they are more than can be told
   */
  List<RunCell> cells(
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions);

  /**
   * How long the tests of a run took, of runs of a period taken together.
   *
   * @param step null for the whole period as one; such cells are at its beginning
   * @param dimensions up to three
   * @return in no order; those without a run are not among them
   * @throws org.vinecellar.core.problem.CellarException when they are more than can be told
   */
  List<LengthCell> lengths(
      int projectId,
      Criterion runs,
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions);

  /**
   * Tests that failed most often in a period.
   *
   * @return those with most failing results first, at most {@code limit}
   */
  List<TestFailures> failing(int projectId, Criterion runs, Period period, int limit);

  /**
   * Tests that runs of a period had no more where the run before each had them: once for each step,
   * in however many runs.
   *
   * @return by when the step begins; steps without one are not among them
   */
  Map<Instant, Long> gone(int projectId, Criterion runs, Period period, Step step);

  /**
   * Failing results of a period by what explains them.
   *
   * @return in no order; those without a result are not among them
   */
  List<CauseCell> causes(int projectId, Criterion runs, Period period, Step step);
}
