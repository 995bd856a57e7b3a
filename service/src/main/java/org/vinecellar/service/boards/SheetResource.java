package org.vinecellar.service.boards;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DefaultValue;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.StreamingOutput;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.boards.Board;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.PanelKind;
import org.vinecellar.core.boards.Panels;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.problem.ProblemBody;
import org.vinecellar.service.problem.Problems;
import org.vinecellar.service.sheets.SheetBody;
import org.vinecellar.service.sheets.SheetFile;

/** What panels show, of boards that are kept or of none. */
@Path("/api/v1/projects/{project}/boards")
@Tag(name = "boards")
@Produces(MediaType.APPLICATION_JSON)
public class SheetResource {
  /** So many panels are asked for at once. */
  private static final int AT_ONCE = 24;

  private final BoardStore store;
  private final Panels panels;
  private final FilterReader filters;
  private final Problems problems;
  private final Caller caller;
  private final InstantSource clock;

  SheetResource(
      BoardStore store,
      BoardFacts facts,
      FailureFacts failures,
      RankStore ranks,
      RunStore runs,
      FilterReader filters,
      Problems problems,
      Caller caller,
      InstantSource clock) {
    this.store = store;
    this.panels = new Panels(facts, failures, ranks, runs);
    this.filters = filters;
    this.problems = problems;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * A panel whose sheet is asked for, kept or not.
   *
   * @param filter of runs, beside its own; none when left out
   * @param days in place of its own; none when left out
   */
  @Schema(name = "SheetAsked")
  public record AskedBody(
      @Nullable PanelBody panel,
      @Schema(nullable = true) @Nullable String filter,
      @Schema(nullable = true) @Nullable Integer days) {}

  /**
   * Panels whose sheets are asked for.
   *
   * @param filter of runs, beside that of each; none when left out
   * @param days in place of those of each; none when left out
   */
  @Schema(name = "SheetsAsked")
  public record AllAskedBody(
      @Nullable List<@Nullable PanelBody> panels,
      @Schema(nullable = true) @Nullable String filter,
      @Schema(nullable = true) @Nullable Integer days) {}

  /** A sheet, or why there is none: one of both is null. */
  @Schema(name = "SheetOrProblem")
  public record OneBody(
      @Schema(nullable = true) @Nullable SheetBody sheet,
      @Schema(nullable = true) @Nullable ProblemBody problem) {}

  /**
   * The sheet of a panel of a board that is kept, or why there is none: one of both is null.
   *
   * @param panel which of them, counted from 1
   */
  @Schema(name = "PlacedSheet")
  public record PlacedBody(
      int panel,
      @Schema(nullable = true) @Nullable SheetBody sheet,
      @Schema(nullable = true) @Nullable ProblemBody problem) {}

  /**
   * What a board shows.
   *
   * @param version of the board, by which it is known which panels these are
   */
  @Schema(name = "BoardSheets")
  public record BoardSheetsBody(int version, List<PlacedBody> sheets) {}

  @POST
  @Path("sheet")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "getSheet",
      summary = "What a panel shows, kept or not; nothing is changed")
  public SheetBody sheet(@PathParam("project") String key, @Nullable AskedBody body) {
    Project project = caller.project(key, Right.READ);
    AskedBody asked = Said.there(body, "the panel");
    return sheet(project, asked.panel(), new Panels.Switch(asked.filter(), asked.days()));
  }

