package org.vinecellar.service.boards;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.boards.Board;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.ReadyBoard;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;

/** Boards. What their panels show is asked for beside them. */
@Path("/api/v1/projects/{project}/boards")
@Tag(name = "boards")
@Produces(MediaType.APPLICATION_JSON)
public class BoardResource {
  private final BoardStore store;
  private final FilterReader filters;
  private final Caller caller;
  private final InstantSource clock;

  BoardResource(BoardStore store, FilterReader filters, Caller caller, InstantSource clock) {
    this.store = store;
    this.filters = filters;
    this.caller = caller;
    this.clock = clock;
  }

  /** A board as it is written: what is read can be written again, here or in another project. */
  @Schema(name = "NewBoard")
  public record BoardSaidBody(@Nullable String name, @Nullable List<@Nullable PanelBody> panels) {
    Board board() {
      List<Panel> said =
          panels == null
              ? List.of()
              : panels.stream().map(one -> Said.there(one, "a panel").panel()).toList();
      return new Board(name == null ? "" : name.strip(), said);
    }
  }

  /**
   * A board as it shall be.
   *
   * @param version that was seen
   */
  @Schema(name = "ChangedBoard")
  public record BoardChangeBody(@Nullable Integer version, @Nullable BoardSaidBody board) {}

  /**
   * A board.
   *
   * @param version goes up with every change
   * @param changedBy who changed it last
   */
  @Schema(name = "Board")
  public record BoardBody(
      long id,
      int version,
      String name,
      List<PanelBody> panels,
      Instant changedAt,
      String changedBy) {
    static BoardBody of(Board.Kept kept) {
      return new BoardBody(
          kept.id(),
          kept.version(),
          kept.board().name(),
          kept.board().panels().stream().map(PanelBody::of).toList(),
          kept.changedAt(),
          kept.changedBy());
    }
  }

  /** A board in the list of them. */
  @Schema(name = "BoardLine")
  public record BoardLineBody(
      long id, String name, int panels, Instant changedAt, String changedBy) {}

  /**
   * A board to begin with.
   *
   * @param word by which it is asked for
   * @param meaning for people
   */
  @Schema(name = "ReadyBoard")
  public record ReadyBody(String word, String title, String meaning) {}

  /**
   * From which ready board another one is made.
   *
   * @param ready its word
   * @param name of the new one; as the ready one is called when left out
   * @param stream of which it tells; all when left out
   */
  @Schema(name = "BoardFromReady")
  public record FromReadyBody(
      @Nullable String ready,
      @Schema(nullable = true) @Nullable String name,
      @Schema(nullable = true) @Nullable String stream) {}

  @GET
  @Operation(operationId = "listBoards", summary = "Boards by name")
  public List<BoardLineBody> boards(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return store.boards(project.id()).stream()
        .map(
            kept ->
                new BoardLineBody(
                    kept.id(),
                    kept.board().name(),
                    kept.board().panels().size(),
                    kept.changedAt(),
                    kept.changedBy()))
        .toList();
  }

  @GET
  @Path("ready")
  @Operation(operationId = "listReadyBoards", summary = "Boards to begin with")
  public List<ReadyBody> ready(@PathParam("project") String key) {
    caller.project(key, Right.READ);
    return Arrays.stream(ReadyBoard.values())
        .map(one -> new ReadyBody(one.word(), one.title(), one.meaning()))
        .toList();
  }

  @POST
  @Path("ready")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "addReadyBoard", summary = "Keep a copy of a ready board")
  public BoardBody addReady(@PathParam("project") String key, @Nullable FromReadyBody body) {
    Project project = caller.project(key, Right.EDIT);
    FromReadyBody said = Said.there(body, "the ready board");
    ReadyBoard ready =
        ReadyBoard.ofWord(said.ready() == null ? "" : said.ready())
            .orElseThrow(
                () ->
                    Said.invalid(
                        "there is no ready board “"
                            + said.ready()
                            + "”; there are "
                            + String.join(
                                ", ",
                                Arrays.stream(ReadyBoard.values())
                                    .map(ReadyBoard::word)
                                    .toList())));
    String name = said.name();
    return kept(
        project,
        ready.board(name == null || name.isBlank() ? ready.title() : name.strip(), said.stream()));
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "addBoard", summary = "Keep a board")
  public BoardBody add(@PathParam("project") String key, @Nullable BoardSaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    return kept(project, Said.there(body, "the board").board());
  }

  private BoardBody kept(Project project, Board board) {
    board.check(clock, filters.names(project).sharedAlone());
    return BoardBody.of(store.add(project.id(), board, hand()));
  }

  @GET
  @Path("{board}")
  @Operation(operationId = "getBoard", summary = "One board with its panels")
  public BoardBody board(@PathParam("project") String key, @PathParam("board") long id) {
    Project project = caller.project(key, Right.READ);
    return BoardBody.of(store.board(project.id(), id));
  }

  @PUT
  @Path("{board}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "changeBoard", summary = "Put another board in its place")
  public BoardBody change(
      @PathParam("project") String key,
      @PathParam("board") long id,
      @Nullable BoardChangeBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null || body.version() == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED, "say which version of the board you saw, as JSON: version");
    }
    Board board = Said.there(body.board(), "the board").board();
    board.check(clock, filters.names(project).sharedAlone());
    return BoardBody.of(store.change(project.id(), id, body.version(), board, hand()));
  }

  @DELETE
  @Path("{board}")
  @Operation(operationId = "removeBoard", summary = "Take a board away, for everybody")
  public void remove(@PathParam("project") String key, @PathParam("board") long id) {
    Project project = caller.project(key, Right.EDIT);
    store.remove(project.id(), id);
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }
}
