package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.StreamSummary;
import org.vinecellar.service.web.CountsBody;

/**
 * A stream with its latest runs; strip and trend have the oldest first.
 *
 * @param trend null in lists of all streams; ask for the one stream by its name
 */
@Schema(name = "Stream")
public record StreamBody(
    String name,
    int runCount,
    RunBody latest,
    List<PointBody> strip,
    @Schema(nullable = true) @Nullable List<PointBody> trend) {

  /** A run as a point of a strip or trend. */
  @Schema(name = "RunPoint")
  public record PointBody(
      int number, Instant startedAt, boolean open, CountsBody counts, int newFailing) {
    static PointBody of(RunPoint p) {
      return new PointBody(
          p.number(), p.startedAt(), p.open(), CountsBody.of(p.counts()), p.newFailing());
    }
  }

  static StreamBody of(StreamSummary s) {
    return new StreamBody(
        s.name(),
        s.runCount(),
        RunBody.of(s.latest()),
        s.strip().stream().map(PointBody::of).toList(),
        s.trend() == null ? null : s.trend().stream().map(PointBody::of).toList());
  }
}
