package org.vinecellar.core.results;

/**
 * How many results came to what.
 *
 * @param retried passed or not, tried more than once; these are counted under their outcome too
 * @param setUps set-ups that failed: causes, which are no tests and are not counted under any
 *     outcome
 */
public record Counts(
    int passed, int failed, int errored, int skipped, int notReached, int retried, int setUps) {
  /** Nothing at all. */
  public static final Counts NONE = new Counts(0, 0, 0, 0, 0, 0);

  /** Where no set-up failed. */
  public Counts(int passed, int failed, int errored, int skipped, int notReached, int retried) {
    this(passed, failed, errored, skipped, notReached, retried, 0);
  }

  /** All tests. */
  public int tests() {
    return passed + failed + errored + skipped + notReached;
  }

  /** Tests of one outcome. */
  public int of(Outcome outcome) {
    return switch (outcome) {
      case PASSED -> passed;
      case FAILED -> failed;
      case ERRORED -> errored;
      case SKIPPED -> skipped;
      case NOT_REACHED -> notReached;
    };
  }

  /** Tests that failed or errored. */
  public int failing() {
    return failed + errored;
  }

  /** Whether there is nothing, not even a set-up that failed. */
  public boolean isNothing() {
    return tests() == 0 && setUps == 0;
  }

  /** Whether somebody has to look: a test is failing, or a set-up is. */
  public boolean needsALook() {
    return failing() > 0 || setUps > 0;
  }

  /** These and those. */
  public Counts plus(Counts o) {
    return new Counts(
        passed + o.passed,
        failed + o.failed,
        errored + o.errored,
        skipped + o.skipped,
        notReached + o.notReached,
        retried + o.retried,
        setUps + o.setUps);
  }

  /** The same, each taken away. */
  public Counts negated() {
    return new Counts(-passed, -failed, -errored, -skipped, -notReached, -retried, -setUps);
  }

  /** With {@code n} more (or, negative, fewer) tests of one outcome. */
  public Counts add(Outcome outcome, int n) {
    return plus(
        switch (outcome) {
          case PASSED -> new Counts(n, 0, 0, 0, 0, 0);
          case FAILED -> new Counts(0, n, 0, 0, 0, 0);
          case ERRORED -> new Counts(0, 0, n, 0, 0, 0);
          case SKIPPED -> new Counts(0, 0, 0, n, 0, 0);
          case NOT_REACHED -> new Counts(0, 0, 0, 0, n, 0);
        });
  }

  /** With {@code n} more results of that kind and outcome; a set-up counts only if it failed. */
  public Counts add(ResultKind kind, Outcome outcome, int n) {
    if (kind == ResultKind.TEST) {
      return add(outcome, n);
    }
    return outcome.isFailing() ? plus(new Counts(0, 0, 0, 0, 0, 0, n)) : this;
  }

  /** With {@code n} more retried. */
  public Counts addRetried(int n) {
    return plus(new Counts(0, 0, 0, 0, 0, n));
  }
}
