package org.vinecellar.service.access;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.regex.Pattern;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Projects and their tokens. */
@Path("/api/v1/projects")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class ProjectResource {
  private static final Pattern KEY = Pattern.compile("[a-z0-9](?:[a-z0-9-]{0,62}[a-z0-9])?");
  private static final int MAX_NAME = 200;

  private final AccessStore store;
  private final InstantSource clock;
  private final Caller caller;

  ProjectResource(AccessStore store, InstantSource clock, Caller caller) {
    this.store = store;
    this.clock = clock;
    this.caller = caller;
  }

  /** A project. */
  @Schema(name = "Project")
  public record ProjectBody(String key, String name) {
    static ProjectBody of(Project project) {
      return new ProjectBody(project.key(), project.name());
    }
  }

  /** What a new token takes. */
  @Schema(name = "NewToken")
  public record NewToken(@Nullable String name) {}

  /** A token without its secret. */
  @Schema(name = "Token")
  public record TokenBody(
      long id,
      String name,
      String hint,
      Instant createdAt,
      String createdBy,
      @Schema(nullable = true) @Nullable Instant lastUsedAt,
      @Schema(nullable = true) @Nullable Instant revokedAt) {
    static TokenBody of(Token token) {
      return new TokenBody(
          token.id(),
          token.name(),
          token.hint(),
          token.createdAt(),
          token.createdBy(),
          token.lastUsedAt(),
          token.revokedAt());
    }
  }

  /** A token with its secret, which is shown this once. */
  @Schema(name = "CreatedToken")
  public record CreatedToken(TokenBody token, String secret) {}

  @GET
  @Operation(operationId = "listProjects", summary = "All projects, by name")
  public List<ProjectBody> list() {
    caller.person();
    return store.projects().stream().map(ProjectBody::of).toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "createProject", summary = "Make a project")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = ProjectBody.class)))
  public Response create(ProjectBody body) {
    caller.person();
    if (body.key() == null || !KEY.matcher(body.key()).matches()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the key “"
              + body.key()
              + "” is not valid; use up to 64 lower-case letters, digits and '-', as in"
              + " skerrow-line");
    }
    Project project = store.createProject(body.key(), name(body.name()), clock.instant());
    return Response.status(201).entity(ProjectBody.of(project)).build();
  }

  @GET
  @Path("{project}")
  @Operation(operationId = "getProject", summary = "One project")
  public ProjectBody get(@PathParam("project") String key) {
    return ProjectBody.of(caller.project(key));
  }

  @GET
  @Path("{project}/tokens")
  @Operation(operationId = "listTokens", summary = "Tokens, the newest first, without secrets")
  public List<TokenBody> tokens(@PathParam("project") String key) {
    Project project = caller.projectAsPerson(key);
    return store.tokens(project.id()).stream().map(TokenBody::of).toList();
  }

  @POST
  @Path("{project}/tokens")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "createToken", summary = "Make a token; its secret is shown this once")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = CreatedToken.class)))
  public Response createToken(@PathParam("project") String key, NewToken body) {
    Project project = caller.projectAsPerson(key);
    Session person = caller.person();
    String secret = Secrets.newToken(project.key());
    Token token =
        store.createToken(
            project.id(),
            name(body.name()),
            Secrets.hash(secret),
            secret.substring(secret.length() - 4),
            person.login(),
            clock.instant());
    return Response.status(201).entity(new CreatedToken(TokenBody.of(token), secret)).build();
  }

  @DELETE
  @Path("{project}/tokens/{id}")
  @Operation(operationId = "revokeToken", summary = "Revoke a token; it stays listed")
  @APIResponse(responseCode = "204")
  public Response revoke(@PathParam("project") String key, @PathParam("id") long id) {
    Project project = caller.projectAsPerson(key);
    if (!store.revokeToken(project.id(), id, clock.instant())) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "the project has no valid token with the number " + id);
    }
    return Response.noContent().build();
  }

  private static String name(@Nullable String name) {
    if (name == null || name.isBlank() || name.length() > MAX_NAME) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the name is empty or longer than " + MAX_NAME + " characters");
    }
    return name.strip();
  }
}
