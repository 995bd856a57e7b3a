package org.vinecellar.core.ingest;

import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;

/** Counts that change with every case. */
final class Tally {
  private final int[] byOutcome = new int[Outcome.values().length];
  private int retried;

  void add(Outcome outcome, int n) {
    byOutcome[outcome.ordinal()] += n;
  }

  void addRetried() {
    retried++;
  }

  Counts counts() {
    Counts counts = Counts.NONE.addRetried(retried);
    for (Outcome outcome : Outcome.values()) {
      counts = counts.add(outcome, byOutcome[outcome.ordinal()]);
    }
    return counts;
  }
}
