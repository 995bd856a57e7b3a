package org.vinecellar.service.ingest;

import io.vertx.core.Context;
import io.vertx.ext.web.RoutingContext;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.io.File;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.parameters.RequestBody;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.ingest.Ingest;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.access.Projects;
import org.vinecellar.service.guard.Loops;
import org.vinecellar.service.guard.PublicAddress;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;
import org.vinecellar.service.work.Worker;

/**
 * Takes uploads in: a form with files, from the client or from curl. Whether the caller may send is
 * asked before the body is read; the body comes onto the disk; then the upload waits for its turn.
 * Nothing of this holds a worker thread.
 */
@Path("/api/v1/projects/{project}/uploads")
@Tag(name = "ingest")
@Produces(MediaType.APPLICATION_JSON)
public class UploadResource {
  private final Ingest ingest;
  private final Worker worker;
  private final UploadIntake intake;
  private final UploadLanes lanes;
  private final BundleFields bundles;
  private final FailingResults failing;
  private final Caller caller;
  private final Projects projects;
  private final Rooms rooms;
  private final PublicAddress address;

  UploadResource(
      Ingest ingest,
      UploadIntake intake,
      UploadLanes lanes,
      BundleFields bundles,
      FailingResults failing,
      Worker worker,
      Caller caller,
      Projects projects,
      Rooms rooms,
      PublicAddress address) {
    this.ingest = ingest;
    this.intake = intake;
    this.lanes = lanes;
    this.bundles = bundles;
    this.failing = failing;
    this.worker = worker;
    this.caller = caller;
    this.projects = projects;
    this.rooms = rooms;
    this.address = address;
  }

  /** The form, for the API's document; it is read as it comes. */
  @Schema(name = "UploadForm")
  record Form(
      List<File> file,
      String stream,
      @Nullable String run,
      @Nullable String part,
      @Nullable String commit,
      @Nullable String branch,
      @Nullable String main_branch,
      @Nullable String build_url,
      @Nullable List<String> label,
      @Nullable Integer expect_parts,
      @Nullable List<File> attachment,
      @Nullable List<String> column,
      @Nullable String at,
      @Nullable String live,
      @Nullable File bundle,
      @Nullable String bundle_title,
      @Nullable String bundle_index,
      @Nullable Boolean allow_empty,
      @Nullable Boolean again,
      @Nullable String job_status,
      @Nullable String job_command,
      @Nullable Integer job_exit_code,
      @Nullable String job_signal,
      @Nullable Long job_ms) {}

  @POST
  @Consumes(MediaType.MULTIPART_FORM_DATA)
  @Operation(
      operationId = "upload",
      summary = "Send result files; all of them are kept, or none",
      description =
          "Form fields: file (once or more, plain or packed with gzip), stream, and if wanted run,"
              + " part, commit, branch, main_branch (told once for the stream), build_url, label (key=value, once or more), expect_parts,"
              + " attachment (a file that results name, once or more), column (FIELD=HEADING, of"
              + " tables), at (when it was, ISO 8601), live (a"
              + " live part whose place it takes), bundle (a zip file"
              + " of HTML), bundle_title, bundle_index, allow_empty, again (the files"
              + " of another run shall count), and of the job that ended:"
              + " job_status (passed, failed, cancelled), job_command, job_exit_code, job_signal,"
              + " job_ms. Of a job that failed no file is needed: a run without results is red."
              + " Sending the same files to the same run again changes nothing."
              + " 429 and 503 say in Retry-After when to send it again.")
  @RequestBody(
      content =
          @Content(
              mediaType = MediaType.MULTIPART_FORM_DATA,
              schema = @Schema(implementation = Form.class)))
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = ReceiptBody.class)))
  public CompletionStage<Response> upload(
      @PathParam("project") String key, @jakarta.ws.rs.core.Context RoutingContext context) {
    Visitor visitor = caller.visitor();
    String base = address.base(context.request());
    Context loop = Loops.of(context);
    return rooms
        .run(Room.DOOR, () -> projects.enter(visitor, key, Right.SEND))
        .thenCompose(
            project ->
                Rooms.on(loop, () -> intake.receive(context))
                    .thenCompose(upload -> work(context, project, upload, base)));
  }

  private CompletableFuture<Response> work(
      RoutingContext context, Project project, UploadIntake.Received upload, String base) {
    UploadLanes.Job<Response> job =
        lanes.enter(upload.bytes(), () -> take(project, upload.fields(), base));
    // Who has gone does not wait any more.
    context.addEndHandler(
        ended -> {
          if (ended.failed()) {
            lanes.leave(job);
          }
        });
    return job.result().whenComplete((done, failure) -> discard(upload));
  }

  /** Away from the thread that says so, which can be an event loop. */
  private void discard(UploadIntake.Received upload) {
    Rooms.then(
        rooms.run(
            Room.SWEEP,
            () -> {
              UploadSpool.remove(upload.directory());
              return true;
            }),
        (done, failure) -> {});
  }

  private Response take(Project project, UploadFields fields, String base) {
    fields.check();
    UploadRequest request = fields.request(project.id());
    NewBundle bundle = bundles.check(project.id(), fields);
    Receipt receipt = ingest.receive(request, fields.of("file"), fields.of("attachment"), bundle);
    worker.soon();
    if (bundle != null && receipt.duplicate()) {
      bundles.keepAgain(project.id(), receipt, bundle);
    }
    return Response.status(receipt.duplicate() ? 200 : 201)
        .entity(ReceiptBody.of(receipt, failing.of(project.id(), receipt), project.key(), base))
        .build();
  }
}
