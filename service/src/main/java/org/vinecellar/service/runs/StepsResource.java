package org.vinecellar.service.runs;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.util.List;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.changes.StepsBeside;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.service.access.Caller;

/** The steps of one result beside those of another, of whichever run. */
@Path("/api/v1/projects/{project}/runs/{run}/results/{result}/steps")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class StepsResource {
  private final RunStore store;
  private final Caller caller;

  StepsResource(RunStore store, Caller caller) {
    this.store = store;
    this.caller = caller;
  }

  /**
   * How a step went.
   *
   * @param status the framework's own word where it says more than the outcome
   */
  @Schema(name = "StepWent")
  public record WentBody(
      String text,
      String outcome,
      @Schema(nullable = true) @Nullable String status,
      @Schema(nullable = true) @Nullable Double durationMs) {
    static @Nullable WentBody of(@Nullable Step step) {
      return step == null
          ? null
          : new WentBody(
              step.displayText(),
              step.outcome().word(),
              step.status(),
              step.durationMicros() == TestResult.NO_DURATION
                  ? null
                  : step.durationMicros() / 1000.0);
    }
  }

  /**
   * A step in either; one of the two is there.
   *
   * @param depth 0 for the outermost
   * @param differs whether one is missing, or they ended otherwise
   */
  @Schema(name = "StepBeside")
  public record RowBody(
      int depth,
      @Schema(nullable = true) @Nullable WentBody before,
      @Schema(nullable = true) @Nullable WentBody now,
      boolean differs) {
    static RowBody of(StepsBeside.Row row) {
      return new RowBody(
          row.depth(), WentBody.of(row.before()), WentBody.of(row.now()), row.differs());
    }
  }

  @GET
  @Operation(
      operationId = "compareSteps",
      summary =
          "The steps of a result beside those of another one, as they are read; before is the other")
  public List<RowBody> beside(
      @PathParam("project") String key,
      @PathParam("run") long run,
      @PathParam("result") String result,
      @QueryParam("attempt") @Nullable Integer attempt,
      @QueryParam("otherRun") @Nullable Long otherRun,
      @QueryParam("otherResult") @Nullable String otherResult,
      @QueryParam("otherAttempt") @Nullable Integer otherAttempt) {
    Project project = caller.project(key, Right.READ);
    if (otherRun == null || otherResult == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "say otherRun and otherResult: what the steps stand beside");
    }
    List<Step> now = steps(project, run, result, attempt);
    List<Step> before = steps(project, otherRun, otherResult, otherAttempt);
    return StepsBeside.of(before, now).stream().map(RowBody::of).toList();
  }

  /** Of the try that is named, counted from 1, or of the last one. */
  private List<Step> steps(Project project, long runId, String result, @Nullable Integer attempt) {
    RunSummary run =
        store
            .run(project.id(), runId)
            .orElseThrow(() -> notFound("run " + runId + " in " + project.key()));
    List<ResultDetail.Try> tries =
        ResultId.parse(result)
            .flatMap(id -> store.result(project.id(), run, id))
            .orElseThrow(
                () -> notFound("result " + result + " in " + run.stream() + "#" + run.number()))
            .tries();
    int number = Objects.requireNonNullElse(attempt, tries.size());
    if (number < 1 || number > tries.size()) {
      throw notFound("attempt " + number + "; there are " + tries.size());
    }
    return tries.get(number - 1).attempt().steps();
  }

  private static CellarException notFound(String what) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no " + what);
  }
}
