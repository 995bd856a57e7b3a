package org.vinecellar.core.boards;

import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.Outcome;

/** Lists of what the sum of some runs counts. */
final class RunLinks {
  private static final String FAILING = "(failed gt 0 or errored gt 0 or setUps gt 0)";

  private final String pick;

  /**
   * @param pick the filter that picks these runs
   */
  RunLinks(String pick) {
    this.pick = pick;
  }

  Sheet.Link runs() {
    return new Sheet.Link(Thing.RUN, pick);
  }

  Sheet.Link red() {
    return new Sheet.Link(Thing.RUN, pick + " and " + FAILING);
  }

  Sheet.Link outcome(Outcome outcome) {
    return results("outcome eq \"" + outcome.word() + "\"");
  }

  /** Results of tests; set-ups are none. */
  Sheet.Link tests() {
    return results("setUp eq false");
  }

  Sheet.Link results(String which) {
    return new Sheet.Link(Thing.RESULT, "run[" + pick + "] and " + which);
  }
}
