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
 * @param steps it took, in order; empty when the format has none
 * @param logs lines it logged outside any step
 * @param attachments what it left behind, in its steps or beside them
 */
public record Attempt(
    Outcome outcome,
    long durationMicros,
    List<Failure> failures,
    @Nullable String stdout,
    @Nullable String stderr,
    List<Step> steps,
    List<LogLine> logs,
    List<Attachment> attachments) {

  /** Checks nulls and copies the lists. */
  public Attempt {
    Objects.requireNonNull(outcome);
    failures = List.copyOf(failures);
    steps = List.copyOf(steps);
    logs = List.copyOf(logs);
    attachments = List.copyOf(attachments);
  }

  /** A try of which a format tells neither steps nor logs nor attachments. */
  public Attempt(
      Outcome outcome,
      long durationMicros,
      List<Failure> failures,
      @Nullable String stdout,
      @Nullable String stderr) {
    this(outcome, durationMicros, failures, stdout, stderr, List.of(), List.of(), List.of());
  }

  /** The same try with these attachments. */
  public Attempt with(List<Attachment> others) {
    return new Attempt(outcome, durationMicros, failures, stdout, stderr, steps, logs, others);
  }

  /** About how much text it holds. */
  public long textChars() {
    long chars = length(stdout) + length(stderr);
    for (Failure failure : failures) {
      chars += length(failure.message()) + length(failure.trace());
    }
    return chars;
  }

  private static int length(@Nullable String text) {
    return text == null ? 0 : text.length();
  }

  /** Whether one of them failed. */
  public static boolean anyFailed(List<Attempt> attempts) {
    for (int i = 0; i < attempts.size(); i++) {
      if (attempts.get(i).outcome.isFailing()) {
        return true;
      }
    }
    return false;
  }

  /** Whether there is anything to show beyond outcome and duration. */
  public boolean hasDetail() {
    return !failures.isEmpty()
        || stdout != null
        || stderr != null
        || !steps.isEmpty()
        || !logs.isEmpty()
        || !attachments.isEmpty();
  }

  /** The first line of the first failure; null when there is none. */
  public @Nullable String firstLine() {
    return failures.isEmpty() ? null : failures.get(0).firstLine();
  }
}
