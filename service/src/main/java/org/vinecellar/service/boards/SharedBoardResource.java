package org.vinecellar.service.boards;

import jakarta.inject.Singleton;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.BoardLink;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.Panels;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.service.access.Secrets;
import org.vinecellar.service.sheets.SheetBody;

/**
 * A board for whoever holds a link of it: what is on it, and nothing else. They can ask for what
 * its panels show as they are, not for another filter or period, and no number leads anywhere.
 */
@Path("/api/v1/shared")
@Tag(name = "boards")
@Produces(MediaType.APPLICATION_JSON)
@Consumes(MediaType.APPLICATION_JSON)
@Singleton
public class SharedBoardResource {
  /** Longer ones are none of ours; they are not even hashed. */
  private static final int LONGEST_SECRET = 200;

  /** Whoever has no account leaves room for those who have. */
  private static final int AT_ONCE = 2;

  private static final Duration WAIT = Duration.ofSeconds(2);

  private final Semaphore places = new Semaphore(AT_ONCE, true);
  private final BoardStore store;
  private final SavedFilterStore saved;
  private final Panels panels;
  private final InstantSource clock;

  SharedBoardResource(
      BoardStore store,
      BoardFacts facts,
      FailureFacts failures,
      RankStore ranks,
      RunStore runs,
      SavedFilterStore saved,
      InstantSource clock) {
    this.store = store;
    this.saved = saved;
    this.panels = new Panels(facts, failures, ranks, runs);
    this.clock = clock;
  }

  /**
   * Which board.
   *
   * @param secret what stands behind the “#” of the link
   * @param panel whose sheet is asked for, counted from 1; of the board itself left out
   * @param version of the board that was seen: in another one its panels may stand elsewhere
   */
  @Schema(name = "SharedAsked")
  public record AskedBody(
      @Nullable String secret,
      @Schema(nullable = true) @Nullable Integer panel,
      @Schema(nullable = true) @Nullable Integer version) {}

  /** A board that was opened by a link. */
  @Schema(name = "SharedBoard")
  public record SharedBody(int version, String name, List<PanelBody> panels, Instant endsAt) {}

  @POST
  @Path("board")
  @Operation(operationId = "openSharedBoard", summary = "The board that a link opens")
  public SharedBody board(@Nullable AskedBody body) {
    BoardLink.Opened opened = opened(body);
    return new SharedBody(
        opened.version(),
        opened.board().name(),
        opened.board().panels().stream().map(PanelBody::of).toList(),
        opened.endsAt());
  }

  @POST
  @Path("sheet")
  @Operation(
      operationId = "getSharedSheet",
      summary = "What a panel of such a board shows; its numbers lead nowhere")
  public SheetBody sheet(@Nullable AskedBody body) {
    BoardLink.Opened opened = opened(body);
    List<Panel> all = opened.board().panels();
    Integer number = body == null ? null : body.panel();
    Integer version = body == null ? null : body.version();
    if (version == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED, "say which version of the board you saw, as JSON: version");
    }
    if (version != opened.version()) {
      throw new CellarException(
          ProblemCode.EDITED_MEANWHILE, "the board was changed meanwhile; look at it again");
    }
    if (number == null || number < 1 || number > all.size()) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "the board has no panel " + number + "; it has " + all.size() + ", counted from 1");
    }
    Panel panel = all.get(number - 1);
    if (panel.project() != null) {
      // Who made the link may read that project; nobody there agreed to it.
      throw new CellarException(
          ProblemCode.NOT_ALLOWED,
          "this panel is of another project; sign in to the portal to see it");
    }
    return SheetBody.of(inTurn(opened.project(), panel).alone());
  }

  private Sheet inTurn(int project, Panel panel) {
    boolean mine = false;
    try {
      mine = places.tryAcquire(WAIT.toMillis(), TimeUnit.MILLISECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    if (!mine) {
      throw new TryLaterException(
          ProblemCode.TOO_MANY_AT_ONCE,
          "too many look at boards by links at once; try again in a moment",
          WAIT);
    }
    try {
      return panels.sheet(
          project, panel, Panels.Switch.NONE, saved.names(project, null), clock.instant());
    } finally {
      places.release();
    }
  }

  private BoardLink.Opened opened(@Nullable AskedBody body) {
    String secret = body == null ? null : body.secret();
    if (secret == null || secret.isEmpty() || secret.length() > LONGEST_SECRET) {
      throw notGood();
    }
    return store
        .opened(Secrets.hash(secret), clock.instant())
        .orElseThrow(SharedBoardResource::notGood);
  }

  private static CellarException notGood() {
    return new CellarException(
        ProblemCode.NOT_FOUND,
        "this link opens nothing: it has ended, was taken back, or is not whole; ask whoever gave"
            + " it to you for another one");
  }
}
