package org.vinecellar.core.changes;

/** How many tests changed in which way since the previous run. */
public record ChangeCounts(
    int newFailing,
    int failingAsBefore,
    int fixed,
    int passedOnRetry,
    int added,
    int gone,
    int renamed) {
  /** No change at all. */
  public static final ChangeCounts NONE = new ChangeCounts(0, 0, 0, 0, 0, 0, 0);

  /** All that is told of. */
  public int all() {
    return newFailing + failingAsBefore + fixed + passedOnRetry + added + gone + renamed;
  }

  /** With {@code n} more (or, negative, fewer) of that kind. */
  public ChangeCounts add(Change change, int n) {
    return new ChangeCounts(
        newFailing + (change == Change.NEW_FAILING ? n : 0),
        failingAsBefore + (change == Change.FAILING_AS_BEFORE ? n : 0),
        fixed + (change == Change.FIXED ? n : 0),
        passedOnRetry + (change == Change.PASSED_ON_RETRY ? n : 0),
        added + (change == Change.ADDED ? n : 0),
        gone + (change == Change.GONE ? n : 0),
        renamed + (change == Change.RENAMED ? n : 0));
  }
}
