package org.vinecellar.core.reports;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.filters.Criterion;

/** What reports are made of. Most of it is counted from results, which takes its time. */
public interface ReportFacts {
  /**
   * What tests did.
   *
   * @return those with most failing results first, then those that took longest
   */
  List<TestTold> tests(int projectId, Criterion runs, Period period, int limit);

  /**
   * What results threw: types of failures of any of their tries.
   *
   * @param tests of which tests it is told, apart; null for all of them together
   * @return those that most results threw first
   */
  List<TypeTold> types(
      int projectId, Criterion runs, Period period, @Nullable List<Long> tests, int limit);

  /** Failing results of which no try has a type. */
  long untyped(int projectId, Criterion runs, Period period);

  /** What people did in a period; those who explained most first. */
  List<PersonTold> people(int projectId, Period period, int limit);
}
