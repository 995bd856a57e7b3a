package org.vinecellar.service.runs;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Request;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
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
import org.vinecellar.core.ingest.IngestStore;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.SuiteNode;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.web.CountsBody;
import org.vinecellar.service.web.Pages;

/** Runs and their results. */
@Path("/api/v1/projects/{project}/runs")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class RunResource {
  private static final int USUAL = 100;
  private static final int MOST = 500;

  private final RunStore store;
  private final IngestStore ingest;
  private final LiveStore live;
  private final Caller caller;
  private final FilterReader filters;
  private final InstantSource clock;

  RunResource(
      RunStore store,
      IngestStore ingest,
      LiveStore live,
      Caller caller,
      FilterReader filters,
      InstantSource clock) {
    this.store = store;
    this.ingest = ingest;
    this.live = live;
    this.filters = filters;
    this.clock = clock;
    this.caller = caller;
  }

  /** A suite of a run, with what it and the suites inside it hold. */
  @Schema(name = "Suite")
  public record SuiteBody(long id, String name, CountsBody counts, boolean hasSuites) {
    static SuiteBody of(SuiteNode node) {
      return new SuiteBody(node.id(), node.name(), CountsBody.of(node.counts()), node.hasSuites());
    }
  }

  /** A test that the previous run had and this one has not. */
  @Schema(name = "GoneTest")
  public record GoneBody(
      long testId,
      List<String> suite,
      String name,
      @Schema(nullable = true) @Nullable String parameters,
      Map<String, String> variant) {
    static GoneBody of(KeptTest test) {
      return new GoneBody(test.id(), test.suite(), test.name(), test.parameters(), test.variant());
    }
  }

  @GET
  @Operation(
      operationId = "listRuns",
      summary =
          "Runs of a stream, or of all, the newest first; with number or key, that one only;"
              + " filter is of runs")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = RunBody.class)))
  public Response list(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("number") @Nullable Integer number,
      @QueryParam("key") @Nullable String runKey,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    if (number != null || runKey != null) {
      return Response.ok(one(project, stream, number, runKey).stream().map(RunBody::of).toList())
          .build();
    }
    int size = Pages.limit(limit, 30, 200);
    RunQuery query =
        new RunQuery(
            stream,
            filters.read(project, filter, Thing.RUN),
            Words.cursor(cursor, RunQuery.Cursor::decode),
            size);
    List<RunSummary> runs = store.runs(project.id(), query);
    String next =
        runs.size() < size ? null : RunQuery.Cursor.of(runs.get(runs.size() - 1)).encode();
    return Pages.page(runs.stream().map(RunBody::of).toList(), uri, next).build();
  }

  private Optional<RunSummary> one(
      Project project, @Nullable String stream, @Nullable Integer number, @Nullable String runKey) {
    if (stream == null) {
      throw invalid("name the stream, as in ?stream=booking-api/nightly");
    }
    if (number != null) {
      return store.run(project.id(), stream, number);
    }
    return runKey == null
        ? Optional.empty()
        : ingest.runOf(project.id(), stream, runKey).flatMap(id -> store.run(project.id(), id));
  }

  @GET
  @Path("{run}")
  @Operation(operationId = "getRun", summary = "One run")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = RunBody.class)))
  public Response run(
      @PathParam("project") String key, @PathParam("run") long id, @Context Request request) {
    RunSummary run = find(caller.project(key, Right.READ), id);
    // The next run changes nothing of this one, and is told by it.
    return Pages.unlessKnown(
        request, version(run) + "." + run.neighbours().next(), () -> Response.ok(RunBody.of(run)));
  }

  @POST
  @Path("{run}/close")
  @Operation(
      operationId = "closeRun",
      summary = "Close an open run by hand; on a closed one it changes nothing")
  public RunBody close(@PathParam("project") String key, @PathParam("run") long id) {
    Project project = caller.project(key, Right.SEND);
    find(project, id);
    return closed(project, id);
  }

  @POST
  @Path("close")
  @Operation(
      operationId = "closeRunByKey",
      summary = "Close the run of a stream that has the key; on a closed one it changes nothing")
  public RunBody closeByKey(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("key") @Nullable String runKey) {
    Project project = caller.project(key, Right.SEND);
    if (stream == null || runKey == null) {
      throw invalid("name the stream and the run’s key, as in ?stream=booking-api/nightly&key=42");
    }
    long id =
        ingest
            .runOf(project.id(), stream, runKey)
            .orElseThrow(() -> notFound("stream “" + stream + "”", "run with the key", runKey));
    return closed(project, id);
  }

  /** Parts that still come are broken off. A later sign of them, or their whole, mends that. */
  private RunBody closed(Project project, long id) {
    if (ingest.close(project.id(), id, clock.instant())) {
      live.breakOff(project.id(), id, clock.instant());
    }
    return RunBody.of(find(project, id));
  }

  @GET
  @Path("{run}/parts")
  @Operation(operationId = "listParts", summary = "Parts of a run, as they arrived")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = PartBody.class)))
  public Response parts(
      @PathParam("project") String key, @PathParam("run") long id, @Context Request request) {
    Project project = caller.project(key, Right.READ);
    RunSummary run = find(project, id);
    return Pages.unlessKnown(
        request,
        version(run),
        () -> Response.ok(store.parts(project.id(), id).stream().map(PartBody::of).toList()));
  }

  @GET
  @Path("{run}/results")
  @Operation(
      operationId = "listResults",
      summary =
          "Results of a run, failing first, then in execution order; suite 0 stands for none;"
              + " filter is of results")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = ResultBody.class)))
  public Response results(
      @PathParam("project") String key,
      @PathParam("run") long id,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("suite") @Nullable Long suite,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri,
      @Context Request request) {
    Project project = caller.project(key, Right.READ);
    ResultQuery query =
        new ResultQuery(
            filters.read(project, filter, Thing.RESULT),
            suite,
            Words.cursor(cursor, ResultCursor::decode),
            Pages.limit(limit, USUAL, MOST));
    RunSummary run = find(project, id);
    return unlessKnown(
        request,
        run,
        query.filter(),
        () -> {
          List<ResultRow> rows = store.results(project.id(), id, query);
          return Pages.page(
              rows.stream().map(ResultBody::of).toList(), uri, next(rows, query.limit()));
        });
  }

  private static @Nullable String next(List<ResultRow> rows, int limit) {
    if (rows.size() < limit) {
      return null;
    }
    ResultRow last = rows.get(rows.size() - 1);
    return new ResultCursor(last.outcome().isFailing(), last.id()).encode();
  }

  @GET
  @Path("{run}/results/{result}")
  @Operation(operationId = "getResult", summary = "One result; long texts are cut unless full=true")
  public DetailBody result(
      @PathParam("project") String key,
      @PathParam("run") long id,
      @PathParam("result") String result,
      @QueryParam("full") boolean full) {
    Project project = caller.project(key, Right.READ);
    RunSummary run = find(project, id);
    ResultDetail detail =
        ResultId.parse(result)
            .flatMap(resultId -> store.result(project.id(), run, resultId))
            .orElseThrow(
                () -> notFound("run " + run.stream() + "#" + run.number(), "result", result));
    return DetailBody.of(detail, full);
  }

  @GET
  @Path("{run}/suites")
  @Operation(
      operationId = "listSuites",
      summary =
          "Suites inside a suite, or the outermost; counts are of the results that the filter lets"
              + " through")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = SuiteBody.class)))
  public Response suites(
      @PathParam("project") String key,
      @PathParam("run") long id,
      @QueryParam("parent") @Nullable Long parent,
      @QueryParam("filter") @Nullable String filter,
      @Context Request request) {
    Project project = caller.project(key, Right.READ);
    Criterion criterion = filters.read(project, filter, Thing.RESULT);
    RunSummary run = find(project, id);
    return unlessKnown(
        request,
        run,
        criterion,
        () ->
            Response.ok(
                store.suites(project.id(), id, parent, criterion).stream()
                    .map(SuiteBody::of)
                    .toList()));
  }

  @GET
  @Path("{run}/gone")
  @Operation(
      operationId = "listGone",
      summary = "Tests that the previous run had, at most 500; filter is of tests")
  public List<GoneBody> gone(
      @PathParam("project") String key,
      @PathParam("run") long id,
      @QueryParam("filter") @Nullable String filter) {
    Project project = caller.project(key, Right.READ);
    Criterion criterion = filters.read(project, filter, Thing.TEST);
    find(project, id);
    return store.gone(project.id(), id, criterion, MOST).stream().map(GoneBody::of).toList();
  }

  @GET
  @Path("{run}/differences")
  @Operation(
      operationId = "compareRuns",
      summary = "What differs from another run of the stream; lists at most 500, counts all")
  public ComparisonBody differences(
      @PathParam("project") String key,
      @PathParam("run") long id,
      @QueryParam("with") @Nullable Integer with) {
    Project project = caller.project(key, Right.READ);
    RunSummary run = find(project, id);
    if (with == null) {
      throw invalid("name the number of the other run of the stream, as in ?with=12");
    }
    RunSummary other =
        store
            .run(project.id(), run.stream(), with)
            .orElseThrow(
                () -> notFound("stream “" + run.stream() + "”", "run", Integer.toString(with)));
    return ComparisonBody.of(other, store.compare(project.id(), id, other.id(), MOST));
  }

  private RunSummary find(Project project, long id) {
    return store
        .run(project.id(), id)
        .orElseThrow(() -> notFound("project “" + project.key() + "”", "run", Long.toString(id)));
  }

  /**
   * What a filter lets through can change though the run does not: by the time, by a test's tag.
   */
  private static Response unlessKnown(
      Request request,
      RunSummary run,
      Criterion filter,
      Supplier<Response.ResponseBuilder> answer) {
    return filter.equals(Criterion.EVERYTHING)
        ? Pages.unlessKnown(request, version(run), answer)
        : answer.get().header("Cache-Control", "private, no-store").build();
  }

  private static String version(RunSummary run) {
    return run.id() + "." + run.version();
  }

  private static CellarException notFound(String where, String what, String which) {
    return new CellarException(
        ProblemCode.NOT_FOUND, where + " has no " + what + " “" + which + "”");
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
