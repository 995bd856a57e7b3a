package org.vinecellar.core.trust;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;

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
   * A test of a stream and what is believed of it.
   *
   * @param since the number of the run with the first failure of those that still count; null when
   *     none does
   */
  record TestLine(KeptTest test, Estimate estimate, @Nullable Integer since) {}
}
