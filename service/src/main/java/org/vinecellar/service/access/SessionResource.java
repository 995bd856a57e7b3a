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
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.concurrent.CompletionStage;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.SessionInfo;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.guard.Addresses;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;

/** Signing in and out, and where somebody is signed in. */
@Path("/api/v1/session")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class SessionResource {
  private final SignIn signIn;
  private final SessionStore store;
  private final SessionCookie cookie;
  private final Caller caller;
  private final Rooms rooms;
  private final InstantSource clock;

  SessionResource(
      SignIn signIn,
      SessionStore store,
      SessionCookie cookie,
      Caller caller,
      Rooms rooms,
      InstantSource clock) {
    this.signIn = signIn;
    this.store = store;
    this.cookie = cookie;
    this.caller = caller;
    this.rooms = rooms;
    this.clock = clock;
  }

  /** What signing in takes. */
  @Schema(name = "Credentials")
  public record Credentials(@Nullable String login, @Nullable String password) {}

  /**
   * Who is signed in, and what changing requests must repeat in the header X-Vine-Csrf.
   *
   * @param administrator of the portal
   */
  @Schema(name = "Session")
  public record SessionBody(String login, boolean administrator, String csrf) {
    static SessionBody of(Session session) {
      return new SessionBody(session.login(), session.administrator(), session.csrf());
    }
  }

  @GET
  @Operation(operationId = "getSession", summary = "Who is signed in")
  public SessionBody get() {
    return SessionBody.of(caller.session());
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "signIn", summary = "Sign in; sets a cookie")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = SessionBody.class)))
  public CompletionStage<Response> post(
      @Nullable Credentials credentials, @Context HttpServerRequest request) {
    String login = credentials == null ? null : credentials.login();
    String password = credentials == null ? null : credentials.password();
    if (login == null || password == null) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "send login and password, both as text");
    }
    SignIn.Device device = device(request);
    boolean https = "https".equals(request.scheme());
    return rooms
        .run(Room.HASH, () -> signIn.signIn(login, password, device))
        .thenApply(signedIn -> signedIn(signedIn, https));
  }

  static SignIn.Device device(HttpServerRequest request) {
    String agent = request.getHeader("User-Agent");
    return new SignIn.Device(Addresses.of(request), agent == null ? "" : agent);
  }

  private Response signedIn(SignIn.SignedIn signedIn, boolean https) {
    return Response.ok(SessionBody.of(signedIn.session()))
        .cookie(cookie.with(signedIn.secret(), https))
        .build();
  }

  /** What changing a password takes. */
  @Schema(name = "PasswordChange")
  public record PasswordChange(@Nullable String present, @Nullable String next) {}

  @PUT
  @Path("password")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "changePassword",
      summary = "Change the own password; ends the sessions elsewhere")
  @APIResponse(responseCode = "204")
  public CompletionStage<Response> password(
      @Nullable PasswordChange change, @Context HttpServerRequest request) {
    Session person = caller.session();
    String secret = cookie.in(request);
    String present = change == null ? null : change.present();
    String next = change == null ? null : change.next();
    if (present == null || next == null || secret == null) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "send present and next, both as text");
    }
    return rooms.run(
        Room.HASH,
        () -> {
          signIn.changePassword(person, secret, present, next);
          return Response.noContent().build();
        });
  }

  /** What the link of an invitation holds behind its “#”, and the password that is chosen. */
  @Schema(name = "Joining")
  public record Joining(
      @Nullable String secret, @Schema(nullable = true) @Nullable String password) {}

  /** Whom an invitation is for. */
  @Schema(name = "InvitationView")
  public record InvitationView(String login, boolean known, Instant expiresAt) {}

  @POST
  @Path("invitation")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "lookAtInvitation", summary = "Whom a link is for, while it is good")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = InvitationView.class)))
  public CompletionStage<InvitationView> look(
      @Nullable Joining body, @Context HttpServerRequest request) {
    String secret = body == null || body.secret() == null ? "" : body.secret();
    SignIn.Device device = device(request);
    return rooms
        .run(Room.HASH, () -> signIn.look(secret, device))
        .thenApply(
            found ->
                new InvitationView(found.login(), found.accountId() != null, found.expiresAt()));
  }

  @POST
  @Path("joining")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "join", summary = "Use a link up: choose the password, and be signed in")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = SessionBody.class)))
  public CompletionStage<Response> join(
      @Nullable Joining body, @Context HttpServerRequest request) {
    String secret = body == null ? null : body.secret();
    String password = body == null ? null : body.password();
    if (secret == null || password == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "send secret and password, both as text");
    }
    SignIn.Device device = device(request);
    boolean https = "https".equals(request.scheme());
    return rooms
        .run(Room.HASH, () -> signIn.accept(secret, password, device))
        .thenApply(signedIn -> signedIn(signedIn, https));
  }

  /** A place where somebody is signed in. */
  @Schema(name = "SignedInAt")
  public record PlaceBody(
      long id,
      boolean here,
      String agent,
      String address,
      Instant createdAt,
      Instant lastSeenAt,
      Instant expiresAt) {}

  @GET
  @Path("all")
  @Operation(operationId = "listSessions", summary = "Where the caller is signed in")
  public List<PlaceBody> all() {
    Session session = caller.session();
    return store.sessions(session.accountId(), clock.instant()).stream()
        .map(one -> place(one, one.id() == session.id()))
        .toList();
  }

  private static PlaceBody place(SessionInfo one, boolean here) {
    return new PlaceBody(
        one.id(),
        here,
        one.agent(),
        one.address(),
        one.createdAt(),
        one.lastSeenAt(),
        one.expiresAt());
  }

  @DELETE
  @Path("all")
  @Operation(operationId = "signOutElsewhere", summary = "Sign out everywhere but here")
  @APIResponse(responseCode = "204")
  public Response elsewhere(@Context HttpServerRequest request) {
    Session session = caller.session();
    String secret = cookie.in(request);
    store.endOthers(session.accountId(), secret == null ? "" : Secrets.hash(secret));
    return Response.noContent().build();
  }

  @DELETE
  @Path("all/{id}")
  @Operation(operationId = "endSession", summary = "Sign out at one place")
  @APIResponse(responseCode = "204")
  public Response end(@PathParam("id") long id) {
    if (!store.end(caller.session().accountId(), id)) {
      throw new CellarException(ProblemCode.NOT_FOUND, "you have no session of the number " + id);
    }
    return Response.noContent().build();
  }

  @DELETE
  @Operation(operationId = "signOut", summary = "Sign out")
  @APIResponse(responseCode = "204")
  public Response delete(@Context HttpServerRequest request) {
    caller.session();
    String secret = cookie.in(request);
    if (secret != null) {
      store.end(Secrets.hash(secret));
    }
    return Response.noContent().cookie(cookie.gone("https".equals(request.scheme()))).build();
  }
}
