package org.vinecellar.service.triage;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.web.Pages;
import org.vinecellar.service.work.Worker;

/** Failures by their cause, and what is decided of them. */
@Path("/api/v1/projects/{project}")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class TriageResource {
  private static final int USUAL = 500;
  private static final int MOST = 2_000;
  private static final int MOST_GROUPS = 1_000;

  private final TriageStore store;
  private final Caller caller;
  private final Worker worker;
  private final InstantSource clock;

  TriageResource(TriageStore store, Caller caller, Worker worker, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.worker = worker;
    this.clock = clock;
  }

  /**
   * What somebody decides.
   *
   * @param category by its name
   * @param comment Markdown
   * @param scope group (from this run on; the usual) or result
   */
  @Schema(name = "NewDecision")
  public record VerdictBody(
      @Nullable String category,
      @Schema(nullable = true) @Nullable String comment,
      @Schema(
              nullable = true,
              enumeration = {"group", "result"})
          @Nullable String scope) {}

  /**
   * What became of it.
   *
   * @param id of the decision
   * @param carried results of the same run that it explains beside that one
   * @param disputed whether another explanation of the group stands that says something else, so
   *     that neither is carried any more
   */
  @Schema(name = "Decided")
  public record DecidedBody(long id, long group, int carried, boolean disputed) {
    static DecidedBody of(TriageStore.Decided decided) {
      return new DecidedBody(decided.id(), decided.group(), decided.carried(), decided.disputed());
    }
  }

  /** A failing result of a run. */
  @Schema(name = "FailingResult")
  public record FailingBody(String result) {}

  @GET
  @Path("failures")
  @Operation(
      operationId = "listFailures",
      summary = "Failing results of a stream with their causes, by the numbers of the runs")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = FailureBody.class)))
  public Response failures(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("from") @Nullable Integer from,
      @QueryParam("to") @Nullable Integer to,
      @QueryParam("suggested") @Nullable Boolean suggested,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw invalid("say of which stream: ?stream=booking-api/nightly");
    }
    int size = Pages.limit(limit, USUAL, MOST);
    List<FailureLine> lines =
        store.failures(
            project.id(),
            new TriageStore.Wanted(
                stream,
                from == null ? 1 : from,
                to == null ? Integer.MAX_VALUE : to,
                after(cursor),
                size));
    String next = null;
    if (lines.size() == size) {
      FailureLine last = lines.get(size - 1);
      next = last.run() + "." + last.result();
    }
    Set<Long> open = new TreeSet<>();
    if (Boolean.TRUE.equals(suggested)) {
      lines.stream()
          .filter(line -> line.decision() == null && line.group() != null)
          .forEach(line -> open.add(line.group()));
    }
    Map<Long, String> perhaps = store.suggested(project.id(), open);
    return Pages.page(lines.stream().map(line -> FailureBody.of(line, perhaps)).toList(), uri, next)
        .build();
  }

  private static TriageStore.@Nullable After after(@Nullable String cursor) {
    if (cursor == null) {
      return null;
    }
    int dot = cursor.indexOf('.');
    boolean number = dot > 0 && dot < 10 && cursor.substring(0, dot).matches("[0-9]+");
    return ResultId.parse(cursor.substring(dot + 1))
        .filter(id -> number)
        .map(id -> new TriageStore.After(Integer.parseInt(cursor.substring(0, dot)), id))
        .orElseThrow(() -> invalid("the cursor is not one of ours; begin again without it"));
  }

  @GET
  @Path("runs/{run}/groups")
  @Operation(operationId = "listGroupsInRun", summary = "The failure groups of a run")
  public GroupsInRunBody groups(@PathParam("project") String key, @PathParam("run") long run) {
    Project project = caller.project(key, Right.READ);
    return GroupsInRunBody.of(store.groups(project.id(), run, MOST_GROUPS));
  }

  @GET
  @Path("runs/{run}/failing")
  @Operation(
      operationId = "findFailingResult",
      summary = "The failing result of a test, by its class and name: classname#name")
  public FailingBody failing(
      @PathParam("project") String key,
      @PathParam("run") long run,
      @QueryParam("test") @Nullable String test) {
    Project project = caller.project(key, Right.READ);
    if (test == null || test.isBlank()) {
      throw invalid("say which test, by its suite and its name: ?test=FareTest%23rounds");
    }
    return store
        .failing(project.id(), run, test)
        .map(id -> new FailingBody(id.toString()))
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND,
                    "no test “"
                        + test
                        + "” failed in that run; write it as its suite and its name, like"
                        + " FareTest#rounds, with the package where the file has one"));
  }

  @POST
  @Path("runs/{run}/results/{result}/decision")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "decide",
      summary = "Explain a failing result, and with it the failures that share its cause")
  public DecidedBody decide(
      @PathParam("project") String key,
      @PathParam("run") long run,
      @PathParam("result") String result,
      @Nullable VerdictBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw invalid("say which category, as JSON: category, and perhaps comment and scope");
    }
    String category = VerdictWords.category(body.category());
    String comment = VerdictWords.comment(body.comment());
    String scope = body.scope() == null ? "group" : body.scope();
    if (!scope.equals("group") && !scope.equals("result")) {
      throw invalid("scope is “" + scope + "”; it can be group or result");
    }
    ResultId id =
        ResultId.parse(result)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "“" + result + "” is not a result; they look like 1-42"));
    TriageStore.Decided decided =
        store.decide(
            project.id(),
            run,
            id,
            new TriageStore.Verdict(category, comment, scope.equals("result")),
            hand());
    worker.soon();
    return DecidedBody.of(decided);
  }

  @DELETE
  @Path("decisions/{decision}")
  @Operation(
      operationId = "undoDecision",
      summary = "Take a decision back, wherever it was carried")
  public void undo(@PathParam("project") String key, @PathParam("decision") long decision) {
    Project project = caller.project(key, Right.EDIT);
    store.undo(project.id(), decision, hand());
    worker.soon();
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
