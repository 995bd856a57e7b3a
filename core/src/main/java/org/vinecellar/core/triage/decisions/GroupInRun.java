package org.vinecellar.core.triage.decisions;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.FailureLine.Said;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * A failure group in one run.
 *
 * @param sentence why its results are one group
 * @param template the error, with a hole for each value
 * @param results of the run that belong to it
 * @param tests of the run that have such a result
 * @param open results that nobody explained
 * @param kept tests that set-ups of it kept from running; they are no results of it
 * @param first its first result in the run, in the order of the files
 * @param test what that is called: the suite's own name, a hash, the test's name and parameters
 * @param said what explains most of its results in the run; null when nothing does
 * @param returned whether it is unexplained and fails again after what explained it had ended
 * @param seen where it was first seen; null when that run is gone
 * @param tickets that its group is linked to
 */
public record GroupInRun(
    long group,
    KeyKind kind,
    String sentence,
    String template,
    int results,
    int tests,
    int open,
    int kept,
    ResultId first,
    String test,
    @Nullable Said said,
    boolean returned,
    @Nullable Seen seen,
    List<Ticket> tickets) {

  /** Checks nulls. */
  public GroupInRun {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(sentence);
    Objects.requireNonNull(template);
    tickets = List.copyOf(tickets);
    Objects.requireNonNull(first);
    Objects.requireNonNull(test);
  }

  /**
   * Where a group was first seen.
   *
   * @param here whether that is this run
   */
  public record Seen(String stream, int run, Instant at, boolean here) {}
}
