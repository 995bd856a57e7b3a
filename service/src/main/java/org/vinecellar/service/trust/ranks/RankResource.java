package org.vinecellar.service.trust.ranks;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.StreamingOutput;
import jakarta.ws.rs.core.UriInfo;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.trust.ranks.Rank;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.core.trust.ranks.Split;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.web.Pages;

/** Tests by their figures, and how to split them. */
@Path("/api/v1/projects/{project}/tests")
@Tag(name = "trust")
@Produces(MediaType.APPLICATION_JSON)
public class RankResource {
  private static final int MOST_SEEN = 100_000;
  private static final int MOST_PARTS = 200;
  private static final int IN_TABLE = 5_000;

  private final RankStore store;
  private final Caller caller;
  private final FilterReader filters;
  private final InstantSource clock;

  RankResource(RankStore store, Caller caller, FilterReader filters, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.filters = filters;
    this.clock = clock;
  }

  @GET
  @Path("ranked")
  @Operation(
      operationId = "rankTests",
      summary =
          "Tests by a figure of the latest runs: failing, costly (flaky), slowing, slowest, steady (never failing),"
              + " missing (not run lately) or newest; filter is of tests")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = RankedBody.class)))
  public Response ranked(
      @PathParam("project") String key,
      @QueryParam("by") @Nullable String by,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    int size = Pages.limit(limit, 100, 500);
    int after = (int) Math.min(Pages.seen(cursor), MOST_SEEN);
    List<RankedBody> tests =
        store
            .ranked(
                project.id(),
                new RankStore.Question(
                    rank(by),
                    RankStore.Question.only(stream),
                    filters.read(project, filter, Thing.TEST),
                    LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC),
                    after,
                    size))
            .stream()
            .map(RankedBody::of)
            .toList();
    String next =
        tests.size() < size || after + size > MOST_SEEN ? null : Integer.toString(after + size);
    return Pages.page(tests, uri, next).build();
  }

  @GET
  @Path("ranked.csv")
  @Produces("text/csv; charset=utf-8")
  @Operation(
      operationId = "rankTestsAsTable",
      summary = "The same as a table, all of it, up to 100 000 tests; for spreadsheets")
  @APIResponse(
      responseCode = "200",
      content = @Content(mediaType = "text/csv", schema = @Schema(type = SchemaType.STRING)))
  public Response table(
      @PathParam("project") String key,
      @QueryParam("by") @Nullable String by,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("filter") @Nullable String filter) {
    Project project = caller.project(key, Right.READ);
    Rank rank = rank(by);
    Criterion criterion = filters.read(project, filter, Thing.TEST);
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    IntFunction<List<RankedBody>> page =
        after ->
            store
                .ranked(
                    project.id(),
                    new RankStore.Question(
                        rank, RankStore.Question.only(stream), criterion, today, after, IN_TABLE))
                .stream()
                .map(RankedBody::of)
                .toList();
    // What is asked wrongly is refused before the first line.
    List<RankedBody> first = page.apply(0);
    StreamingOutput out = bytes -> RankedTable.write(bytes, first, page, MOST_SEEN);
    return Response.ok(out)
        .header("Content-Disposition", "attachment; filename=\"tests-" + rank.word() + ".csv\"")
        .build();
  }

  private static Rank rank(@Nullable String by) {
    return Rank.of(by == null ? "" : by)
        .orElseThrow(
            () ->
                invalid(
                    (by == null ? "say by what: by" : "by is “" + by + "”")
                        + "; it can be "
                        + Arrays.stream(Rank.values())
                            .map(Rank::word)
                            .collect(Collectors.joining(", "))));
  }

  /** A stream of which all tests together became slower. */
  @Schema(name = "SlowStream")
  public record SlowStreamBody(String stream, int since, double factor) {}

  @GET
  @Path("slow-streams")
  @Operation(
      operationId = "listSlowStreams",
      summary = "Streams of which all tests together became slower, since when, by what factor")
  public List<SlowStreamBody> slowStreams(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return store.slowStreams(project.id()).stream()
        .map(one -> new SlowStreamBody(one.stream(), one.since(), one.factor()))
        .toList();
  }

  /**
   * A suite of which the tests together became slower.
   *
   * @param suite the innermost name
   * @param tests how many stand in it by themselves
   * @param millis how long they take together now
   * @param since the number of the run since when
   * @param weeklyCostMillis what that costs a week
   */
  @Schema(name = "SlowSuite")
  public record SlowSuiteBody(
      String stream,
      String suite,
      int tests,
      double millis,
      double beforeMillis,
      int since,
      double weeklyCostMillis) {
    static SlowSuiteBody of(RankStore.SlowSuite one) {
      return new SlowSuiteBody(
          one.stream(),
          one.suite().get(one.suite().size() - 1),
          one.tests(),
          one.millis(),
          one.before(),
          one.since(),
          one.weeklyCost());
    }
  }

  @GET
  @Path("slow-suites")
  @Operation(
      operationId = "listSlowSuites",
      summary =
          "Suites of which several tests together became slower, those that cost most time a week first")
  public List<SlowSuiteBody> slowSuites(
      @PathParam("project") String key, @QueryParam("stream") @Nullable String stream) {
    Project project = caller.project(key, Right.READ);
    return store.slowSuites(project.id(), stream, 100).stream().map(SlowSuiteBody::of).toList();
  }

  /**
   * How the tests of a stream could be split.
   *
   * @param totalMillis all of them one after another
   * @param millis the longest part of the split
   * @param nowMillis the longest part of the latest closed run; null when it has one part
   * @param now the parts of that run, with how long each took
   */
  @Schema(name = "Plan")
  public record PlanBody(
      String stream,
      double totalMillis,
      double millis,
      @Schema(nullable = true) @Nullable Double nowMillis,
      List<NowBody> now,
      List<PartBody> parts) {}

  /** A part of a run as it was. */
  @Schema(name = "PartNow")
  public record NowBody(String part, double millis, int tests) {}

  /**
   * A part of a plan.
   *
   * @param part from 1
   */
  @Schema(name = "PlanPart")
  public record PartBody(int part, double millis, int tests, List<String> suites) {}

  @GET
  @Path("plan")
  @Operation(
      operationId = "planParts",
      summary =
          "The suites of a stream split over parts that take about as long, by how long each takes now")
  public PlanBody plan(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("parts") @Nullable Integer parts) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw invalid("say of which stream: ?stream=booking-api/nightly");
    }
    if (parts == null || parts < 1 || parts > MOST_PARTS) {
      throw invalid("say over how many parts: parts, from 1 to " + MOST_PARTS);
    }
    List<RankStore.Load> loads = store.loads(project.id(), stream);
    if (loads.isEmpty()) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "nothing is known of tests of “" + stream + "”: it needs a run that is explained");
    }
    Split split = Split.of(loads, parts);
    List<RankStore.Load> now = store.partsNow(project.id(), stream);
    return new PlanBody(
        stream,
        loads.stream().mapToDouble(RankStore.Load::millis).sum(),
        split.millis(),
        now.size() < 2
            ? null
            : (Double) now.stream().mapToDouble(RankStore.Load::millis).max().orElse(0),
        now.stream().map(one -> new NowBody(one.suite(), one.millis(), one.tests())).toList(),
        parts(split));
  }

  private static List<PartBody> parts(Split split) {
    List<PartBody> parts = new ArrayList<>();
    for (Split.Part part : split.parts()) {
      parts.add(
          new PartBody(
              parts.size() + 1,
              part.millis(),
              part.loads().stream().mapToInt(RankStore.Load::tests).sum(),
              part.loads().stream().map(RankStore.Load::suite).toList()));
    }
    return parts;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
