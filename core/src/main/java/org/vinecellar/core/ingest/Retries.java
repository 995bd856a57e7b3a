package org.vinecellar.core.ingest;

import org.vinecellar.core.results.Outcome;

/** Which outcome stands when a test was tried more than once. */
public final class Retries {
  private Retries() {}

  /**
   * The outcome that stands after one more try.
   *
   * @param before what stood until now
   * @param now what the new try came to
   * @return the new one; but after a pass the worse of both, and a failure is never covered by a
   *     skip
   */
  public static Outcome standing(Outcome before, Outcome now) {
    boolean ran = now == Outcome.PASSED || now.isFailing();
    if (before == Outcome.PASSED) {
      return ran ? before.worse(now) : before;
    }
    return before.isFailing() && !ran ? before : now;
  }
}
