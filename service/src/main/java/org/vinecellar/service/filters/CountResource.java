package org.vinecellar.service.filters;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.time.InstantSource;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.service.access.Caller;

/** How much a filter picks. */
@Path("/api/v1/projects/{project}/filters/count")
@Tag(name = "filters")
@Produces(MediaType.APPLICATION_JSON)
public class CountResource {
  private final RunStore runs;
  private final DeskStore desk;
  private final FilterReader filters;
  private final Caller caller;
  private final InstantSource clock;

  CountResource(
      RunStore runs, DeskStore desk, FilterReader filters, Caller caller, InstantSource clock) {
    this.runs = runs;
    this.desk = desk;
    this.filters = filters;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * How much there is.
   *
   * @param all false when there was too much to look through: then there is at least so much
   */
  @Schema(name = "FoundCount")
  public record CountBody(long number, boolean all) {}

  @GET
  @Operation(
      operationId = "countFitting",
      summary = "How many runs, results over all runs, tests or failure groups fit a filter")
  public CountBody count(
      @PathParam("project") String key,
      @Schema(enumeration = {"run", "result", "test", "group"}) @QueryParam("of")
          @Nullable String of,
      @QueryParam("filter") @Nullable String filter) {
    Project project = caller.project(key, Right.READ);
    Thing thing = FilterResource.listed(of);
    Criterion criterion = filters.read(project, filter, thing);
    if (thing == Thing.GROUP) {
      return new CountBody(
          desk.count(
              project.id(),
              new DeskStore.Question(
                  Show.ALL, null, criterion, caller.name(), clock.instant(), 0, 1)),
          true);
    }
    FoundPage.Count count = runs.count(project.id(), thing, criterion);
    return new CountBody(count.number(), count.all());
  }
}
