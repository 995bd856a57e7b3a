package org.vinecellar.core.formats.cucumber;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;

/** What steps came to in Cucumber's words, and what a scenario comes to by its steps. */
enum StepStatus {
  PASSED(Outcome.PASSED),
  FAILED(Outcome.FAILED),
  /** A step before it went wrong, or it asked to be left out. */
  SKIPPED(Outcome.SKIPPED),
  /** Its code says that it is not written yet. */
  PENDING(Outcome.SKIPPED),
  /** No code matches it. */
  UNDEFINED(Outcome.ERRORED),
  /** More than one piece of code matches it. */
  AMBIGUOUS(Outcome.ERRORED),
  UNKNOWN(Outcome.SKIPPED);

  private final Outcome outcome;

  StepStatus(Outcome outcome) {
    this.outcome = outcome;
  }

  static StepStatus of(String word) {
    return switch (word.toLowerCase(Locale.ROOT)) {
      case "passed" -> PASSED;
      case "failed", "error" -> FAILED;
      case "skipped", "untested" -> SKIPPED;
      case "pending" -> PENDING;
      case "undefined" -> UNDEFINED;
      case "ambiguous" -> AMBIGUOUS;
      default -> UNKNOWN;
    };
  }

  /** The outcome of such a step that told this failure. */
  Outcome outcome(@Nullable Failure failure) {
    return this == FAILED && failure != null
        ? FailureKind.of(
            failure.type(), failure.message() == null ? failure.trace() : failure.message())
        : outcome;
  }

  /** The word, where the outcome alone would not tell it. */
  @Nullable String told() {
    return this == PENDING || this == UNDEFINED || this == AMBIGUOUS
        ? name().toLowerCase(Locale.ROOT)
        : null;
  }

  /** What a step without a failure of its own is to say about itself. */
  @Nullable Failure explained(String step) {
    return switch (this) {
      case UNDEFINED -> new Failure("undefined", "no code matches the step “" + step + "”", null);
      case AMBIGUOUS ->
          new Failure("ambiguous", "several pieces of code match the step “" + step + "”", null);
      case PENDING -> new Failure("pending", "the step “" + step + "” is not written yet", null);
      case PASSED, FAILED, SKIPPED, UNKNOWN -> null;
    };
  }

  /**
   * What steps come to together: the first that went wrong decides; a pending or skipped one makes
   * it skipped.
   */
  static Outcome together(List<Step> steps) {
    Outcome all = Outcome.PASSED;
    for (Step step : steps) {
      if (step.outcome().isFailing()) {
        return step.outcome();
      }
      all = all.worse(step.outcome());
    }
    return all;
  }

  /** The failures of steps, in order; of a skipped scenario, why it was. */
  static List<Failure> failures(List<Step> steps) {
    return steps.stream().map(Step::failure).filter(failure -> failure != null).toList();
  }
}
