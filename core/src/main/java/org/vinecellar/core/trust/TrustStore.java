package org.vinecellar.core.trust;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.history.PastResult;
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
   * Tests that are taken for something, the most certain first.
   *
   * @param stream by its name; null for all
   * @param after how many were seen
   */
  List<InStream> taken(
      int projectId, Verdict verdict, @Nullable String stream, int after, int limit);

  /**
   * A test in a stream.
   *
   * @param since the number of the run with the first failure of those that still count
   * @param cleanRuns how many more runs without a failure it takes until it is taken for something
   *     else; 0 when that is not known
   */
  record InStream(
      KeptTest test, String stream, Estimate estimate, @Nullable Integer since, int cleanRuns) {}

  /**
   * All that is known of a test but for its results.
   *
   * @param file its source file, as told last; null when not told
   * @param names it and what it was called before, the latest first
   * @param becomes the number of the test as which it goes on; null when it does not
   * @param streams that have had it, those with the latest run first
   */
  record TestDetail(
      KeptTest test,
      @Nullable String file,
      List<String> tags,
      List<Renamed> names,
      @Nullable Long becomes,
      List<InStream> streams) {}

  /** Empty when there is no such test. */
  Optional<TestDetail> test(int projectId, long test);

  /**
   * What a test did in the latest runs of a stream that had it, under whatever name, the latest
   * first.
   *
   * @param stream by its name
   * @param branch null for all
   */
  List<PastResult> history(
      int projectId, long test, String stream, @Nullable String branch, int limit);

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
   * The tests of a stream that are called so, one for each variant; those that go on under another
   * name are told under that.
   *
   * @param test the innermost suite's name, a hash and the test's name with its parameters
   */
  List<TestLine> named(int projectId, String stream, String test);

  /**
   * A test of a stream and what is believed of it.
   *
   * @param since the number of the run with the first failure of those that still count; null when
   *     none does
   */
  record TestLine(KeptTest test, Estimate estimate, @Nullable Integer since) {}
}
