package org.vinecellar.core.changes;

/** How many tests changed in which way since the previous run. */
public record ChangeCounts(
    int newFailing, int stillFailing, int fixed, int passedOnRetry, int added, int gone) {
  /** No change at all. */
  public static final ChangeCounts NONE = new ChangeCounts(0, 0, 0, 0, 0, 0);

  /** With one more of that kind. */
  public ChangeCounts plus(Change change) {
    return switch (change) {
      case NEW_FAILING ->
          new ChangeCounts(newFailing + 1, stillFailing, fixed, passedOnRetry, added, gone);
      case STILL_FAILING ->
          new ChangeCounts(newFailing, stillFailing + 1, fixed, passedOnRetry, added, gone);
      case FIXED ->
          new ChangeCounts(newFailing, stillFailing, fixed + 1, passedOnRetry, added, gone);
      case PASSED_ON_RETRY ->
          new ChangeCounts(newFailing, stillFailing, fixed, passedOnRetry + 1, added, gone);
      case ADDED ->
          new ChangeCounts(newFailing, stillFailing, fixed, passedOnRetry, added + 1, gone);
      case GONE ->
          new ChangeCounts(newFailing, stillFailing, fixed, passedOnRetry, added, gone + 1);
    };
  }
}
