package org.vinecellar.service.runs;

import java.time.Duration;
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
 * @param silenceMinutes after so long without news its open runs are closed; null for what the
 *     service is set to
 */
@Schema(name = "Stream")
public record StreamBody(
    String name,
    @Schema(nullable = true) @Nullable Integer silenceMinutes,
    int runCount,
    RunBody latest,
    List<PointBody> strip,
    List<PointBody> trend) {

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
    Duration silence = s.silence();
    return new StreamBody(
        s.name(),
        silence == null ? null : (int) silence.toMinutes(),
        s.runCount(),
        RunBody.of(s.latest()),
        s.strip().stream().map(PointBody::of).toList(),
        s.trend().stream().map(PointBody::of).toList());
  }
}
