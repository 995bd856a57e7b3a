package org.vinecellar.service.boards;

import io.vertx.core.http.HttpServerRequest;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.boards.BoardLink;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.access.Secrets;
import org.vinecellar.service.guard.PublicAddress;

/** Links by which a board is seen without an account. */
@Path("/api/v1/projects/{project}/boards/{board}/links")
@Tag(name = "boards")
@Produces(MediaType.APPLICATION_JSON)
public class BoardLinkResource {
  private static final int SECRET_BYTES = 32;
  private static final int USUAL_DAYS = 30;

  private final BoardStore store;
  private final Caller caller;
  private final PublicAddress address;
  private final InstantSource clock;

  BoardLinkResource(BoardStore store, Caller caller, PublicAddress address, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.address = address;
    this.clock = clock;
  }

  /** A link, without what opens it: that is told once, when it is made. */
  @Schema(name = "BoardLink")
  public record LinkBody(long id, String madeBy, Instant madeAt, Instant endsAt) {
    static LinkBody of(BoardLink link) {
      return new LinkBody(link.id(), link.madeBy(), link.madeAt(), link.endsAt());
    }
  }

  /**
   * A link that is asked for.
   *
   * @param days for how many it is good, 1 to 366; 30 when left out
   */
  @Schema(name = "NewBoardLink")
  public record NewLinkBody(@Schema(nullable = true) @Nullable Integer days) {}

  /**
   * A link that was made.
   *
   * @param url what opens the board; it is not told again
   */
  @Schema(name = "MadeBoardLink")
  public record MadeBody(String url, LinkBody link) {}

  @GET
  @Operation(operationId = "listBoardLinks", summary = "The links of a board that are good")
  public List<LinkBody> links(@PathParam("project") String key, @PathParam("board") long board) {
    Project project = caller.project(key, Right.MANAGE);
    return store.links(project.id(), board, clock.instant()).stream().map(LinkBody::of).toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "addBoardLink",
      summary =
          "Make a link by which anybody sees the board without an account, and nothing else, until"
              + " it ends")
  public MadeBody add(
      @PathParam("project") String key,
      @PathParam("board") long board,
      @Nullable NewLinkBody body,
      @Context HttpServerRequest request) {
    Project project = caller.project(key, Right.MANAGE);
    Integer days = body == null ? null : body.days();
    Instant now = clock.instant();
    String secret = Secrets.random(SECRET_BYTES);
    BoardLink link =
        store.addLink(
            project.id(),
            board,
            Secrets.hash(secret),
            BoardLink.end(days == null ? USUAL_DAYS : days, now),
            new Hand(caller.name(), now));
    // Behind the “#”, so that no server and no log on the way sees it.
    return new MadeBody(address.base(request) + "/shared#" + secret, LinkBody.of(link));
  }

  @DELETE
  @Path("{link}")
  @Operation(operationId = "removeBoardLink", summary = "Make a link useless")
  public void remove(
      @PathParam("project") String key,
      @PathParam("board") long board,
      @PathParam("link") long link) {
    Project project = caller.project(key, Right.MANAGE);
    store.removeLink(project.id(), board, link);
  }
}
