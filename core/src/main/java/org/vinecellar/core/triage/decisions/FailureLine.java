package org.vinecellar.core.triage.decisions;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * One failing result with what is known of its cause.
 *
 * @param run its number in the stream
 * @param key that its sender gave the run; null for none
 * @param suite the names of the suites around it, outermost first, joined
 * @param test the suite's own name, a hash and the test's name with its parameters
 * @param group null while it is not grouped yet
 * @param decision null when nobody explained it
 * @param tickets that its group is linked to
 */
public record FailureLine(
    int run,
    @Nullable String key,
    ResultId result,
    String suite,
    String test,
    @Nullable Long group,
    @Nullable KeyKind kind,
    @Nullable Said decision,
    List<Ticket> tickets) {
  /** Copies the tickets. */
  public FailureLine {
    tickets = List.copyOf(tickets);
  }

  /**
   * What was decided.
   *
   * @param comment null when none was written
   */
  public record Said(
      long id, String category, DecisionOrigin origin, @Nullable String comment, String by) {}
}
