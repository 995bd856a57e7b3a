package org.vinecellar.core.changes;

/** How many tests changed in which way since the previous run. */
public record ChangeCounts(
    int newFailing, int failingAsBefore, int fixed, int passedOnRetry, int added, int gone) {
  /** No change at all. */
  public static final ChangeCounts NONE = new ChangeCounts(0, 0, 0, 0, 0, 0);

  /** With {@code n} more (or, negative, fewer) of that kind. */
  public ChangeCounts add(Change change, int n) {
    return switch (change) {
      case NEW_FAILING ->
          new ChangeCounts(newFailing + n, failingAsBefore, fixed, passedOnRetry, added, gone);
      case FAILING_AS_BEFORE ->
          new ChangeCounts(newFailing, failingAsBefore + n, fixed, passedOnRetry, added, gone);
      case FIXED ->
          new ChangeCounts(newFailing, failingAsBefore, fixed + n, passedOnRetry, added, gone);
      case PASSED_ON_RETRY ->
          new ChangeCounts(newFailing, failingAsBefore, fixed, passedOnRetry + n, added, gone);
      case ADDED ->
          new ChangeCounts(newFailing, failingAsBefore, fixed, passedOnRetry, added + n, gone);
      case GONE ->
          new ChangeCounts(newFailing, failingAsBefore, fixed, passedOnRetry, added, gone + n);
    };
  }
}
