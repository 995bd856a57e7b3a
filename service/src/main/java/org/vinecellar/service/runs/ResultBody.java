package org.vinecellar.service.runs;

import java.util.List;
import java.util.Map;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.service.triage.CauseBody;

/**
 * A result as the list of a run shows it.
 *
 * @param variant what tells the test apart from others of its name, such as browser: webkit
 * @param reported its outcome before somebody overruled it; null when nobody did
 * @param cause why it fails; null when it does not, or is being grouped
 */
@Schema(name = "Result")
public record ResultBody(
    String id,
    long testId,
    List<String> suite,
    String name,
    @Schema(nullable = true) @Nullable String parameters,
    Map<String, String> variant,
    boolean setUp,
    @Schema(enumeration = {"passed", "failed", "errored", "skipped", "not reached"}) String outcome,
    @Schema(nullable = true) @Nullable String reported,
    int attempts,
    @Schema(nullable = true) @Nullable Double durationMs,
    @Schema(nullable = true) @Nullable String firstLine,
    @Schema(nullable = true) @Nullable String change,
    @Schema(nullable = true) @Nullable CauseBody cause) {

  /** As the API tells it. */
  public static ResultBody of(ResultRow r) {
    Long micros = r.durationMicros();
    Change change = r.change();
    return new ResultBody(
        r.id().toString(),
        r.test().id(),
        r.test().suite(),
        r.test().name(),
        r.test().parameters(),
        r.test().variant(),
        r.kind() == ResultKind.SETUP,
        r.outcome().word(),
        r.reported() == null ? null : r.reported().word(),
        r.attempts(),
        micros == null ? null : micros / 1000.0,
        r.firstLine(),
        change == null ? null : change.word(),
        CauseBody.of(r.cause()));
  }
}
