package org.vinecellar.core.formats;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Takes what a reader finds, in the order of the file. Called by one thread. */
public interface CaseHandler {
  /** The format of the file; called first. */
  void onFormat(String format);

  /**
   * What one case says, before cases of the same test are joined.
   *
   * @param repeat what it is should its test have been told of before
   */
  void onCase(TestResult result, Repeat repeat);

  /** The same, when its file does not say. */
  default void onCase(TestResult result) {
    onCase(result, Repeat.UNTOLD);
  }

  /** What the header of a suite counts, told at its end, against what was found in it. */
  default void onHeader(SuiteHeader header) {}

  /**
   * The file itself says that something failed: held against what was read of it.
   *
   * @param says in which words
   */
  default void onFailed(String says) {}

  /** A property of the file as a whole, such as the version of the runtime. */
  void onProperty(String name, String value);

  /**
   * Something in the file that does not add up but did not stop the reading.
   *
   * @param problem a sentence for a person, with the place in the file where it is known
   */
  void onProblem(String problem);

  /**
   * The file ends before the test run did. What came before is kept.
   *
   * @param how a sentence for a person: how that shows
   */
  void onBrokenOff(String how);

  /**
   * A test has begun; its result comes later. Only formats that are written while tests run tell
   * this.
   *
   * @param time null when not told
   */
  default void onStart(TestId test, @Nullable Instant time) {}

  /** Something that was told to have begun has ended, and was no test of its own. */
  default void onEnd(TestId test) {}
}
