package org.vinecellar.core.runs;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.triage.decisions.Cause;

/**
 * A result as the list of a run shows it.
 *
 * @param durationMicros null when not told
 * @param firstLine of its failure or skip; null when there is none
 * @param reported what it was before somebody overruled it; null when nobody did
 * @param change since the previous run; null when there is none
 * @param cause why it fails; null when it does not, or is not grouped yet
 */
public record ResultRow(
    ResultId id,
    KeptTest test,
    ResultKind kind,
    Outcome outcome,
    @Nullable Outcome reported,
    int attempts,
    @Nullable Long durationMicros,
    @Nullable String firstLine,
    @Nullable Change change,
    @Nullable Cause cause) {}
