package org.vinecellar.service.live;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.io.IOException;
import java.io.InputStream;
import java.time.InstantSource;
import java.util.Map;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.formats.live.LiveJson;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.live.LivePart;
import org.vinecellar.core.live.LiveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/** Takes parts in while their tests run. */
@Path("/api/v1/projects/{project}/live")
@Tag(name = "live")
@Produces(MediaType.APPLICATION_JSON)
@Consumes(MediaType.APPLICATION_JSON)
public class LiveResource {
  private static final int MAX_BATCH_BYTES = 64 << 20;
  private static final ObjectMapper JSON = new ObjectMapper();

  private final LiveStore store;
  private final Caller caller;
  private final InstantSource clock;

  LiveResource(LiveStore store, Caller caller, InstantSource clock) {
    this.store = store;
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
      @PathParam("project") String key, @Nullable NewPart body, @Context UriInfo uri) {
    Project project = caller.project(key);
    if (body == null || body.stream() == null || body.run() == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "name the stream and the run’s key, as “stream” and “run”");
    }
    UploadRequest request =
        new UploadRequest(
            project.id(),
            body.stream(),
            body.run(),
            body.part(),
            body.commit(),
            body.branch(),
            body.buildUrl(),
            Objects.requireNonNullElse(body.labels(), Map.of()),
            body.expectParts(),
            null,
            null,
            CsvColumns.NONE,
            true);
    LivePart part = store.open(request, "key:" + body.run(), clock.instant());
    String page = "/" + project.key() + "/runs/" + part.stream() + "/" + part.number();
    return Response.status(201)
        .entity(
            new PartBody(
                part.runId() + "-" + part.partNo(),
                uri.getBaseUri().resolve(page).toString(),
                part.stream(),
                part.number()))
        .build();
  }

  @POST
  @Path("{live}/batches")
  @Operation(
      operationId = "appendLive",
      summary = "Add results; a batch that was taken in before changes nothing")
  public TakenBody append(
      @PathParam("project") String key, @PathParam("live") String live, InputStream body) {
    Project project = caller.project(key);
    LivePart part = find(project, live);
    LiveJson.Batch batch = LiveJson.read(bounded(body));
    return new TakenBody(
        store.append(part, batch.number(), batch.results(), batch.running(), clock.instant()));
  }

  private static JsonNode bounded(InputStream body) {
    try {
      byte[] bytes = body.readNBytes(MAX_BATCH_BYTES + 1);
      if (bytes.length > MAX_BATCH_BYTES) {
        throw new CellarException(
            ProblemCode.TOO_LARGE, "the batch has more than " + MAX_BATCH_BYTES + " bytes");
      }
      JsonNode batch = JSON.readTree(bytes);
      return batch == null ? JSON.nullNode() : batch;
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the batch is no JSON: " + e.getMessage(), e);
    }
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
