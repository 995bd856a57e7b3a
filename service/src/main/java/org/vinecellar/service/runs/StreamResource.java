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
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.StreamSettings;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.config.VineConfig;

/** Streams with their latest runs. */
@Path("/api/v1/projects/{project}/streams")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class StreamResource {
  private final RunStore store;
  private final Caller caller;
  private final VineConfig config;
  private final InstantSource clock;

  StreamResource(RunStore store, Caller caller, VineConfig config, InstantSource clock) {
    this.store = store;
    this.clock = clock;
    this.config = config;
    this.caller = caller;
  }

  @GET
  @Operation(
      operationId = "listStreams",
      summary =
          "Streams by name, each with its latest run and its last 30; with “name” that one, and its trend")
  public List<StreamBody> list(
      @PathParam("project") String key, @QueryParam("name") @Nullable String name) {
    Project project = caller.project(key, Right.READ);
    Instant now = clock.instant();
    return (name == null
            ? store.streams(project.id())
            : store.stream(project.id(), name).stream().toList())
        .stream().map(stream -> StreamBody.of(stream, now)).toList();
  }

  /**
   * What can be set of a stream; null stands for what the service is set to.
   *
   * @param silenceMinutes after so long without news its open runs are closed; 1 to 10080, a week
   * @param bundleDays how long its bundles are kept; 1 to 3650
   * @param bundleMegabytes of one bundle, unpacked; 1 to 10240
   * @param mainBranch with whose runs those of branches without a run before are compared; usually
   *     main, master or trunk
   */
  @Schema(name = "StreamSettings")
  public record SettingsBody(
      @Schema(nullable = true) @Nullable Integer silenceMinutes,
      @Schema(nullable = true) @Nullable Integer bundleDays,
      @Schema(nullable = true) @Nullable Integer bundleMegabytes,
      @Schema(nullable = true) @Nullable String mainBranch) {
    static SettingsBody of(StreamSettings s) {
      Duration silence = s.silence();
      return new SettingsBody(
          silence == null ? null : Math.toIntExact(silence.toMinutes()),
          s.bundleDays(),
          s.bundleMegabytes(),
          s.mainBranch());
    }
  }

  /** What is set of a stream, and what the service is set to. */
  @Schema(name = "StreamSettingsView")
  public record ViewBody(SettingsBody own, SettingsBody usual) {}

  @GET
  @Path("settings")
  @Operation(operationId = "getStreamSettings", summary = "What is set of a stream")
  public ViewBody settings(
      @PathParam("project") String key, @QueryParam("name") @Nullable String name) {
    Project project = caller.project(key, Right.READ);
    StreamSettings own =
        (name == null ? Optional.<StreamSettings>empty() : store.settings(project.id(), name))
            .orElseThrow(() -> noStream(project, name));
    return new ViewBody(
        SettingsBody.of(own),
        new SettingsBody(
            Math.toIntExact(config.run().silence().toMinutes()),
            config.bundle().days(),
            config.bundle().maxMegabytes(),
            null));
  }

  @PUT
  @Path("settings")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "setStreamSettings", summary = "Change the settings of a stream")
  public SettingsBody set(
      @PathParam("project") String key,
      @QueryParam("name") @Nullable String name,
      @Nullable SettingsBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "send the settings as JSON: silenceMinutes, bundleDays, bundleMegabytes, mainBranch");
    }
    Integer minutes = body.silenceMinutes();
    StreamSettings settings =
        new StreamSettings(
            minutes == null ? null : Duration.ofMinutes(minutes),
            body.bundleDays(),
            body.bundleMegabytes(),
            body.mainBranch());
    if (name == null || !store.setSettings(project.id(), name, settings, clock.instant())) {
      throw noStream(project, name);
    }
    return body;
  }

  private static CellarException noStream(Project project, @Nullable String name) {
    return new CellarException(
        ProblemCode.NOT_FOUND, "project “" + project.key() + "” has no stream “" + name + "”");
  }
}
