package org.vinecellar.service.access;

import io.vertx.core.http.HttpServerRequest;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Invitation;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.guard.PublicAddress;

/** People of the whole portal; for its administrators. */
@Path("/api/v1/people")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class PeopleResource {
  private static final Duration GOOD_FOR = Duration.ofDays(7);
  private static final int MAX_PROJECTS = 100;

  private final PeopleStore people;
  private final ProjectStore projects;
  private final PublicAddress address;
  private final InstantSource clock;
  private final Caller caller;

  PeopleResource(
      PeopleStore people,
      ProjectStore projects,
      PublicAddress address,
      InstantSource clock,
      Caller caller) {
    this.people = people;
    this.projects = projects;
    this.address = address;
    this.clock = clock;
    this.caller = caller;
  }

  /** Somebody who can sign in, or could. */
  @Schema(name = "Person")
  public record PersonBody(
      String login,
      boolean administrator,
      boolean enabled,
      boolean hasPassword,
      Instant createdAt) {
    static PersonBody of(Account account) {
      return new PersonBody(
          account.login(),
          account.administrator(),
          account.enabled(),
          account.passwordHash() != null,
          account.createdAt());
    }
  }

  /** What can be changed of somebody. */
  @Schema(name = "PersonSettings")
  public record SettingsBody(boolean administrator, boolean enabled) {}

  /** A project, and what somebody will be there. */
  @Schema(name = "InvitedTo")
  public record PlaceBody(@Nullable String project, @Nullable String role) {}

  /** Whom to invite. */
  @Schema(name = "NewInvitation")
  public record NewInvitation(
      @Nullable String login,
      boolean administrator,
      @Schema(nullable = true) @Nullable List<PlaceBody> projects) {}

  /** A link that is good once. It is shown this once, and kept by nobody. */
  @Schema(name = "CreatedInvitation")
  public record LinkBody(String login, String url, Instant expiresAt) {}

  /**
   * An invitation that is still good.
   *
   * @param known whether it is for somebody who is there already, to choose another password
   */
  @Schema(name = "Invitation")
  public record InvitationBody(
      String login,
      boolean known,
      boolean administrator,
      List<PlaceBody> projects,
      String createdBy,
      Instant expiresAt) {
    static InvitationBody of(Invitation invitation) {
      return new InvitationBody(
          invitation.login(),
          invitation.accountId() != null,
          invitation.administrator(),
          invitation.projects().stream()
              .map(place -> new PlaceBody(place.projectKey(), place.role().word()))
              .toList(),
          invitation.createdBy(),
          invitation.expiresAt());
    }
  }

  @GET
  @Operation(operationId = "listPeople", summary = "Everybody who can sign in, or could, by login")
  public List<PersonBody> list() {
    caller.administrator();
    return people.accounts().stream().map(PersonBody::of).toList();
  }

  @PUT
  @Path("{login}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "changePerson",
      summary = "Disable somebody or let them in again; make an administrator or take that away")
  public PersonBody change(@PathParam("login") String login, @Nullable SettingsBody body) {
    caller.administrator();
    if (body == null) {
      throw invalid("send administrator and enabled, as JSON");
    }
    Account account = find(login);
    if (account.administrator() != body.administrator()) {
      people.setAdministrator(account.id(), body.administrator());
    }
    if (account.enabled() != body.enabled()) {
      people.setEnabled(account.id(), body.enabled(), clock.instant());
    }
    return PersonBody.of(find(login));
  }

  @POST
  @Path("{login}/reset")
  @Operation(
      operationId = "resetPassword",
      summary =
          "A link with which somebody chooses another password; the present one stays so long")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = LinkBody.class)))
  public Response reset(@PathParam("login") String login, @Context HttpServerRequest request) {
    Session by = caller.administrator();
    Account account = find(login);
    return link(
        new Invitation(
            account.login(), account.id(), account.administrator(), List.of(), by.login(), end()),
        request);
  }

  @GET
  @Path("invitations")
  @Operation(operationId = "listInvitations", summary = "Links that are still good, without them")
  public List<InvitationBody> invitations() {
    caller.administrator();
    return people.invitations(clock.instant()).stream().map(InvitationBody::of).toList();
  }

  @POST
  @Path("invitations")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "invite",
      summary = "Invite somebody; the link is good once, for seven days, and shown this once")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = LinkBody.class)))
  public Response invite(@Nullable NewInvitation body, @Context HttpServerRequest request) {
    Session by = caller.administrator();
    if (body == null) {
      throw invalid("send login, administrator and projects, as JSON");
    }
    String login = Names.login(body.login());
    if (people.account(login).isPresent()) {
      throw new CellarException(
          ProblemCode.ALREADY_EXISTS,
          "“" + login + "” can sign in already; make them a member on the page of a project");
    }
    return link(
        new Invitation(
            login, null, body.administrator(), places(body.projects()), by.login(), end()),
        request);
  }

  private Instant end() {
    return clock.instant().plus(GOOD_FOR);
  }

  private List<Invitation.Place> places(@Nullable List<PlaceBody> wanted) {
    List<Invitation.Place> places = new ArrayList<>();
    if (wanted != null && wanted.size() > MAX_PROJECTS) {
      throw invalid("an invitation names " + MAX_PROJECTS + " projects at most");
    }
    for (PlaceBody place : wanted == null ? List.<PlaceBody>of() : wanted) {
      String key = place == null || place.project() == null ? "" : place.project();
      String word = place == null || place.role() == null ? "" : place.role();
      Role role =
          Role.ofWord(word)
              .orElseThrow(() -> invalid("a role is none of reader, contributor and owner"));
      Project project =
          (key.indexOf('\0') < 0 ? projects.project(key) : java.util.Optional.<Project>empty())
              .orElseThrow(() -> invalid("a project that is named does not exist"));
      if (places.stream().anyMatch(other -> other.projectId() == project.id())) {
        throw invalid("the project “" + key + "” is named twice");
      }
      places.add(new Invitation.Place(project.id(), project.key(), role));
    }
    return places;
  }

  private Response link(Invitation invitation, HttpServerRequest request) {
    String secret = Secrets.random(32);
    people.invite(Secrets.hash(secret), invitation, clock.instant());
    // Behind the “#”, so that no server and no log on the way sees it.
    String url = address.base(request) + "/join#" + secret;
    return Response.status(201)
        .entity(new LinkBody(invitation.login(), url, invitation.expiresAt()))
        .build();
  }

  @DELETE
  @Path("invitations/{login}")
  @Operation(operationId = "withdrawInvitation", summary = "Make a link useless")
  @APIResponse(responseCode = "204")
  public Response withdraw(@PathParam("login") String login) {
    caller.administrator();
    if (login.indexOf('\0') >= 0 || !people.withdraw(Names.meant(login))) {
      throw notFound("there is no invitation for that login");
    }
    return Response.noContent().build();
  }

  private Account find(String login) {
    if (login.indexOf('\0') >= 0) {
      throw notFound("nobody has that login");
    }
    return people.account(Names.meant(login)).orElseThrow(() -> notFound("nobody has that login"));
  }

  private static CellarException notFound(String message) {
    return new CellarException(ProblemCode.NOT_FOUND, message);
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