  @POST
  @Path("sheets")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "getSheets",
      summary =
          "The same of several panels, in their order; one that cannot be shown keeps none of the"
              + " others back")
  public List<OneBody> sheets(@PathParam("project") String key, @Nullable AllAskedBody body) {
    Project project = caller.project(key, Right.READ);
    AllAskedBody asked = Said.there(body, "the panels");
    List<@Nullable PanelBody> all = Said.there(asked.panels(), "the panels");
    if (all.size() > AT_ONCE) {
      throw Said.invalid("ask for at most " + AT_ONCE + " panels at once, not " + all.size());
    }
    Panels.Switch board = new Panels.Switch(asked.filter(), asked.days());
    return all.stream().map(one -> told(() -> sheet(project, one, board))).toList();
  }

  @GET
  @Path("{board}/sheets")
  @Operation(
      operationId = "getBoardSheets",
      summary =
          "What the panels of a kept board show, but for those of text; filter of runs and days as"
              + " the board is switched to; with parts it is asked for in so many requests, dealt"
              + " out one by one, of which this is one, from 1")
  public BoardSheetsBody sheets(
      @PathParam("project") String key,
      @PathParam("board") long id,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("part") @DefaultValue("1") int part,
      @QueryParam("parts") @DefaultValue("1") int parts) {
    Project project = caller.project(key, Right.READ);
    if (part < 1 || part > parts || parts > AT_ONCE) {
      throw Said.invalid(
          "there is no part " + part + " of " + parts + "; ask for at most " + AT_ONCE + " parts");
    }
    Board.Kept kept = store.board(project.id(), id);
    List<Panel> all = kept.board().panels();
    Panels.Switch board = new Panels.Switch(filter, days);
    List<PlacedBody> sheets = new ArrayList<>();
    for (int at = part - 1; at < all.size(); at += parts) {
      Panel panel = all.get(at);
      if (panel.kind() != PanelKind.TEXT) {
        OneBody one = told(() -> SheetBody.of(sheet(project, panel, board)));
        sheets.add(new PlacedBody(at + 1, one.sheet(), one.problem()));
      }
    }
    return new BoardSheetsBody(kept.version(), sheets);
  }

  private OneBody told(Supplier<SheetBody> sheet) {
    try {
      return new OneBody(sheet.get(), null);
    } catch (RuntimeException e) {
      return new OneBody(null, problems.told(e));
    }
  }

  private SheetBody sheet(Project project, @Nullable PanelBody said, Panels.Switch board) {
    Panel panel = Said.there(said, "the panel").panel();
    Board.check(panel, "the panel", filters.names(project), clock.instant());
    return SheetBody.of(sheet(project, panel, board));
  }

  /** Of the project that the panel tells of, for those who may read it. */
  private Sheet sheet(Project own, Panel panel, Panels.Switch board) {
    String other = panel.project();
    if (other == null) {
      return panels.sheet(own.id(), panel, board, filters.names(own), clock.instant());
    }
    // A filter of that name there may ask something else than the one that is meant here.
    Project of = caller.project(other, Right.READ);
    return panels.sheet(of.id(), panel, board, SavedNames.NONE, clock.instant());
  }

  @GET
  @Path("{board}/panels/{panel}/{file}")
  @Operation(
      operationId = "getPanelAsFile",
      summary =
          "What a panel shows as a file: table.csv, table.xlsx or table.md; panels are counted from 1;"
              + " filter of runs and days as the board is switched to")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(type = SchemaType.STRING, format = "binary")))
  @Produces(MediaType.WILDCARD)
  public Response file(
      @PathParam("project") String key,
      @PathParam("board") long id,
      @PathParam("panel") int number,
      @PathParam("file") String name,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("days") @Nullable Integer days) {
    Project project = caller.project(key, Right.READ);
    List<Panel> all = store.board(project.id(), id).board().panels();
    if (number < 1 || number > all.size()) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "the board has no panel " + number + "; it has " + all.size());
    }
    SheetFile form =
        SheetFile.ofWord(name.startsWith("table.") ? name.substring("table.".length()) : "")
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "a panel is no “" + name + "”; ask for table.csv, table.xlsx or table.md"));
    Panel panel = all.get(number - 1);
    Sheet sheet = sheet(project, panel, new Panels.Switch(filter, days));
    String title = panel.title().isBlank() ? panel.kind().word() : panel.title();
    StreamingOutput out = bytes -> form.write(title, sheet, bytes);
    return Response.ok(out, form.type())
        .header(
            "Content-Disposition",
            "attachment; filename=\""
                + title.replaceAll("[^A-Za-z0-9-]+", "-")
                + "."
                + form.word()
                + "\"")
        .build();
  }
}
