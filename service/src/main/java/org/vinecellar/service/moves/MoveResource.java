package org.vinecellar.service.moves;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.time.InstantSource;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jboss.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/** Owners put right what was sent under a wrong name; who did it stands in the log. */
@Path("/api/v1/projects/{project}")
@Tag(name = "moves")
@Produces(MediaType.APPLICATION_JSON)
public class MoveResource {
  private static final Logger LOG = Logger.getLogger(MoveResource.class);

  private final MoveStore store;
  private final Caller caller;
  private final InstantSource clock;

  MoveResource(MoveStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  /** What a stream shall be called. */
  @Schema(name = "NewStreamName")
  public record NameBody(@Nullable String name) {}

  /** Where runs shall be. */
  @Schema(name = "MoveTarget")
  public record TargetBody(@Nullable String to) {}

  /**
   * Where a run is now.
   *
   * @param number that it has there
   */
  @Schema(name = "MovedRun")
  public record MovedRunBody(String stream, int number) {}

  /**
   * Where the runs of a stream are now.
   *
   * @param moved how many are there already
   * @param left how many follow in the background
   */
  @Schema(name = "MovedRuns")
  public record MovedRunsBody(String stream, int moved, int left) {}

  @POST
  @Path("streams/rename")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "renameStream",
      summary = "Give a stream another name; what is sent to the one of before still goes to it")
  public NameBody rename(
      @PathParam("project") String key,
      @QueryParam("name") @Nullable String name,
      @Nullable NameBody body) {
    Project project = caller.project(key, Right.TIDY);
    String wanted = word(body == null ? null : body.name(), "name");
    store.rename(project.id(), word(name, "name"), wanted, hand());
    LOG.infof("%s renamed stream “%s” of project %s to “%s”", by(), name, project.key(), wanted);
    return new NameBody(wanted);
  }

  @POST
  @Path("streams/move")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "moveRuns",
      summary =
          "Move all runs of a stream to another one, which what is sent to its name goes to from"
              + " then on; more than 50 follow in the background")
  public MovedRunsBody moveAll(
      @PathParam("project") String key,
      @QueryParam("name") @Nullable String name,
      @Nullable TargetBody body) {
    Project project = caller.project(key, Right.TIDY);
    String to = word(body == null ? null : body.to(), "to");
    MoveStore.Moved moved = store.moveAll(project.id(), word(name, "name"), to, hand());
    LOG.infof("%s moved stream “%s” of project %s to “%s”", by(), name, project.key(), to);
    return new MovedRunsBody(moved.stream(), moved.moved(), moved.left());
  }

  @POST
  @Path("runs/{run}/move")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "moveRun",
      summary = "Move a closed run to another stream, where it gets a number and its place in time")
  public MovedRunBody move(
      @PathParam("project") String key, @PathParam("run") long id, @Nullable TargetBody body) {
    Project project = caller.project(key, Right.TIDY);
    String to = word(body == null ? null : body.to(), "to");
    MoveStore.Place place = store.moveRun(project.id(), id, to, hand());
    LOG.infof("%s moved run %d of project %s to “%s”", by(), id, project.key(), to);
    return new MovedRunBody(place.stream(), place.number());
  }

  @GET
  @Path("streams/names-before")
  @Operation(operationId = "listNamesBefore", summary = "What a stream was called before")
  public List<String> namesBefore(
      @PathParam("project") String key, @QueryParam("name") @Nullable String name) {
    Project project = caller.project(key, Right.READ);
    return store.namesBefore(project.id(), word(name, "name"));
  }

  @DELETE
  @Path("streams/names-before")
  @Operation(
      operationId = "forgetNameBefore",
      summary = "Let a name of before go: what is sent to it begins a stream of its own")
  @APIResponse(responseCode = "204")
  public Response forget(
      @PathParam("project") String key, @QueryParam("name") @Nullable String name) {
    Project project = caller.project(key, Right.TIDY);
    if (!store.forget(project.id(), word(name, "name"))) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "no stream was called “" + name + "” before");
    }
    LOG.infof("%s let the name “%s” of project %s go", by(), name, project.key());
    return Response.noContent().build();
  }

  private static String word(@Nullable String given, String field) {
    if (given == null || given.isBlank() || given.indexOf('\0') >= 0) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "“" + field + "” is missing; it is the name of a stream");
    }
    return given;
  }

  private EditStore.Hand hand() {
    return new EditStore.Hand(caller.name(), clock.instant());
  }

  private String by() {
    return caller.name();
  }
}
