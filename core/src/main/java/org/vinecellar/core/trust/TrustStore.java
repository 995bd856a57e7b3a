package org.vinecellar.core.trust;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.renames.Reason;

/** What is known of tests by what they did before. Everything is of one project. */
public interface TrustStore {
  /**
   * The tests of a stream, by their numbers.
   *
   * @param stream by its name
   * @param after the number of the last one that was seen; 0 for the beginning
   * @return empty also when there is no such stream
   */
  List<TestLine> tests(int projectId, String stream, long after, int limit);

  /**
   * Tests of a stream that go on under other names, by the numbers of the runs that had those
   * first. Those that a person kept apart are not among them.
   *
   * @param stream by its name
   * @return empty also when there is no such stream
   */
  List<Renamed> renames(int projectId, String stream);

  /**
   * A test that goes on under another name.
   *
   * @param joined whether what is known of it goes on; else somebody is asked
   * @param byHand whether a person said so
   * @param run the number of the first run that has the new name; null when a person joined them
   */
  record Renamed(
      KeptTest old,
      KeptTest now,
      boolean joined,
      boolean byHand,
      double likely,
      List<Reason> reasons,
      @Nullable Integer run) {}

  /**
   * A test of a stream and what is believed of it.
   *
   * @param since the number of the run with the first failure of those that still count; null when
   *     none does
   */
  record TestLine(KeptTest test, Estimate estimate, @Nullable Integer since) {}
}
