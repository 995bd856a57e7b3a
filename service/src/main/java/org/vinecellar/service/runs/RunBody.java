package org.vinecellar.service.runs;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
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
 * @param explained whether all its failures are grouped, and explained as far as they can be
 * @param learned whether what it tells of its tests is known of them
 * @param testTimeMs all results together, in milliseconds: time spent testing, not on the clock
 */
@Schema(name = "Run")
public record RunBody(
    long id,
    String stream,
    int number,
    boolean open,
    int version,
    @JsonUnwrapped TimesBody times,
    @JsonUnwrapped OriginBody origin,
    @JsonUnwrapped WordsBody words,
    CountsBody counts,
    int overruled,
    double testTimeMs,
    @JsonUnwrapped NeighboursBody neighbours,
    ChangesBody changes,
    boolean explained,
    boolean learned) {

  /** When what happened; its fields stand among those of the run, as do those of the next three. */
  public record TimesBody(
      Instant startedAt,
      Instant changedAt,
      @Schema(nullable = true) @Nullable Instant closedAt,
      @Schema(
              nullable = true,
              enumeration = {"upload", "parts", "hand", "silence"})
          @Nullable String closedBy) {}

  /** Where its results come from. */
  public record OriginBody(
      @Schema(nullable = true) @Nullable String commit,
      @Schema(nullable = true) @Nullable String branch,
      @Schema(nullable = true) @Nullable String buildUrl) {}

  /** What is said of it. */
  public record WordsBody(
      @Schema(nullable = true) @Nullable String description,
      Map<String, String> labels,
      List<String> tags) {}

  /**
   * The runs beside it.
   *
   * @param previousNumber of the run it is compared with: the one before of its branch, or else of
   *     the main branch; null when there is none
   * @param previousBranch of that one; null when it told none
   * @param nextNumber of the run that is compared with it; null for the last of its stream
   */
  public record NeighboursBody(
      @Schema(nullable = true) @Nullable Integer previousNumber,
      @Schema(nullable = true) @Nullable String previousBranch,
      @Schema(nullable = true) @Nullable Integer nextNumber) {}

  static RunBody of(RunSummary r) {
    RunSummary.Times times = r.times();
    RunSummary.Words words = r.words();
    return new RunBody(
        r.id(),
        r.stream(),
        r.number(),
        r.open(),
        r.version(),
        new TimesBody(times.started(), times.changed(), times.closed(), times.closedBy()),
        new OriginBody(r.origin().commit(), r.origin().branch(), r.origin().buildUrl()),
        new WordsBody(words.description(), new TreeMap<>(words.labels()), words.tags()),
        CountsBody.of(r.counts()),
        r.overruled(),
        r.durationMicros() / 1000.0,
        new NeighboursBody(
            r.neighbours().previous(), r.neighbours().previousBranch(), r.neighbours().next()),
        ChangesBody.of(r.changes()),
        r.explained(),
        r.learned());
  }
}
