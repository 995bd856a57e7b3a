package org.vinecellar.core.ingest;

import java.util.List;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Takes the results of one upload, in order. Called by one thread. */
public interface ResultSink {
  /**
   * A test that this upload had not named before.
   *
   * @param ordinal its place in the upload, from 0 without gaps
   */
  void first(int ordinal, TestResult result);

  /** More about a result that was handed on before. */
  void again(Again again);

  /**
   * Further attempts of a test, or a new judgement of those there were.
   *
   * @param ordinal the place under which its result was handed on
   * @param firstAttempt the number that the first of the new attempts has, from 0
   * @param attempts may be empty
   * @param standing the outcome that counts from now on
   * @param durationMicros of the new attempts together, or {@link TestResult#NO_DURATION}
   */
  record Again(
      int ordinal,
      TestId test,
      int firstAttempt,
      List<Attempt> attempts,
      Outcome standing,
      long durationMicros) {
    /** Copies the list. */
    public Again {
      attempts = List.copyOf(attempts);
    }
  }
}
