package org.vinecellar.service.trust.grid;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.trust.grid.GridStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.web.Pages;

/** Tests by runs. */
@Path("/api/v1/projects/{project}/tests/grid")
@Tag(name = "trust")
@Produces(MediaType.APPLICATION_JSON)
public class GridResource {
  private static final int RUNS = 100;
  private static final int TESTS = 200;
  private static final int MOST_TESTS = 500;

  private final GridStore store;
  private final Caller caller;
  private final FilterReader filters;

  GridResource(GridStore store, Caller caller, FilterReader filters) {
    this.store = store;
    this.caller = caller;
    this.filters = filters;
  }

  @GET
  @Operation(
      operationId = "grid",
      summary =
          "What tests did in the latest runs of a stream, those that failed most first; filter is of"
              + " tests, run leaves those that fail in it and the runs up to it")
  public GridBody grid(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("run") @Nullable Integer run,
      @QueryParam("branch") @Nullable String branch,
      @QueryParam("runs") @Nullable Integer runs,
      @QueryParam("limit") @Nullable Integer limit) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "say of which stream: ?stream=booking-api/nightly");
    }
    return store
        .grid(
            project.id(),
            new GridStore.Question(
                stream,
                filters.read(project, filter, Thing.TEST),
                run,
                branch,
                runs == null ? RUNS : Pages.limit(runs, RUNS, RUNS),
                Pages.limit(limit, TESTS, MOST_TESTS)))
        .map(GridBody::of)
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND,
                    "there is no stream “"
                        + stream
                        + "”"
                        + (run == null ? "" : " with a run #" + run)));
  }
}
