package org.vinecellar.service.removal;

import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Response;
import java.time.InstantSource;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jboss.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.removal.RemovalStore;
import org.vinecellar.service.access.Caller;

/** Runs and streams are deleted by owners; who did it stands in the log. */
@Path("/api/v1/projects/{project}")
@Tag(name = "removal")
public class RemovalResource {
  private static final Logger LOG = Logger.getLogger(RemovalResource.class);

  private final RemovalStore store;
  private final Caller caller;
  private final InstantSource clock;

  RemovalResource(RemovalStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  @DELETE
  @Path("runs/{run}")
  @Operation(
      operationId = "deleteRun",
      summary = "Delete a run with all its results; its number is not given again")
  @APIResponse(responseCode = "204")
  public Response run(@PathParam("project") String key, @PathParam("run") long id) {
    Project project = caller.project(key, Right.TIDY);
    if (!store.removeRun(project.id(), id, clock.instant())) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "project “" + project.key() + "” has no run “" + id + "”");
    }
    LOG.infof("%s deleted run %d of project %s", caller.name(), id, project.key());
    return Response.noContent().build();
  }

  @DELETE
  @Path("streams")
  @Operation(
      operationId = "deleteStream",
      summary = "Delete a stream with all its runs; what is sent to its name begins it anew")
  @APIResponse(responseCode = "204")
  public Response stream(
      @PathParam("project") String key, @QueryParam("name") @Nullable String name) {
    Project project = caller.project(key, Right.TIDY);
    if (name == null
        || name.indexOf('\0') >= 0
        || !store.removeStream(project.id(), name, clock.instant())) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "project “" + project.key() + "” has no such stream; name it, as in ?name=a/nightly");
    }
    LOG.infof("%s deleted stream “%s” of project %s", caller.name(), name, project.key());
    return Response.noContent().build();
  }
}
