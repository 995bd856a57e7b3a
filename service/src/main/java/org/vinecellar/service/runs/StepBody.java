package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;

/**
 * One step of a try.
 *
 * @param keyword as in “Given”; null when there is none
 * @param status the framework's own word where it says more than the outcome
 * @param message what went wrong in it
 * @param argument a longer text handed to it
 * @param table rows of cells handed to it, the heading first
 * @param attachments places in the list of the attempt
 */
@Schema(name = "Step")
public record StepBody(
    @Schema(nullable = true) @Nullable String keyword,
    String text,
    String outcome,
    @Schema(nullable = true) @Nullable String status,
    @Schema(nullable = true) @Nullable Double durationMs,
    @Schema(nullable = true) @Nullable String message,
    @Schema(nullable = true) @Nullable String argument,
    List<List<String>> table,
    List<LogBody> logs,
    List<Integer> attachments,
    List<StepBody> steps) {

  /** A line of a log. */
  @Schema(name = "LogLine")
  public record LogBody(
      @Schema(nullable = true) @Nullable Instant time,
      @Schema(nullable = true) @Nullable String level,
      String text) {
    static LogBody of(LogLine line) {
      return new LogBody(line.time(), line.level(), line.text());
    }
  }

  static StepBody of(Step s) {
    Failure failure = s.failure();
    return new StepBody(
        s.keyword(),
        s.text(),
        s.outcome().word(),
        s.status(),
        s.durationMicros() == TestResult.NO_DURATION ? null : s.durationMicros() / 1000.0,
        failure == null ? null : failure.message(),
        s.argument(),
        s.table(),
        s.logs().stream().map(LogBody::of).toList(),
        s.attachments(),
        s.steps().stream().map(StepBody::of).toList());
  }
}
