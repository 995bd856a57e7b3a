package org.vinecellar.core.trust;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.history.Moment;
import org.vinecellar.core.trust.history.OrderClue;
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

  /** Tests that are taken for something. */
  List<InStream> taken(int projectId, Question question);

  /**
   * Which tests are asked for.
   *
   * @param stream by its name; null for all
   * @param free only those that are in no quarantine
   * @param order in which they are told
   * @param today in UTC
   * @param after how many were seen
   */
  record Question(
      Verdict verdict,
      @Nullable String stream,
      boolean free,
      Order order,
      LocalDate today,
      int after,
      int limit) {}

  /** In which order tests are told. */
  enum Order {
    /** The most certain first. */
    CERTAIN,
    /** Those first that failed by themselves in most runs. */
    OFTEN,
    /** Those first that were taken for it last. */
    LATEST
  }

  /**
   * A test in a stream.
   *
   * @param since the number of the run with the first failure of those that still count
   * @param cleanRuns how many more runs without a failure it takes until it is taken for something
   *     else; 0 when that is not known
   * @param quarantined the last day on which it is in quarantine there; null when it is not
   */
  record InStream(
      KeptTest test,
      String stream,
      Estimate estimate,
      @Nullable Integer since,
      int cleanRuns,
      @Nullable LocalDate quarantined) {}

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

  /**
   * A test.
   *
   * @param today in UTC
   * @return empty when there is no such test
   */
  Optional<TestDetail> test(int projectId, long test, LocalDate today);

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
   * The test that usually ran before a test, or did not, when it failed, in the same part of its
   * runs.
   *
   * @param results of that test, as {@link #history} tells them
   * @return empty when none is known; also where tests always run in the same order
   */
  Optional<RanBefore> ranBefore(int projectId, List<PastResult> results);

  /**
   * Another test that a test depends on.
   *
   * @param clue how that is seen
   */
  record RanBefore(KeptTest other, OrderClue clue) {}

  /**
   * What happened to a test in a stream, and what people said of it there and elsewhere, under
   * whatever name; the latest first.
   *
   * @param stream by its name
   * @param now what is to end later has not ended
   */
  List<Moment> moments(int projectId, long test, String stream, Instant now, int limit);

  /**
   * Tests of a stream that go on under other names, by the numbers of the runs that had those
   * first. Those that a person kept apart are not among them.
   *
   * @param stream by its name
   * @return empty also when there is no such stream
   */
  List<Renamed> renames(int projectId, String stream);

  /**
   * Says of two tests of a stream that they are one under two names, or that they are not. What is
   * known of them is learned anew.
   *
   * @param old the number of the test that goes on
   * @param now the number of the test as which it does
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when the stream has no
   *     such tests, {@code INVALID_VALUE} when a test would go on as itself
   */
  void say(int projectId, String stream, long old, long now, boolean joined, Hand hand);

  /**
   * A test that goes on under another name.
   *
   * @param joined whether what is known of it goes on; else somebody is asked, or has said that it
   *     does not
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
