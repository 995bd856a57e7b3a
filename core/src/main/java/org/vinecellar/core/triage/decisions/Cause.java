package org.vinecellar.core.triage.decisions;

import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.FailureLine.Said;
import org.vinecellar.core.triage.decisions.GroupInRun.Seen;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * Why a result fails, as far as it is known.
 *
 * @param group of failures that share the cause
 * @param sentence why they are one group
 * @param template the error, with a hole for each value
 * @param said null when nobody explained it
 * @param returned whether it is unexplained and fails again after what explained it had ended
 * @param seen where the group was first seen; null when that run is gone
 * @param tickets that its group is linked to
 */
public record Cause(
    long group,
    KeyKind kind,
    String sentence,
    String template,
    @Nullable Said said,
    boolean returned,
    @Nullable Seen seen,
    List<Ticket> tickets) {
  /** Checks nulls. */
  public Cause {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(sentence);
    Objects.requireNonNull(template);
    tickets = List.copyOf(tickets);
  }
}
