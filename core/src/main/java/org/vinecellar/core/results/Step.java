package org.vinecellar.core.results;

import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * One step of a try of a test, as its author wrote it or its code named it.
 *
 * @param keyword what stands before the text, such as {@code Given}, or the kind of a hook, such as
 *     {@code Before}; null when there is none
 * @param text of the step; empty for a hook without a name
 * @param outcome {@code skipped} when a step before it kept it from running
 * @param status the framework's own word where it says more than the outcome, such as {@code
 *     undefined}; null elsewhere
 * @param durationMicros microseconds, or {@link TestResult#NO_DURATION}
 * @param failure what went wrong in it; null when nothing did, or when the test tells it
 * @param argument a longer text handed to the step; null when there is none
 * @param table rows of cells handed to the step, the heading first; empty when there is none
 * @param logs lines it logged, in order
 * @param attachments places of what it attached, in the list of its attempt
 * @param steps inside this one
 */
public record Step(
    @Nullable String keyword,
    String text,
    Outcome outcome,
    @Nullable String status,
    long durationMicros,
    @Nullable Failure failure,
    @Nullable String argument,
    List<List<String>> table,
    List<LogLine> logs,
    List<Integer> attachments,
    List<Step> steps) {
  /** Checks nulls and copies the lists. */
  public Step {
    Objects.requireNonNull(text);
    Objects.requireNonNull(outcome);
    table = table.stream().map(List::copyOf).toList();
    logs = List.copyOf(logs);
    attachments = List.copyOf(attachments);
    steps = List.copyOf(steps);
  }

  /** A step of which no more is told. */
  public static Step of(String text, Outcome outcome, long durationMicros, List<Step> steps) {
    return new Step(
        null,
        text,
        outcome,
        null,
        durationMicros,
        null,
        null,
        List.of(),
        List.of(),
        List.of(),
        steps);
  }

  /** The keyword, if any, and the text. */
  public String displayText() {
    return keyword == null ? text : text.isEmpty() ? keyword : keyword + " " + text;
  }
}
