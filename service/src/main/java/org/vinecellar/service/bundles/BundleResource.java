package org.vinecellar.service.bundles;

import io.vertx.core.http.HttpServerRequest;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.bundles.Bundle;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/** Which bundles there are, and where they open. */
@Path("/api/v1/projects/{project}/bundles")
@Tag(name = "bundles")
@Produces(MediaType.APPLICATION_JSON)
public class BundleResource {
  private final BundleStore store;
  private final BundleServer server;
  private final Tickets tickets;
  private final Caller caller;

  BundleResource(BundleStore store, BundleServer server, Tickets tickets, Caller caller) {
    this.store = store;
    this.server = server;
    this.tickets = tickets;
    this.caller = caller;
  }

  /**
   * A bundle.
   *
   * @param url where its first page is, for some hours and whoever has it
   * @param ownOrigin whether it has an origin of its own there, so that it may keep things
   */
  @Schema(name = "Bundle")
  public record BundleBody(
      long id,
      String stream,
      int run,
      String title,
      Instant createdAt,
      int files,
      long bytes,
      String url,
      boolean ownOrigin) {}

  @GET
  @Operation(operationId = "listBundles", summary = "Bundles of a run, by title")
  public List<BundleBody> ofRun(
      @PathParam("project") String key,
      @QueryParam("run") long run,
      @Context HttpServerRequest request) {
    Project project = caller.project(key, Right.READ);
    return store.ofRun(project.id(), run).stream().map(b -> body(project, b, request)).toList();
  }

  @GET
  @Path("latest")
  @Operation(
      operationId = "latestBundle",
      summary = "The latest bundle of a stream; with title, the latest of that title")
  public BundleBody latest(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("title") @Nullable String title,
      @Context HttpServerRequest request) {
    Project project = caller.project(key, Right.READ);
    return store
        .latest(project.id(), stream == null ? "" : stream, title)
        .map(bundle -> body(project, bundle, request))
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND, "the stream “" + stream + "” has no such bundle"));
  }

  private BundleBody body(Project project, Bundle b, HttpServerRequest request) {
    BundleHosts.Place place = server.placeOf(project.id(), b.id(), request);
    return new BundleBody(
        b.id(),
        b.stream(),
        b.runNumber(),
        b.title(),
        b.createdAt(),
        b.files(),
        b.bytes(),
        place.base() + "/" + tickets.issue(project.id(), b.id()) + "/" + encoded(b.indexPath()),
        place.own());
  }

  private static String encoded(String path) {
    return java.net.URLEncoder.encode(path, java.nio.charset.StandardCharsets.UTF_8)
        .replace("+", "%20")
        .replace("%2F", "/");
  }
}
