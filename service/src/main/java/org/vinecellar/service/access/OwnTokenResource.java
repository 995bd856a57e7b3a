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
import java.time.InstantSource;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.access.TokenStore;

/** Tokens of a person: good in all projects of theirs, for as much as they may there. */
@Path("/api/v1/session/tokens")
@Tag(name = "access")
@Produces(MediaType.APPLICATION_JSON)
public class OwnTokenResource {
  private final TokenStore store;
  private final InstantSource clock;
  private final Caller caller;

  OwnTokenResource(TokenStore store, InstantSource clock, Caller caller) {
    this.store = store;
    this.clock = clock;
    this.caller = caller;
  }

  @GET
  @Operation(operationId = "listOwnTokens", summary = "The caller's own tokens, the newest first")
  public List<TokenBodies.TokenBody> list() {
    return store.ofPerson(caller.session().accountId()).stream()
        .map(TokenBodies.TokenBody::of)
        .toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "createOwnToken", summary = "Make one; its secret is shown this once")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = TokenBodies.CreatedToken.class)))
  public Response create(TokenBodies.@Nullable NewToken body) {
    Session session = caller.session();
    String secret = Secrets.newTokenOfPerson();
    Token.New wanted = TokenBodies.ofPerson(body, secret, session.login(), clock.instant());
    Token token = store.createForPerson(session.accountId(), wanted, clock.instant());
    return Response.status(201)
        .entity(new TokenBodies.CreatedToken(TokenBodies.TokenBody.of(token), secret))
        .build();
  }

  @DELETE
  @Path("{id}")
  @Operation(operationId = "revokeOwnToken", summary = "Revoke one; it stays listed")
  @APIResponse(responseCode = "204")
  public Response revoke(@PathParam("id") long id) {
    if (!store.revokeOfPerson(caller.session().accountId(), id, clock.instant())) {
      throw ProjectResource.noToken("your account", id);
    }
    return Response.noContent().build();
  }
}
