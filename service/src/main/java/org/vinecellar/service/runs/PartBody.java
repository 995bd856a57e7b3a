package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.runs.Job;
import org.vinecellar.core.runs.Part;
import org.vinecellar.service.web.CountsBody;

/** One contribution to a run. */
@Schema(name = "Part")
public record PartBody(
    int number,
    String name,
    Map<String, String> variant,
    Instant receivedAt,
    @Schema(nullable = true) @Nullable Instant startedAt,
    @Schema(nullable = true) @Nullable Instant endedAt,
    boolean brokenOff,
    boolean live,
    List<RunningBody> running,
    @Schema(nullable = true) @Nullable String buildUrl,
    @Schema(nullable = true) @Nullable JobBody job,
    Map<String, String> environment,
    CountsBody counts,
    double testTimeMs,
    List<PartFileBody> files,
    List<AttachmentBody> attachments) {

  /** How the job of a part ended, as far as its sender told. */
  @Schema(name = "Job")
  public record JobBody(
      String status,
      @Schema(nullable = true) @Nullable String command,
      @Schema(nullable = true) @Nullable Integer exitCode,
      @Schema(nullable = true) @Nullable String signal,
      @Schema(nullable = true) @Nullable Long durationMs) {
    static @Nullable JobBody of(@Nullable Job job) {
      return job == null
          ? null
          : new JobBody(
              job.status().word(), job.command(), job.exitCode(), job.signal(), job.millis());
    }
  }

  /** A file of a part, with what did not add up in it. */
  @Schema(name = "PartFile")
  public record PartFileBody(String name, String format, List<String> problems) {
    static PartFileBody of(Part.PartFile f) {
      return new PartFileBody(f.name(), f.format(), f.problems());
    }
  }

  /** A test that has begun and not ended. */
  @Schema(name = "RunningTest")
  public record RunningBody(
      List<String> suite, String name, @Schema(nullable = true) @Nullable Instant since) {
    static RunningBody of(RunningNow test) {
      return new RunningBody(test.suite(), test.name(), test.since());
    }
  }

  static PartBody of(Part p) {
    return new PartBody(
        p.number(),
        p.name(),
        p.variant(),
        p.times().received(),
        p.times().started(),
        p.times().ended(),
        p.progress().brokenOff(),
        p.progress().live(),
        p.progress().running().stream().map(RunningBody::of).toList(),
        p.buildUrl(),
        JobBody.of(p.job()),
        new TreeMap<>(p.environment()),
        CountsBody.of(p.counts()),
        p.durationMicros() / 1000.0,
        p.files().stream().map(PartFileBody::of).toList(),
        p.attachments().stream().map(AttachmentBody::of).toList());
  }
}
