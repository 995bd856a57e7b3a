package org.vinecellar.service.boards;

import jakarta.ws.rs.Consumes;
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
import org.vinecellar.service.sheets.SheetBody;
import org.vinecellar.service.sheets.SheetFile;

/** What panels show, of boards that are kept or of none. */
@Path("/api/v1/projects/{project}/boards")
@Tag(name = "boards")
@Produces(MediaType.APPLICATION_JSON)
public class SheetResource {
  /** So many panels are asked for at once. */
  private static final int AT_ONCE = 40;

  private final BoardStore store;
  private final Panels panels;
  private final FilterReader filters;
  private final SheetLines lines;
  private final Caller caller;
  private final InstantSource clock;

  SheetResource(
      BoardStore store,
      BoardFacts facts,
      FailureFacts failures,
      RankStore ranks,
      RunStore runs,
      FilterReader filters,
      SheetLines lines,
      Caller caller,
      InstantSource clock) {
    this.store = store;
    this.panels = new Panels(facts, failures, ranks, runs);
    this.filters = filters;
    this.lines = lines;
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

  @POST
  @Path("sheet")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "getSheet",
      summary = "What a panel shows, kept or not; nothing is changed")
  public SheetBody sheet(@PathParam("project") String key, @Nullable AskedBody body) {
    Project project = caller.project(key, Right.READ);
    AskedBody asked = Said.there(body, "the panel");
    Panels.Switch board = new Panels.Switch(asked.filter(), asked.days());
    Here here = new Here(project, filters.names(project));
    return SheetBody.of(sheet(checked(here, asked.panel()), board));
  }

  @POST
  @Path("sheets")
  @Consumes(MediaType.APPLICATION_JSON)
  @Produces(SheetLines.TYPE)
  @Operation(
      operationId = "getSheets",
      summary =
          "The same of several panels, each on a line as soon as it is made, whatever comes first;"
              + " one that takes long or cannot be shown keeps none of the others back")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(
              mediaType = SheetLines.TYPE,
              schema = @Schema(implementation = SheetLines.LineBody.class)))
  public StreamingOutput sheets(@PathParam("project") String key, @Nullable AllAskedBody body) {
    Project project = caller.project(key, Right.READ);
    AllAskedBody asked = Said.there(body, "the panels");
    List<@Nullable PanelBody> all = Said.there(asked.panels(), "the panels");
    if (all.size() > AT_ONCE) {
      throw Said.invalid("ask for at most " + AT_ONCE + " panels at once, not " + all.size());
    }
    Panels.Switch board = new Panels.Switch(asked.filter(), asked.days());
    Here here = new Here(project, filters.names(project));
    List<SheetLines.Asked> wanted = new ArrayList<>();
    for (PanelBody one : all) {
      wanted.add(new SheetLines.Asked(wanted.size() + 1, made(() -> checked(here, one), board)));
    }
    return lines.of(null, wanted);
  }

  @GET
  @Path("{board}/sheets")
  @Produces(SheetLines.TYPE)
  @Operation(
      operationId = "getBoardSheets",
      summary =
          "What the panels of a kept board show, but for those of text, each on a line as soon as it"
              + " is made, whatever comes first; filter of runs and days as the board is switched to")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(
              mediaType = SheetLines.TYPE,
              schema = @Schema(implementation = SheetLines.LineBody.class)))
  public StreamingOutput sheets(
      @PathParam("project") String key,
      @PathParam("board") long id,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("days") @Nullable Integer days) {
    Project project = caller.project(key, Right.READ);
    Board.Kept kept = store.board(project.id(), id);
    Panels.Switch board = new Panels.Switch(filter, days);
    Here here = new Here(project, filters.names(project));
    List<SheetLines.Asked> wanted = new ArrayList<>();
    int at = 0;
    for (Panel panel : kept.board().panels()) {
      at++;
      if (panel.kind() != PanelKind.TEXT) {
        wanted.add(new SheetLines.Asked(at, made(() -> in(here, panel), board)));
      }
    }
    return lines.of(kept.version(), wanted);
  }

  /** What makes a sheet on any thread; who asks is looked at before, on this one. */
  private Supplier<Sheet> made(Supplier<Placed> panel, Panels.Switch board) {
    try {
      Placed one = panel.get();
      return () -> sheet(one, board);
    } catch (RuntimeException e) {
      return () -> {
        throw e;
      };
    }
  }

  /** The project that is asked, and what its filters may name: read once for all panels. */
  private record Here(Project project, SavedNames names) {}

  /** A panel, in the project that it tells of. */
  private record Placed(Project of, Panel panel, SavedNames names) {}

  private Placed checked(Here here, @Nullable PanelBody said) {
    Panel panel = Said.there(said, "the panel").panel();
    Board.check(panel, "the panel", here.names(), clock.instant());
    return in(here, panel);
  }

  /** For those who may read what it tells of. */
  private Placed in(Here here, Panel panel) {
    String other = panel.project();
    return other == null
        ? new Placed(here.project(), panel, here.names())
        // A filter of that name there may ask something else than the one that is meant here.
        : new Placed(caller.project(other, Right.READ), panel, SavedNames.NONE);
  }

  private Sheet sheet(Placed one, Panels.Switch board) {
    return panels.sheet(one.of().id(), one.panel(), board, one.names(), clock.instant());
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
    Sheet sheet =
        sheet(
            in(new Here(project, filters.names(project)), panel), new Panels.Switch(filter, days));
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
