package org.vinecellar.service.triage;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.code.CodeStore;
import org.vinecellar.service.access.Caller;

/** What a project says of its code, by which its failures are grouped. */
@Path("/api/v1/projects/{project}/code")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class CodeResource {
  private final CodeStore store;
  private final Caller caller;
  private final InstantSource clock;

  CodeResource(CodeStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * What is said.
   *
   * @param own beginnings of packages, namespaces or paths that are the project's
   * @param helpers parts of names or paths of code that others call for help
   * @param version 0 when nothing was ever said
   * @param runs of the project
   * @param behind those of them that are still grouped by what was said before
   */
  @Schema(name = "CodeSettings")
  public record CodeBody(
      List<String> own,
      List<String> helpers,
      int version,
      @Schema(nullable = true) @Nullable Instant changedAt,
      @Schema(nullable = true) @Nullable String changedBy,
      int runs,
      int behind) {
    static CodeBody of(CodeStore.Kept kept) {
      return new CodeBody(
          kept.settings().own(),
          kept.settings().helpers(),
          kept.version(),
          kept.changedAt(),
          kept.changedBy(),
          kept.runs(),
          kept.behind());
    }
  }

  /**
   * What shall be said.
   *
   * @param version that was seen; 0 for none
   */
  @Schema(name = "NewCodeSettings")
  public record CodeSaidBody(
      @Nullable Integer version,
      @Nullable List<@Nullable String> own,
      @Nullable List<@Nullable String> helpers) {}

  @GET
  @Operation(operationId = "getCode", summary = "What the project says of its code")
  public CodeBody code(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return CodeBody.of(store.code(project.id()));
  }

  @PUT
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "setCode",
      summary = "Say which code is the project's own, and which helps; all runs are grouped anew")
  public CodeBody set(@PathParam("project") String key, @Nullable CodeSaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null || body.version() == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED,
          "say which version you saw, as JSON: version, own and helpers; 0 for none");
    }
    return CodeBody.of(
        store.keep(
            project.id(),
            new CodeSettings(lines(body.own()), lines(body.helpers())),
            body.version(),
            new Hand(caller.name(), clock.instant())));
  }

  private static List<String> lines(@Nullable List<@Nullable String> lines) {
    return lines == null
        ? List.of()
        : lines.stream()
            .filter(Objects::nonNull)
            .map(one -> one.replace("\0", "").replace('\n', ' ').strip())
            .toList();
  }
}
