package org.vinecellar.service.access;

import io.vertx.core.http.HttpServerRequest;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.CookieParam;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Signing in and out. */
@Path("/api/v1/session")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class SessionResource {
  private final SignIn signIn;
  private final AccessStore store;
  private final SessionCookie cookie;
  private final Caller caller;

  SessionResource(SignIn signIn, AccessStore store, SessionCookie cookie, Caller caller) {
    this.signIn = signIn;
    this.store = store;
    this.cookie = cookie;
    this.caller = caller;
  }

  /** What signing in takes. */
  @Schema(name = "Credentials")
  public record Credentials(@Nullable String login, @Nullable String password) {}

  /** Who is signed in, and what changing requests must repeat in the header X-Vine-Csrf. */
  @Schema(name = "Session")
  public record SessionBody(String login, String csrf) {
    static SessionBody of(Session session) {
      return new SessionBody(session.login(), session.csrf());
    }
  }

  @GET
  @Operation(operationId = "getSession", summary = "Who is signed in")
  public SessionBody get() {
    return SessionBody.of(caller.person());
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "signIn", summary = "Sign in; sets a cookie")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = SessionBody.class)))
  public Response post(Credentials credentials, HttpServerRequest request) {
    if (credentials.login() == null || credentials.password() == null) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "send login and password, both as text");
    }
    String address =
        request.remoteAddress() == null
            ? "unknown"
            : Objects.requireNonNullElse(request.remoteAddress().hostAddress(), "unknown");
    SignIn.SignedIn signedIn = signIn.signIn(credentials.login(), credentials.password(), address);
    return Response.ok(SessionBody.of(signedIn.session()))
        .cookie(cookie.with(signedIn.secret()))
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
  public Response password(
      PasswordChange change, @CookieParam(SessionCookie.NAME) @Nullable String secret) {
    Session person = caller.person();
    if (change.present() == null || change.next() == null || secret == null) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "send present and next, both as text");
    }
    signIn.changePassword(person, secret, change.present(), change.next());
    return Response.noContent().build();
  }

  @DELETE
  @Operation(operationId = "signOut", summary = "Sign out")
  @APIResponse(responseCode = "204")
  public Response delete(@CookieParam(SessionCookie.NAME) @Nullable String secret) {
    caller.person();
    if (secret != null) {
      store.deleteSession(Secrets.hash(secret));
    }
    return Response.noContent().cookie(cookie.gone()).build();
  }
}
