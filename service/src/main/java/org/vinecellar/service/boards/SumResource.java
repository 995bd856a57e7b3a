package org.vinecellar.service.boards;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.Breakdown;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunPick;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.boards.Trend;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/** What runs come to over time, and by what they are told apart by. */
@Path("/api/v1/projects/{project}/sums")
@Tag(name = "sums")
@Produces(MediaType.APPLICATION_JSON)
public class SumResource {
  private static final int MOST_SERIES = 40;
  private static final int USUAL_DAYS = 30;

  private final BoardFacts facts;
  private final Caller caller;
  private final InstantSource clock;

  SumResource(BoardFacts facts, Caller caller, InstantSource clock) {
    this.facts = facts;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * Runs over time.
   *
   * @param from the first moment
   * @param to the first moment after the last
   * @param step hour, day or week, of UTC
   * @param series the largest first
   */
  @Schema(name = "Trend")
  public record TrendBody(
      Instant from, Instant to, String step, List<String> by, List<SeriesBody> series) {}

  /**
   * Runs with the same values.
   *
   * @param values one for each of by, null where a run has none; none at all for those that are
   *     taken together because they are many and small
   * @param total of the whole period
   * @param points one for each step
   */
  @Schema(name = "TrendSeries")
  public record SeriesBody(
      List<@Nullable String> values, RunSumBody total, List<PointBody> points) {}

  /**
   * A step.
   *
   * @param sum null when no run began in it
   * @param runs the filter that picks these runs; null where others are among them, or there is
   *     none
   */
  @Schema(name = "TrendPoint")
  public record PointBody(
      Instant at,
      @Schema(nullable = true) @Nullable RunSumBody sum,
      @Schema(nullable = true) @Nullable String runs) {}

  /**
   * Runs by what they are told apart by, the lowest pass rate first.
   *
   * @param left how many further parts there would be
   */
  @Schema(name = "Breakdown")
  public record BreakdownBody(
      Instant from, Instant to, List<String> by, List<PartBody> parts, int left) {}

  /**
   * Runs with the same values.
   *
   * @param now in the period; null when none began in it
   * @param before in the period before it, which is as long; null when none began in that
   * @param change by how much the pass rate went up or, negative, down; null when it is not known
   *     of both
   * @param standing holds, misses, or unknown; free when no minimum is asked for
   * @param runs the filter that picks the runs of the period
   */
  @Schema(name = "BreakdownPart")
  public record PartBody(
      List<@Nullable String> values,
      @Schema(nullable = true) @Nullable RunSumBody now,
      @Schema(nullable = true) @Nullable RunSumBody before,
      @Schema(nullable = true) @Nullable Double change,
      String standing,
      String runs) {}

  @GET
  @Path("trend")
  @Operation(
      operationId = "sumTrend",
      summary =
          "What runs came to by hour, day or week, told apart by up to three of stream, branch and"
              + " labels; filter is of runs")
  public TrendBody trend(
      @PathParam("project") String key,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("from") @Nullable String from,
      @QueryParam("to") @Nullable String to,
      @QueryParam("step") @Nullable String stepWord,
      @QueryParam("by") List<String> by) {
    Project project = caller.project(key, Right.READ);
    Criterion runs = Resolver.read(filter, Thing.RUN, clock.instant());
    Period period = period(days, from, to);
    Step step = stepWord == null ? Step.DAY : Step.of(stepWord);
    List<Dimension> dimensions = by.stream().map(Dimension::of).toList();
    Trend.checked(period, step);
    Trend trend =
        Trend.of(
            period, step, facts.cells(project.id(), runs, period, step, dimensions), MOST_SERIES);
    return new TrendBody(
        period.from(),
        period.to(),
        step.word(),
        dimensions.stream().map(Dimension::word).toList(),
        trend.series().stream().map(one -> series(trend, one, filter, dimensions)).toList());
  }

  private static SeriesBody series(
      Trend trend, Trend.Series series, @Nullable String filter, List<Dimension> dimensions) {
    boolean one = series.by().size() == dimensions.size();
    return new SeriesBody(
        series.by(),
        RunSumBody.of(series.total()),
        series.points().stream()
            .map(
                point ->
                    new PointBody(
                        point.at(),
                        RunSumBody.orNull(point.sum()),
                        point.sum() == null || !one
                            ? null
                            : RunPick.of(
                                filter,
                                trend.step().within(point.at(), trend.period()),
                                dimensions,
                                series.by())))
            .toList());
  }

  @GET
  @Path("breakdown")
  @Operation(
      operationId = "sumBreakdown",
      summary =
          "What runs came to by up to three of stream, branch and labels, against the period before;"
              + " minimum is a pass rate from 0 to 1 that each must hold; filter is of runs")
  public BreakdownBody breakdown(
      @PathParam("project") String key,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("from") @Nullable String from,
      @QueryParam("to") @Nullable String to,
      @QueryParam("minimum") @Nullable Double minimum,
      @QueryParam("by") List<String> by) {
    Project project = caller.project(key, Right.READ);
    Criterion runs = Resolver.read(filter, Thing.RUN, clock.instant());
    Period period = period(days, from, to);
    if (minimum != null && !(minimum >= 0 && minimum <= 1)) {
      throw invalid("minimum is " + minimum + "; it goes from 0 to 1, as in 0.98");
    }
    List<Dimension> dimensions = by.stream().map(Dimension::of).toList();
    Breakdown breakdown =
        Breakdown.of(
            facts.cells(project.id(), runs, period, null, dimensions),
            facts.cells(project.id(), runs, period.before(), null, dimensions),
            minimum);
    return new BreakdownBody(
        period.from(),
        period.to(),
        dimensions.stream().map(Dimension::word).toList(),
        breakdown.worst().stream()
            .map(
                part ->
                    new PartBody(
                        part.by(),
                        RunSumBody.orNull(part.now()),
                        RunSumBody.orNull(part.before()),
                        part.change(),
                        part.standing().word(),
                        RunPick.of(filter, period, dimensions, part.by())))
            .toList(),
        breakdown.parts().size() - breakdown.worst().size());
  }

  private Period period(@Nullable Integer days, @Nullable String from, @Nullable String to) {
    if (from == null && to == null) {
      return Period.ofDays(days == null ? USUAL_DAYS : days, clock.instant());
    }
    if (from == null || to == null || days != null) {
      throw invalid("say days, or both from and to");
    }
    return Period.between(day("from", from), day("to", to));
  }

  private static LocalDate day(String name, String text) {
    try {
      return LocalDate.parse(text);
    } catch (DateTimeException e) {
      throw invalid(name + " is “" + text + "”; write a day as in 2026-11-29");
    }
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
