package org.vinecellar.core.trust.ranks;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.runs.KeptTest;

/**
 * Tests by their figures: those of the latest sixty runs of each stream, as they were last counted;
 * that is not after every run of a large stream. Everything is of one project.
 */
public interface RankStore {
  /** Those that rank first first. */
  List<Ranked> ranked(int projectId, Question question);

  /**
   * What is asked for.
   *
   * @param streams by their names; null for all
   * @param filter of tests
   * @param today in UTC
   * @param after how many were seen
   */
  record Question(
      Rank by,
      @Nullable List<String> streams,
      Criterion filter,
      LocalDate today,
      int after,
      int limit) {
    /** Copies the list. */
    public Question {
      streams = streams == null ? null : List.copyOf(streams);
    }

    /** Of one stream by its name, or of all. */
    public static @Nullable List<String> only(@Nullable String stream) {
      return stream == null ? null : List.of(stream);
    }
  }

  /**
   * A test in a stream.
   *
   * @param ran in how many of the latest runs it passed or failed
   * @param failed in how many of them it failed in the end
   * @param alone in how many of the runs it failed and nothing else did
   * @param retriedMillis what its tries in all of them took beside the last one of each
   * @param weekly how often a week it runs
   * @param millis how long it takes now; null when not known
   * @param before how long it took before it became slower; null when it did not
   * @param slowerSince the number of the run since when; null when it did not
   * @param last the number of the run that had it last
   * @param missing how many of the latest runs have not had it
   * @param first the number of the first run that had it; null when that one is gone
   * @param quarantined the last day on which it is in quarantine there; null when it is not
   */
  record Ranked(
      KeptTest test,
      String stream,
      int ran,
      int failed,
      int alone,
      double retriedMillis,
      double weekly,
      @Nullable Double millis,
      @Nullable Double before,
      @Nullable Integer slowerSince,
      int last,
      Instant lastAt,
      int missing,
      @Nullable Integer first,
      @Nullable LocalDate quarantined) {
    /** What its being slower costs, in milliseconds a week; 0 when it is not. */
    public double weeklyCost() {
      return millis == null || before == null ? 0 : (millis - before) * weekly;
    }
  }

  /** Streams of which all tests together became slower, by the name of the stream. */
  List<SlowStream> slowStreams(int projectId);

  /**
   * A stream that became slower as a whole.
   *
   * @param since the number of the run since when
   * @param factor by which
   */
  record SlowStream(String stream, int since, double factor) {}

  /**
   * Suites of which the tests together became slower, those that cost most time a week first. One
   * that did by a single test is not among them: that test is told.
   *
   * @param stream by its name; null for all
   */
  List<SlowSuite> slowSuites(int projectId, @Nullable String stream, int limit);

  /**
   * A suite that became slower in a stream.
   *
   * @param suite from the outermost in
   * @param tests how many stand in it by themselves
   * @param millis how long they take together, and took before
   * @param since the number of the run since when
   * @param weekly how often a week it runs
   */
  record SlowSuite(
      String stream,
      List<String> suite,
      int tests,
      double millis,
      double before,
      int since,
      double weekly) {
    /** What that costs, in milliseconds a week. */
    public double weeklyCost() {
      return (millis - before) * weekly;
    }
  }

  /**
   * What is to be split over parts: the tests that a stream has now, by their innermost suites.
   *
   * @param stream by its name
   * @return empty also when there is no such stream
   */
  List<Load> loads(int projectId, String stream);

  /**
   * A suite with what it has to do.
   *
   * @param millis all its tests together
   * @param tests how many they are
   */
  record Load(String suite, double millis, int tests) {}

  /** How long the parts of the latest run took, by their names; empty when there is none. */
  List<Load> partsNow(int projectId, String stream);
}
