package org.vinecellar.core.results;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What one test did in one run.
 *
 * @param durationMicros of all attempts together, in microseconds, or {@link #NO_DURATION}
 * @param started null when the file tells no time
 * @param attempts at least one, in order; the last is the one that stands unless the outcome is
 *     worse
 * @param properties what the format told beyond our model
 * @param tags words on the test, in the order of the file, without a mark before them; with the
 *     {@link AuthorId} that the properties tell
 * @param file source file of the test; null when not told
 * @param line line in it, from 1; 0 when not told
 */
public record TestResult(
    TestId test,
    ResultKind kind,
    Outcome outcome,
    long durationMicros,
    @Nullable Instant started,
    List<Attempt> attempts,
    Map<String, String> properties,
    List<String> tags,
    @Nullable String file,
    int line) {

  /** Stands for a duration that the file does not tell. */
  public static final long NO_DURATION = -1;

  /** Checks nulls and copies the collections. */
  public TestResult {
    Objects.requireNonNull(test);
    Objects.requireNonNull(kind);
    Objects.requireNonNull(outcome);
    attempts = List.copyOf(attempts);
    properties = Map.copyOf(properties);
    tags = AuthorId.tags(tags, properties);
    if (attempts.isEmpty()) {
      throw new IllegalArgumentException("a result has at least one attempt");
    }
  }

  /** What the attempts add up to: the last one's outcome, the time of all. */
  public static TestResult of(
      TestId test,
      ResultKind kind,
      List<Attempt> attempts,
      @Nullable Instant started,
      Map<String, String> properties,
      @Nullable String file,
      int line) {
    long duration = NO_DURATION;
    for (Attempt attempt : attempts) {
      duration = plus(duration, attempt.durationMicros());
    }
    Outcome outcome = attempts.get(attempts.size() - 1).outcome();
    return new TestResult(
        test, kind, outcome, duration, started, attempts, properties, List.of(), file, line);
  }

  /** The same result with these tags. */
  public TestResult tagged(List<String> words) {
    return new TestResult(
        test, kind, outcome, durationMicros, started, attempts, properties, words, file, line);
  }

  /** The same result with these tries, which come to the same. */
  public TestResult with(List<Attempt> tries) {
    return new TestResult(
        test, kind, outcome, durationMicros, started, tries, properties, tags, file, line);
  }

  /** The same result, of another test. */
  public TestResult ofTest(TestId other) {
    return new TestResult(
        other, kind, outcome, durationMicros, started, attempts, properties, tags, file, line);
  }

  /** A sum of durations in which unknown ones do not count. */
  public static long plus(long a, long b) {
    return a == NO_DURATION ? b : b == NO_DURATION ? a : a + b;
  }
}
