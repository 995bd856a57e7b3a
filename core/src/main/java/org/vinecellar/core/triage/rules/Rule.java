package org.vinecellar.core.triage.rules;

import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A rule that is kept.
 *
 * @param version goes up with every change: who edits says which one they saw
 * @param starter whether it came with the portal
 * @param explained results that it has explained so far
 * @param lastAt when the latest run began in which it did; null for never
 * @param trouble why it could not be asked the last time; null when it could
 * @param changedBy null for nobody yet
 */
public record Rule(
    long id,
    int version,
    RuleDraft said,
    boolean starter,
    long explained,
    @Nullable Instant lastAt,
    @Nullable String trouble,
    @Nullable String changedBy,
    Instant changedAt) {
  /** Checks nulls. */
  public Rule {
    Objects.requireNonNull(said);
    Objects.requireNonNull(changedAt);
  }
}
