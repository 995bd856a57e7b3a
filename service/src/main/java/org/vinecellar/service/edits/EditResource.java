package org.vinecellar.service.edits;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.HeaderParam;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.time.InstantSource;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.parameters.Parameter;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.Note;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/**
 * Notes and who changed them. A note is changed by sending the whole of it, with the entity tag of
 * the one that was read (RFC 9110, section 13.1.1): who was not quick enough gets 412 and loses
 * nothing but the time.
 */
@Path("/api/v1/projects/{project}")
@Tag(name = "edits")
@Produces(MediaType.APPLICATION_JSON)
public class EditResource {
  private static final Pattern VERSION = Pattern.compile("\"([0-9]{1,9}-[0-9a-f]{1,8})\"");

  private final EditStore store;
  private final Caller caller;
  private final InstantSource clock;

  EditResource(EditStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  @GET
  @Path("{kind: runs|tests}/{id}/note")
  @Operation(
      operationId = "getNote",
      summary = "What is written about a run or a test; the ETag says which version")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = NoteBody.class)))
  public Response note(
      @PathParam("project") String key,
      @Parameter(schema = @Schema(enumeration = {"runs", "tests"})) @PathParam("kind") String kind,
      @PathParam("id") long id) {
    return read(key, subject(kind, id));
  }

  @PUT
  @Path("{kind: runs|tests}/{id}/note")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "setNote",
      summary = "Write about a run or a test, over the version that If-Match names")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = NoteBody.class)))
  public Response setNote(
      @PathParam("project") String key,
      @Parameter(schema = @Schema(enumeration = {"runs", "tests"})) @PathParam("kind") String kind,
      @PathParam("id") long id,
      @HeaderParam("If-Match") @Nullable String seen,
      NoteBody body) {
    return write(key, subject(kind, id), seen, body);
  }

  @GET
  @Path("{kind: runs|tests}/{id}/edits")
  @Operation(
      operationId = "listEdits",
      summary =
          "Who changed what of a test, or of a run and its results, the newest first, at most 200")
  public List<EditBody> edits(
      @PathParam("project") String key,
      @Parameter(schema = @Schema(enumeration = {"runs", "tests"})) @PathParam("kind") String kind,
      @PathParam("id") long id) {
    return edits(key, subject(kind, id));
  }

  private static Subject subject(String kind, long id) {
    return kind.equals("runs") ? Subject.run(id) : Subject.test(id);
  }

  private Response read(String key, Subject subject) {
    Project project = caller.project(key, Right.READ);
    return answer(store.note(project.id(), subject).orElseThrow(() -> notFound(project, subject)));
  }

  private Response write(
      String key, Subject subject, @Nullable String seen, @Nullable NoteBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "send the note as JSON: description, labels and tags");
    }
    EditStore.Hand hand = new EditStore.Hand(caller.name(), clock.instant());
    return answer(store.write(project.id(), subject, tag(seen), body.text(), hand));
  }

  private List<EditBody> edits(String key, Subject subject) {
    Project project = caller.project(key, Right.READ);
    store.note(project.id(), subject).orElseThrow(() -> notFound(project, subject));
    return store.edits(project.id(), subject).stream().map(EditBody::of).toList();
  }

  private static Response answer(Note note) {
    return Response.ok(NoteBody.of(note.text()))
        .header("ETag", "\"" + note.tag() + "\"")
        .header("Cache-Control", "private, no-cache")
        .build();
  }

  private static String tag(@Nullable String seen) {
    Matcher matcher = seen == null ? null : VERSION.matcher(seen.strip());
    if (matcher == null || !matcher.matches()) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED,
          "send If-Match with the ETag of the note that you have read, as in If-Match: \"3-1f\"");
    }
    return String.valueOf(matcher.group(1));
  }

  private static CellarException notFound(Project project, Subject subject) {
    return new CellarException(
        ProblemCode.NOT_FOUND,
        "project “"
            + project.key()
            + "” has no "
            + (subject.kind() == Subject.Kind.RUN ? "run" : "test")
            + " “"
            + subject.id()
            + "”");
  }
}
