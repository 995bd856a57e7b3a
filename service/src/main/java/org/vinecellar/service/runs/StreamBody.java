package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.Habit;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.StreamSummary;
import org.vinecellar.service.web.CountsBody;

/**
 * A stream with its latest runs; strip and trend have the oldest first.
 *
 * @param missing the run that is due by the stream's habit and did not come; null when none is, or
 *     when the stream has no habit
 * @param trend null in lists of all streams; ask for the one stream by its name
 */
@Schema(name = "Stream")
public record StreamBody(
    String name,
    int runCount,
    RunBody latest,
    List<PointBody> strip,
    @Schema(nullable = true) @Nullable MissingBody missing,
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

  /**
   * A run that did not come.
   *
   * @param expectedAt when it was due, about
   */
  @Schema(name = "MissingRun")
  public record MissingBody(Instant expectedAt) {}

  static StreamBody of(StreamSummary s, Instant now) {
    Habit habit = s.habit();
    return new StreamBody(
        s.name(),
        s.runCount(),
        RunBody.of(s.latest()),
        s.strip().stream().map(PointBody::of).toList(),
        habit == null || !habit.isMissing(now) ? null : new MissingBody(habit.expected()),
        s.trend() == null ? null : s.trend().stream().map(PointBody::of).toList());
  }
}
