package org.vinecellar.core.ingest;

import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;

/** Counts that change with every case. */
final class Tally {
  private final int[] tests = new int[Outcome.values().length];
  private final int[] setUps = new int[Outcome.values().length];
  private int retried;

  void add(ResultKind kind, Outcome outcome, int n) {
    (kind == ResultKind.TEST ? tests : setUps)[outcome.ordinal()] += n;
  }

  void addRetried(ResultKind kind) {
    retried += kind == ResultKind.TEST ? 1 : 0;
  }

  Counts counts() {
    Counts counts = Counts.NONE.addRetried(retried);
    for (Outcome outcome : Outcome.values()) {
      counts =
          counts
              .add(ResultKind.TEST, outcome, tests[outcome.ordinal()])
              .add(ResultKind.SETUP, outcome, setUps[outcome.ordinal()]);
    }
    return counts;
  }
}
