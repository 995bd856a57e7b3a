package org.vinecellar.service.edits;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.core.MediaType;
import java.time.InstantSource;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.service.access.Caller;

/** Outcomes that somebody sets over the reported ones. */
@Path("/api/v1/projects/{project}/runs/{run}/results/{result}/outcome")
@Tag(name = "edits")
public class OutcomeResource {
  private static final int MAX_REASON = 2000;

  private final EditStore store;
  private final Caller caller;
  private final InstantSource clock;

  OutcomeResource(EditStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * What shall hold.
   *
   * @param seen the outcome that holds as the caller knows it
   * @param outcome null for the reported one
   * @param reason for those who wonder later
   */
  @Schema(name = "SetOutcome")
  public record SetBody(
      String seen, @Schema(nullable = true) @Nullable String outcome, String reason) {}

  @PUT
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "setOutcome",
      summary = "Overrule the outcome of a result with a reason, or take that back")
  public void set(
      @PathParam("project") String key,
      @PathParam("run") long run,
      @PathParam("result") String result,
      @Nullable SetBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw invalid("say what shall hold, as JSON: seen, outcome and reason");
    }
    ResultId id =
        ResultId.parse(result)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "“" + result + "” is not a result; they look like 1-42"));
    String reason = body.reason() == null ? "" : body.reason().replace("\0", "").strip();
    if (reason.isEmpty() || reason.length() > MAX_REASON) {
      throw invalid("give a reason of 1 to " + MAX_REASON + " characters, for those who wonder");
    }
    String wanted = body.outcome();
    store.overrule(
        project.id(),
        run,
        id,
        outcome("seen", body.seen()),
        wanted == null ? null : outcome("outcome", wanted),
        reason,
        new EditStore.Hand(caller.name(), clock.instant()));
  }

  private static Outcome outcome(String field, @Nullable String word) {
    return Outcome.ofWord(String.valueOf(word))
        .orElseThrow(
            () ->
                invalid(
                    field
                        + " is “"
                        + word
                        + "”; it is one of passed, failed, errored, skipped and not reached"));
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
