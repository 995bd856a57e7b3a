package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.service.web.ChangesBody;
import org.vinecellar.service.web.CountsBody;

/**
 * A run as lists show it.
 *
 * @param testTimeMs all results together, in milliseconds: time spent testing, not on the clock
 * @param previousNumber of the run it is compared with; null for the first of its stream
 * @param nextNumber of the run that is compared with it; null for the last of its stream
 */
@Schema(name = "Run")
public record RunBody(
    long id,
    String stream,
    int number,
    boolean open,
    int version,
    Instant startedAt,
    Instant changedAt,
    @Schema(nullable = true) @Nullable Instant closedAt,
    @Schema(
            nullable = true,
            enumeration = {"upload", "parts", "hand", "silence"})
        @Nullable String closedBy,
    @Schema(nullable = true) @Nullable String commit,
    @Schema(nullable = true) @Nullable String branch,
    @Schema(nullable = true) @Nullable String buildUrl,
    @Schema(nullable = true) @Nullable String description,
    Map<String, String> labels,
    List<String> tags,
    CountsBody counts,
    int overruled,
    double testTimeMs,
    @Schema(nullable = true) @Nullable Integer previousNumber,
    @Schema(nullable = true) @Nullable Integer nextNumber,
    ChangesBody changes) {

  static RunBody of(RunSummary r) {
    return new RunBody(
        r.id(),
        r.stream(),
        r.number(),
        r.open(),
        r.version(),
        r.times().started(),
        r.times().changed(),
        r.times().closed(),
        r.times().closedBy(),
        r.origin().commit(),
        r.origin().branch(),
        r.origin().buildUrl(),
        r.words().description(),
        new TreeMap<>(r.words().labels()),
        r.words().tags(),
        CountsBody.of(r.counts()),
        r.overruled(),
        r.durationMicros() / 1000.0,
        r.neighbours().previous(),
        r.neighbours().next(),
        ChangesBody.of(r.changes()));
  }
}
