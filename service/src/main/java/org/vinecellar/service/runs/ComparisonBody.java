package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.Comparison;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.service.web.ChangesBody;

/**
 * A run beside another one that somebody chose.
 *
 * @param number of the other run
 * @param differences by change, new failing first; at most 500
 */
@Schema(name = "Comparison")
public record ComparisonBody(
    int number,
    Instant startedAt,
    @Schema(nullable = true) @Nullable String branch,
    ChangesBody changes,
    List<DifferenceBody> differences) {
  /**
   * What became of one test.
   *
   * @param resultId in this run; null when it has none
   * @param before its outcome in the other run; null when it has none there
   * @param now its outcome in this run; null when it has none
   */
  @Schema(name = "Difference")
  public record DifferenceBody(
      long testId,
      List<String> suite,
      String name,
      @Schema(nullable = true) @Nullable String parameters,
      Map<String, String> variant,
      String change,
      @Schema(nullable = true) @Nullable String resultId,
      @Schema(nullable = true) @Nullable String before,
      @Schema(nullable = true) @Nullable String now) {
    static DifferenceBody of(Comparison.Difference d) {
      return new DifferenceBody(
          d.test().id(),
          d.test().suite(),
          d.test().name(),
          d.test().parameters(),
          d.test().variant(),
          d.change().word(),
          d.result() == null ? null : d.result().toString(),
          word(d.before()),
          word(d.now()));
    }

    private static @Nullable String word(@Nullable Outcome outcome) {
      return outcome == null ? null : outcome.word();
    }
  }

  static ComparisonBody of(RunSummary other, Comparison comparison) {
    return new ComparisonBody(
        other.number(),
        other.times().started(),
        other.origin().branch(),
        ChangesBody.of(comparison.counts()),
        comparison.differences().stream().map(DifferenceBody::of).toList());
  }
}
