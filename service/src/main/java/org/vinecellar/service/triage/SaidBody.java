package org.vinecellar.service.triage;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.FailureLine;

/**
 * What was decided.
 *
 * @param origin how it came to the results: hand, rule or carried
 * @param comment null when none was written
 */
@Schema(name = "Said")
public record SaidBody(
    long decision,
    String category,
    String origin,
    @Schema(nullable = true) @Nullable String comment,
    String by) {
  static @Nullable SaidBody of(FailureLine.@Nullable Said said) {
    return said == null
        ? null
        : new SaidBody(said.id(), said.category(), said.origin().word(), said.comment(), said.by());
  }
}
