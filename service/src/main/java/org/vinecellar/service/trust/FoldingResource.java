package org.vinecellar.service.trust;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
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
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.trust.renames.FoldingStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.work.Worker;

/** Tests whose names are made up anew in each run. */
@Path("/api/v1/projects/{project}/tests/made-up")
@Tag(name = "trust")
@Produces(MediaType.APPLICATION_JSON)
public class FoldingResource {
  private final FoldingStore store;
  private final Caller caller;
  private final Worker worker;
  private final InstantSource clock;

  FoldingResource(FoldingStore store, Caller caller, Worker worker, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.worker = worker;
    this.clock = clock;
  }

  /**
   * Cases of one test.
   *
   * @param suite the innermost one; null for none
   * @param test what is the same in their names, with … for the rest
   * @param cases how many were seen
   * @param run the number of the run at which they were recognised; null when that is gone
   * @param foldedInto the number of the test as which they go on; null while they are not folded
   * @param saidBy who folded or parted them last; null when nobody did
   */
  @Schema(name = "MadeUpNames")
  public record MadeUpBody(
      int id,
      String stream,
      @Schema(nullable = true) @Nullable String suite,
      String test,
      int cases,
      @Schema(nullable = true) @Nullable Integer run,
      @Schema(nullable = true) @Nullable Long foldedInto,
      @Schema(nullable = true) @Nullable Instant saidAt,
      @Schema(nullable = true) @Nullable String saidBy) {
    static MadeUpBody of(FoldingStore.Line line) {
      List<String> suite = line.suite();
      String mark = line.family().parameters();
      return new MadeUpBody(
          line.id(),
          line.stream(),
          suite.isEmpty() ? null : suite.get(suite.size() - 1),
          line.family().name() + (mark == null ? "" : mark),
          line.cases(),
          line.run(),
          line.test(),
          line.saidAt(),
          line.saidBy());
    }
  }

  @GET
  @Operation(
      operationId = "listMadeUpNames",
      summary = "Tests whose names are others in each run, the latest that were recognised first")
  public List<MadeUpBody> list(
      @PathParam("project") String key, @QueryParam("stream") @Nullable String stream) {
    Project project = caller.project(key, Right.READ);
    return store.madeUp(project.id(), stream).stream().map(MadeUpBody::of).toList();
  }

  /** What somebody says of them. */
  @Schema(name = "FoldingSaid")
  public record FoldingBody(@Nullable Boolean folded) {}

  @PUT
  @Path("{id}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "foldMadeUpNames",
      summary = "Say that such cases are one test, from now on and before, or that they are not")
  public MadeUpBody fold(
      @PathParam("project") String key, @PathParam("id") int id, @Nullable FoldingBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null || body.folded() == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "say whether they are one test, as JSON: {\"folded\": true}");
    }
    FoldingStore.Line line =
        store.fold(project.id(), id, body.folded(), new Hand(caller.name(), clock.instant()));
    worker.soon();
    return MadeUpBody.of(line);
  }
}
