package org.vinecellar.core.triage.desk;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.FailureLine.Said;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * A failure group over all runs.
 *
 * @param sentence why its results are one group
 * @param template the error, with a hole for each value
 * @param results that belong to it
 * @param open those of them that nobody explained
 * @param tests that have such a result
 * @param streams that have such a run
 * @param runs that have such a result
 * @param first the run in which it was first seen, by its time
 * @param last the latest one
 * @param shown a result of the latest run, one that nobody explained if there is one
 * @param test what that is called: the suite's own name, a hash, the test's name and parameters
 * @param said the latest decision on the group that stands; null for none
 * @param ends when that comes, or came, to its end; null for never
 * @param endedBy why it does; null for never
 * @param untilClosed whether it comes to its end when the tickets are closed
 * @param returned whether it fails again after that
 * @param disputed whether two decisions on it stand that say different things: nothing is carried
 * @param assigned to whom it was given; null for nobody
 * @param tickets that it is linked to
 */
public record GroupLine(
    long id,
    KeyKind kind,
    String sentence,
    String template,
    int results,
    int open,
    int tests,
    int streams,
    int runs,
    SeenIn first,
    SeenIn last,
    ResultId shown,
    String test,
    @Nullable Said said,
    @Nullable Instant ends,
    @Nullable EndedBy endedBy,
    boolean untilClosed,
    boolean returned,
    boolean disputed,
    @Nullable String assigned,
    List<Ticket> tickets) {

  /** Checks nulls. */
  public GroupLine {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(sentence);
    Objects.requireNonNull(template);
    Objects.requireNonNull(first);
    Objects.requireNonNull(last);
    Objects.requireNonNull(shown);
    Objects.requireNonNull(test);
    tickets = List.copyOf(tickets);
  }

  /**
   * A run.
   *
   * @param number in its stream
   * @param at when it began
   */
  public record SeenIn(long run, String stream, int number, Instant at) {}
}
