package org.vinecellar.service.runs;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;

/** Streams with their latest runs. */
@Path("/api/v1/projects/{project}/streams")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class StreamResource {
  private final RunStore store;
  private final Caller caller;

  StreamResource(RunStore store, Caller caller) {
    this.store = store;
    this.caller = caller;
  }

  @GET
  @Operation(
      operationId = "listStreams",
      summary = "Streams by name, each with its latest run, its last 30 and its trend")
  public List<StreamBody> list(
      @PathParam("project") String key, @QueryParam("name") @Nullable String name) {
    Project project = caller.project(key);
    return (name == null
            ? store.streams(project.id())
            : store.stream(project.id(), name).stream().toList())
        .stream().map(StreamBody::of).toList();
  }
}
