package org.vinecellar.service.live;

import io.vertx.core.Context;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.ext.web.RoutingContext;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.io.ByteArrayInputStream;
import java.time.InstantSource;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.CompletionStage;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.parameters.RequestBody;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.formats.live.LiveJson;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.live.LivePart;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Variant;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.access.Projects;
import org.vinecellar.service.door.Bodies;
import org.vinecellar.service.guard.Disk;
import org.vinecellar.service.guard.Loops;
import org.vinecellar.service.guard.PublicAddress;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;

/** Takes parts in while their tests run. */
@Path("/api/v1/projects/{project}/live")
@Tag(name = "live")
@Produces(MediaType.APPLICATION_JSON)
@Consumes(MediaType.APPLICATION_JSON)
public class LiveResource {
  private static final int MAX_BATCH_BYTES = 4 << 20;

  private final LiveStore store;
  private final Caller caller;
  private final Projects projects;
  private final Rooms rooms;
  private final Bodies bodies;
  private final Disk disk;
  private final PublicAddress address;
  private final InstantSource clock;

  LiveResource(
      LiveStore store,
      Caller caller,
      Projects projects,
      Rooms rooms,
      Bodies bodies,
      Disk disk,
      PublicAddress address,
      InstantSource clock) {
    this.store = store;
    this.projects = projects;
    this.rooms = rooms;
    this.bodies = bodies;
    this.disk = disk;
    this.address = address;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * What a part says of itself when it begins.
   *
   * @param run key that all parts of the run share
   */
  @Schema(name = "NewLivePart")
  public record NewPart(
      String stream,
      String run,
      @Schema(nullable = true) @Nullable String part,
      @Schema(nullable = true) @Nullable Map<String, String> variant,
      @Schema(nullable = true) @Nullable Integer attempt,
      @Schema(nullable = true) @Nullable String commit,
      @Schema(nullable = true) @Nullable String branch,
      @Schema(nullable = true) @Nullable String buildUrl,
      @Schema(nullable = true) @Nullable Map<String, String> labels,
      @Schema(nullable = true) @Nullable Integer expectParts) {}

  /**
   * A part that has begun.
   *
   * @param live names it in further calls, and in the upload that takes its place
   */
  @Schema(name = "LivePart")
  public record PartBody(String live, String url, String stream, int number) {}

  /** The last batch that was taken in; the next one has the number after it. */
  @Schema(name = "TakenBatch")
  public record TakenBody(int batch) {}

  @POST
  @Operation(
      operationId = "openLive",
      summary = "Begin a part that comes while its tests run",
      description =
          "What is sent of it is provisional. At the end the whole part comes as an upload with the"
              + " field “live”, and takes its place.")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = PartBody.class)))
  public Response open(
      @PathParam("project") String key,
      @Nullable NewPart body,
      @jakarta.ws.rs.core.Context HttpServerRequest request) {
    Project project = caller.project(key, Right.SEND);
    disk.require(0);
    if (body == null || body.stream() == null || body.run() == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "name the stream and the run’s key, as “stream” and “run”");
    }
    UploadRequest upload =
        new UploadRequest(
            new UploadRequest.Target(
                project.id(),
                body.stream(),
                body.run(),
                new UploadRequest.PartKey(
                    body.part(),
                    Variant.of(Objects.requireNonNullElse(body.variant(), Map.of())),
                    body.attempt())),
            new Origin(body.commit(), body.branch(), body.buildUrl()),
            Objects.requireNonNullElse(body.labels(), Map.of()),
            body.expectParts(),
            null,
            null,
            CsvColumns.NONE,
            true);
    LivePart part = store.open(upload, "key:" + body.run(), clock.instant());
    String page = "/" + project.key() + "/runs/" + part.stream() + "/" + part.number();
    return Response.status(201)
        .entity(
            new PartBody(
                part.runId() + "-" + part.partNo(),
                address.base(request) + page,
                part.stream(),
                part.number()))
        .build();
  }

  @POST
  @Path("{live}/batches")
  @Operation(
      operationId = "appendLive",
      summary = "Add results; a batch that was taken in before changes nothing")
  @RequestBody(
      content =
          @Content(
              mediaType = MediaType.APPLICATION_JSON,
              schema = @Schema(type = SchemaType.OBJECT)))
  public CompletionStage<TakenBody> append(
      @PathParam("project") String key,
      @PathParam("live") String live,
      @jakarta.ws.rs.core.Context RoutingContext context) {
    Visitor visitor = caller.visitor();
    Context loop = Loops.of(context);
    return rooms
        .run(Room.DOOR, () -> find(projects.enter(visitor, key, Right.SEND), live))
        .thenCompose(
            part ->
                Rooms.on(loop, () -> bodies.read(context, MAX_BATCH_BYTES))
                    .thenCompose(
                        batch -> rooms.run(Room.LIVE, () -> take(part, batch.getBytes()))));
  }

  private TakenBody take(LivePart part, byte[] body) {
    disk.require(body.length);
    LiveJson.Batch batch = LiveJson.read(new ByteArrayInputStream(body));
    return new TakenBody(
        store.append(part, batch.number(), batch.results(), batch.running(), clock.instant()));
  }

  private LivePart find(Project project, String live) {
    if (live.matches("[0-9]{1,15}-[0-9]{1,7}")) {
      int dash = live.indexOf('-');
      var found =
          store.find(
              project.id(),
              Long.parseLong(live.substring(0, dash)),
              Integer.parseInt(live.substring(dash + 1)));
      if (found.isPresent()) {
        return found.get();
      }
    }
    throw new CellarException(
        ProblemCode.NOT_FOUND, "no part “" + live + "” is live; its run may have been closed");
  }
}
