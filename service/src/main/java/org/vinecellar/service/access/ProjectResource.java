package org.vinecellar.service.access;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.time.InstantSource;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Projects and their tokens. */
@Path("/api/v1/projects")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class ProjectResource {
  /** What stands at the beginning of other addresses. */
  private static final Set<String> TAKEN =
      Set.of(
          "account",
          "api",
          "assets",
          "client",
          "health",
          "join",
          "metrics",
          "operations",
          "people",
          "projects",
          "q",
          "shared",
          "sign-in");

  private static final Pattern KEY = Pattern.compile("[a-z0-9](?:[a-z0-9-]{0,62}[a-z0-9])?");

  private final ProjectStore store;
  private final TokenStore tokens;
  private final InstantSource clock;
  private final Caller caller;

  ProjectResource(ProjectStore store, TokenStore tokens, InstantSource clock, Caller caller) {
    this.store = store;
    this.tokens = tokens;
    this.clock = clock;
    this.caller = caller;
  }

  /**
   * A project as the caller sees it.
   *
   * @param open whether everybody who signs in may read it
   * @param role what the caller is in it: reader, contributor or owner; null for a pipeline
   */
  @Schema(name = "Project")
  public record ProjectBody(
      String key, String name, boolean open, @Schema(nullable = true) @Nullable String role) {
    static ProjectBody of(Project project, @Nullable Role role) {
      return new ProjectBody(
          project.key(), project.name(), project.open(), role == null ? null : role.word());
    }
  }

  /** What a new project takes. */
  @Schema(name = "NewProject")
  public record NewProject(@Nullable String key, @Nullable String name) {}

  /** What can be changed of a project. */
  @Schema(name = "ProjectSettings")
  public record SettingsBody(@Nullable String name, boolean open) {}

  @GET
  @Operation(
      operationId = "listProjects",
      summary = "The projects that the caller may see, by name")
  public List<ProjectBody> list() {
    Visitor.Person person = caller.person();
    if (person.administrator()) {
      return store.projects().stream().map(p -> ProjectBody.of(p, Role.OWNER)).toList();
    }
    return store.memberships(person.accountId()).stream()
        .map(m -> ProjectBody.of(m.project(), m.role()))
        .toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "createProject", summary = "Make a project; administrators may")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = ProjectBody.class)))
  public Response create(@Nullable NewProject body) {
    Session person = caller.administrator();
    String key = body == null || body.key() == null ? "" : body.key();
    if (!KEY.matcher(key).matches()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the key “"
              + (key.length() > 80 ? key.substring(0, 80) + "…" : key)
              + "” is not valid; use up to 64 lower-case letters, digits and '-', as in"
              + " skerrow-line");
    }
    if (TAKEN.contains(key)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the key “" + key + "” means something else in addresses; take another one");
    }
    String name = Names.checked(body == null ? null : body.name());
    Project project = store.create(key, name, person.accountId(), clock.instant());
    return Response.status(201).entity(ProjectBody.of(project, Role.OWNER)).build();
  }

  @GET
  @Path("{project}")
  @Operation(operationId = "getProject", summary = "One project")
  public ProjectBody get(@PathParam("project") String key) {
    Visitor.Entry entry = caller.entry(key, Right.READ);
    return ProjectBody.of(entry.project(), entry.role());
  }

  @PUT
  @Path("{project}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "changeProject", summary = "Change its name, and who may read it")
  public ProjectBody change(@PathParam("project") String key, @Nullable SettingsBody body) {
    Visitor.Entry entry = caller.entry(key, Right.MANAGE);
    if (body == null) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "send name and open, as JSON");
    }
    return ProjectBody.of(
        store.change(entry.project().id(), Names.checked(body.name()), body.open()), entry.role());
  }

  @GET
  @Path("{project}/tokens")
  @Operation(operationId = "listTokens", summary = "Tokens, the newest first, without secrets")
  public List<TokenBodies.TokenBody> tokens(@PathParam("project") String key) {
    Project project = caller.project(key, Right.MANAGE);
    return tokens.ofProject(project.id()).stream().map(TokenBodies.TokenBody::of).toList();
  }

  @POST
  @Path("{project}/tokens")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "createToken", summary = "Make a token; its secret is shown this once")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = TokenBodies.CreatedToken.class)))
  public Response createToken(
      @PathParam("project") String key, TokenBodies.@Nullable NewToken body) {
    Project project = caller.project(key, Right.MANAGE);
    String secret = Secrets.newToken(project.key());
    Token.New wanted = TokenBodies.checked(body, secret, caller.name(), clock.instant());
    Token token = tokens.createForProject(project.id(), wanted, clock.instant());
    return Response.status(201)
        .entity(new TokenBodies.CreatedToken(TokenBodies.TokenBody.of(token), secret))
        .build();
  }

  @DELETE
  @Path("{project}/tokens/{id}")
  @Operation(operationId = "revokeToken", summary = "Revoke a token; it stays listed")
  @APIResponse(responseCode = "204")
  public Response revoke(@PathParam("project") String key, @PathParam("id") long id) {
    Project project = caller.project(key, Right.MANAGE);
    if (!tokens.revokeOfProject(project.id(), id, clock.instant())) {
      throw noToken("the project", id);
    }
    return Response.noContent().build();
  }

  static CellarException noToken(String who, long id) {
    return new CellarException(
        ProblemCode.NOT_FOUND, who + " has no valid token with the number " + id);
  }
}
