package org.vinecellar.core.results;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * What a test, or one attempt of it, came to. The order is the order of badness from the best; the
 * codes are stored and never change.
 */
public enum Outcome {
  /** Every expectation held. */
  PASSED(0),
  /** The test was left out on purpose. */
  SKIPPED(3),
  /** Its set-up failed, or the run broke off before it. */
  NOT_REACHED(4),
  /** An expectation did not hold. */
  FAILED(1),
  /** Anything else went wrong. */
  ERRORED(2);

  private final int code;

  Outcome(int code) {
    this.code = code;
  }

  /** The stored number. */
  public int code() {
    return code;
  }

  /** The word in the API and on screen, e.g. {@code not reached}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  /** Whether somebody has to look at it: failed or errored. */
  public boolean isFailing() {
    return this == FAILED || this == ERRORED;
  }

  /** The worse of two. */
  public Outcome worse(Outcome other) {
    return compareTo(other) >= 0 ? this : other;
  }

  /** The one that a word names; empty for none. */
  public static Optional<Outcome> ofWord(String word) {
    return Arrays.stream(values()).filter(outcome -> outcome.word().equals(word)).findFirst();
  }

  /**
   * @throws IllegalArgumentException when no outcome has that number
   */
  public static Outcome ofCode(int code) {
    return switch (code) {
      case 0 -> PASSED;
      case 1 -> FAILED;
      case 2 -> ERRORED;
      case 3 -> SKIPPED;
      case 4 -> NOT_REACHED;
      default -> throw new IllegalArgumentException("no outcome has the code " + code);
    };
  }
}
