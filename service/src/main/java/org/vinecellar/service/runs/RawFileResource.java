package org.vinecellar.service.runs;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Response;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.web.Downloads;

/** Result files as they came. */
@Path("/api/v1/projects/{project}/runs/{run}/parts/{part}/files/{file}")
@Tag(name = "runs")
public class RawFileResource {
  private final RunStore store;
  private final Caller caller;
  private final Downloads downloads;

  RawFileResource(RunStore store, Caller caller, Downloads downloads) {
    this.store = store;
    this.caller = caller;
    this.downloads = downloads;
  }

  @GET
  @Produces("application/gzip")
  @Operation(operationId = "getRawFile", summary = "A file as it came, packed with gzip")
  public Response raw(
      @PathParam("project") String key,
      @PathParam("run") long run,
      @PathParam("part") int part,
      @PathParam("file") int file) {
    Project project = caller.project(key, Right.READ);
    Content content =
        store
            .run(project.id(), run)
            .flatMap(known -> store.raw(project.id(), run, part, file))
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "run " + run + " has no file “" + part + "/" + file + "”"));
    return downloads
        .response(content, 0, content.size())
        .header("Content-Type", "application/gzip")
        .header("Content-Disposition", "attachment; filename=\"part-" + part + "-" + file + ".gz\"")
        .build();
  }
}
