package org.vinecellar.core.changes;

import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;

/**
 * What became of a test since the previous run of its stream. The codes are stored and never
 * change.
 */
public enum Change {
  /** Fails now and did not before. */
  NEW_FAILING(1),
  /** Failed before and fails now. */
  FAILING_AS_BEFORE(2),
  /** Failed before and passes now. */
  FIXED(3),
  /** Passes now, but only after failed attempts. */
  PASSED_ON_RETRY(4),
  /** Was not there before. */
  ADDED(5),
  /** Was there before and is not any more. */
  GONE(6),
  /** Was there before under another name, and nothing else is to be told of it. */
  RENAMED(7);

  private final int code;

  Change(int code) {
    this.code = code;
  }

  /** The stored number. */
  public int code() {
    return code;
  }

  /** Whether a test of which it is told fails. */
  public boolean isFailing() {
    return this == NEW_FAILING || this == FAILING_AS_BEFORE;
  }

  /** The word in the API, e.g. {@code new failing}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  /**
   * @throws IllegalArgumentException when no change has that number
   */
  public static Change ofCode(int code) {
    for (Change change : values()) {
      if (change.code == code) {
        return change;
      }
    }
    throw new IllegalArgumentException("no change has the code " + code);
  }

  /**
   * Tells what changed for a test that had another name in the run before.
   *
   * @param before its outcome there
   */
  public static Change renamed(Outcome before, Outcome now, boolean onRetry) {
    Change change = between(before, now, onRetry);
    return change == null ? RENAMED : change;
  }

  /**
   * Tells what changed for one test.
   *
   * @param before its outcome in the previous run; null when it had none there
   * @param now its outcome in this run; null when it has none here
   * @param onRetry whether it was tried more than once now, and not each time passed
   * @return null when there is nothing to tell. A skipped or not reached test that failed before is
   *     not fixed, and one that fails after being skipped is new failing.
   */
  public static @Nullable Change between(
      @Nullable Outcome before, @Nullable Outcome now, boolean onRetry) {
    if (now == null) {
      return before == null ? null : GONE;
    }
    if (now.isFailing()) {
      return before != null && before.isFailing() ? FAILING_AS_BEFORE : NEW_FAILING;
    }
    if (now == Outcome.PASSED && onRetry) {
      return PASSED_ON_RETRY;
    }
    if (before == null) {
      return ADDED;
    }
    return before.isFailing() && now == Outcome.PASSED ? FIXED : null;
  }
}
