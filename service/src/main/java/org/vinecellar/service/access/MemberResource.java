package org.vinecellar.service.access;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Who is what in a project. */
@Path("/api/v1/projects/{project}/members")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class MemberResource {
  private final PeopleStore people;
  private final InstantSource clock;
  private final Caller caller;

  MemberResource(PeopleStore people, InstantSource clock, Caller caller) {
    this.people = people;
    this.clock = clock;
    this.caller = caller;
  }

  /** A member. */
  @Schema(name = "Member")
  public record MemberBody(String login, String role, Instant addedAt, String addedBy) {}

  /** What somebody shall be. */
  @Schema(name = "SetRole")
  public record RoleBody(@Nullable String role) {}

  @GET
  @Operation(operationId = "listMembers", summary = "Members, by login")
  public List<MemberBody> list(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return people.members(project.id()).stream()
        .map(m -> new MemberBody(m.login(), m.role().word(), m.addedAt(), m.addedBy()))
        .toList();
  }

  @PUT
  @Path("{login}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "setMember",
      summary = "Make somebody a reader, contributor or owner, whatever they were before")
  @APIResponse(responseCode = "204")
  public Response set(
      @PathParam("project") String key, @PathParam("login") String login, @Nullable RoleBody body) {
    Project project = caller.project(key, Right.MANAGE);
    String word = body == null || body.role() == null ? "" : body.role();
    Role role =
        Role.ofWord(word)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.INVALID_VALUE,
                        "the role is none of reader, contributor and owner"));
    people.setMember(project.id(), account(login).id(), role, caller.name(), clock.instant());
    return Response.noContent().build();
  }

  @DELETE
  @Path("{login}")
  @Operation(operationId = "removeMember", summary = "Take somebody out of the project")
  @APIResponse(responseCode = "204")
  public Response remove(@PathParam("project") String key, @PathParam("login") String login) {
    Project project = caller.project(key, Right.MANAGE);
    if (!people.removeMember(project.id(), account(login).id())) {
      throw noSuch(login);
    }
    return Response.noContent().build();
  }

  private Account account(String login) {
    if (login.indexOf('\0') >= 0) {
      throw noSuch("?");
    }
    return people.account(Names.meant(login)).orElseThrow(() -> noSuch(login));
  }

  private static CellarException noSuch(String login) {
    return new CellarException(
        ProblemCode.NOT_FOUND,
        "nobody signs in as “"
            + (login.length() > 80 ? login.substring(0, 80) + "…" : login)
            + "” and can be meant here; an administrator invites new people");
  }
}
