package org.vinecellar.core.boards;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;

/** What is known of failures, for boards. */
public interface FailureFacts {
  /**
   * Tests that are taken for flaky in a stream that has such a run, the most certain first.
   *
   * @param runs in which it is looked what they did
   */
  List<FlakyTest> flaky(int projectId, Criterion runs, Period period, int limit);

  /** Failure groups of some runs, those with most results first. */
  List<GroupReach> groups(int projectId, Criterion runs, Period period, int limit);

  /** Tickets of failure groups of some runs, those with most results first. */
  List<TicketReach> tickets(int projectId, Criterion runs, Period period, int limit);

  /**
   * Failure groups that were found in a period, by when.
   *
   * @param runs of which they have one, whenever
   * @param step null for the whole period as one
   * @return in no order; steps without a group are not among them
   */
  List<ExplainedCell> explaining(int projectId, Criterion runs, Period period, @Nullable Step step);

  /**
   * How long it took until tests that had begun to fail passed again, by when they did.
   *
   * @param step null for the whole period as one
   * @return in no order; steps without such a test are not among them
   */
  List<MendedCell> mended(int projectId, Criterion runs, Period period, @Nullable Step step);

  /** Who explained groups in a period, or has some to explain; those who explained most first. */
  List<PersonCell> people(int projectId, Period period, int limit);
}
