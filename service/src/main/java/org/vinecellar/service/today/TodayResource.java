package org.vinecellar.service.today;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneOffset;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.today.TodayStore;
import org.vinecellar.service.access.Caller;

/** What needs who asks. */
@Path("/api/v1/projects/{project}/today")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class TodayResource {
  private final TodayStore store;
  private final Caller caller;
  private final InstantSource clock;

  TodayResource(TodayStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * A look.
   *
   * @param since when they last looked before that; null for who never did
   */
  @Schema(name = "Look")
  public record LookBody(@Nullable Instant since) {}

  @POST
  @Path("look")
  @Operation(
      operationId = "look",
      summary = "Who asks looks now; the answer tells when they last did before that")
  public LookBody look(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return new LookBody(store.look(project.id(), caller.name(), clock.instant()));
  }

  @GET
  @Operation(
      operationId = "today",
      summary = "What needs who asks: new, returned and own groups, and each stream's latest run")
  public TodayBody today(
      @PathParam("project") String key, @QueryParam("since") @Nullable String since) {
    Project project = caller.project(key, Right.READ);
    Instant now = clock.instant();
    Instant from = now.minus(TodayStore.FIRST_LOOK);
    if (since != null) {
      try {
        from = Instant.parse(since);
      } catch (java.time.format.DateTimeParseException e) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "since is “" + since + "”; it takes a time such as 2026-11-20T06:00:00Z",
            e);
      }
    }
    return TodayBody.of(
        store.today(project.id(), caller.name(), from, now),
        LocalDate.ofInstant(now, ZoneOffset.UTC));
  }
}
