package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.RunningNow;
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
    Map<String, String> environment,
    CountsBody counts,
    double testTimeMs,
    List<PartFileBody> files,
    List<AttachmentBody> attachments) {

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
        new TreeMap<>(p.environment()),
        CountsBody.of(p.counts()),
        p.durationMicros() / 1000.0,
        p.files().stream().map(PartFileBody::of).toList(),
        p.attachments().stream().map(AttachmentBody::of).toList());
  }
}
