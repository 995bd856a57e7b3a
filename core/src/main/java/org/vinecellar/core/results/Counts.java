package org.vinecellar.core.results;

/**
 * How many results came to what.
 *
 * @param retried passed or not, tried more than once; these are counted under their outcome too
 */
public record Counts(
    int passed, int failed, int errored, int skipped, int notReached, int retried) {
  /** Nothing at all. */
  public static final Counts NONE = new Counts(0, 0, 0, 0, 0, 0);

  /** All results. */
  public int tests() {
    return passed + failed + errored + skipped + notReached;
  }

  /** Failed and errored. */
  public int failing() {
    return failed + errored;
  }

  /** These and those. */
  public Counts plus(Counts o) {
    return new Counts(
        passed + o.passed,
        failed + o.failed,
        errored + o.errored,
        skipped + o.skipped,
        notReached + o.notReached,
        retried + o.retried);
  }

  /** With {@code n} more (or, negative, fewer) of one outcome. */
  public Counts add(Outcome outcome, int n) {
    return switch (outcome) {
      case PASSED -> new Counts(passed + n, failed, errored, skipped, notReached, retried);
      case FAILED -> new Counts(passed, failed + n, errored, skipped, notReached, retried);
      case ERRORED -> new Counts(passed, failed, errored + n, skipped, notReached, retried);
      case SKIPPED -> new Counts(passed, failed, errored, skipped + n, notReached, retried);
      case NOT_REACHED -> new Counts(passed, failed, errored, skipped, notReached + n, retried);
    };
  }

  /** With {@code n} more retried. */
  public Counts addRetried(int n) {
    return new Counts(passed, failed, errored, skipped, notReached, retried + n);
  }
}
