package org.vinecellar.service.runs;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.time.Instant;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.runs.FindCursor;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.web.Pages;

/** Results over all runs: what a number that counts results leads to. */
@Path("/api/v1/projects/{project}/results")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class FindResource {
  private static final int USUAL = 100;
  private static final int MOST = 500;

  private final RunStore store;
  private final Caller caller;
  private final FilterReader filters;

  FindResource(RunStore store, Caller caller, FilterReader filters) {
    this.store = store;
    this.caller = caller;
    this.filters = filters;
  }

  /** A result, and the run that it is in. */
  @Schema(name = "FoundResult")
  public record FoundBody(OfBody run, ResultBody result) {
    static FoundBody of(FoundPage.Found found) {
      return new FoundBody(OfBody.of(found.run()), ResultBody.of(found.result()));
    }
  }

  /** The run that a result is in. */
  @Schema(name = "RunOfResult")
  public record OfBody(
      long id,
      String stream,
      int number,
      Instant startedAt,
      @Schema(nullable = true) @Nullable String commit,
      @Schema(nullable = true) @Nullable String branch) {
    static OfBody of(FoundPage.Of run) {
      return new OfBody(
          run.id(), run.stream(), run.number(), run.startedAt(), run.commit(), run.branch());
    }
  }

  @GET
  @Operation(
      operationId = "findResults",
      summary =
          "Results over all runs, those of the newest run first; a page may be short and still link"
              + " to a next one, since looking ends after some seconds; filter is of results")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = FoundBody.class)))
  public Response find(
      @PathParam("project") String key,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    FoundPage page =
        store.find(
            project.id(),
            new FindQuery(
                filters.read(project, filter, Thing.RESULT),
                Words.cursor(cursor, FindCursor::decode),
                Pages.limit(limit, USUAL, MOST)));
    FindCursor next = page.next();
    return Pages.page(
            page.results().stream().map(FoundBody::of).toList(),
            uri,
            next == null ? null : next.encode())
        .build();
  }
}
