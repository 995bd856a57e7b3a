package org.vinecellar.core.results;

import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * One try of a test in a run.
 *
 * @param durationMicros microseconds, or {@link TestResult#NO_DURATION}
 * @param failures what went wrong, in the order of the file; for a skip, its reason
 * @param stdout what it printed; null when nothing was recorded
 * @param stderr what it printed to standard error; null when nothing was recorded
 */
public record Attempt(
    Outcome outcome,
    long durationMicros,
    List<Failure> failures,
    @Nullable String stdout,
    @Nullable String stderr) {

  /** Checks nulls and copies the list. */
  public Attempt {
    Objects.requireNonNull(outcome);
    failures = List.copyOf(failures);
  }

  /** Whether there is anything to show beyond outcome and duration. */
  public boolean hasDetail() {
    return !failures.isEmpty() || stdout != null || stderr != null;
  }

  /** The first line of the first failure; null when there is none. */
  public @Nullable String firstLine() {
    return failures.isEmpty() ? null : failures.get(0).firstLine();
  }
}
