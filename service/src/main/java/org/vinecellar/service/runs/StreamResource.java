package org.vinecellar.service.runs;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.time.Duration;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;

/** Streams with their latest runs. */
@Path("/api/v1/projects/{project}/streams")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class StreamResource {
  private static final int MOST_MINUTES = 7 * 24 * 60;

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

  /**
   * What can be set of a stream.
   *
   * @param silenceMinutes from 1 to 10080, a week; null for what the service is set to
   */
  @Schema(name = "StreamSettings")
  public record SettingsBody(@Schema(nullable = true) @Nullable Integer silenceMinutes) {}

  @PUT
  @Path("settings")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "setStream", summary = "Change the settings of a stream")
  public SettingsBody set(
      @PathParam("project") String key,
      @QueryParam("name") @Nullable String name,
      SettingsBody body) {
    Project project = caller.projectAsPerson(key);
    Integer minutes = body.silenceMinutes();
    if (minutes != null && (minutes < 1 || minutes > MOST_MINUTES)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a silence of "
              + minutes
              + " minutes is not possible; it goes from 1 to "
              + MOST_MINUTES);
    }
    Duration silence = minutes == null ? null : Duration.ofMinutes(minutes);
    if (name == null || !store.setSilence(project.id(), name, silence)) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "project “" + project.key() + "” has no stream “" + name + "”");
    }
    return body;
  }
}
