package org.vinecellar.service.access;

import jakarta.ws.rs.container.ContainerRequestContext;
import jakarta.ws.rs.core.Cookie;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.InstantSource;
import java.util.Set;
import org.jboss.resteasy.reactive.server.ServerRequestFilter;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Finds out who makes a request. Whether they may is asked where the project is known. */
public class CallerFilter {
  private static final Set<String> SAFE = Set.of("GET", "HEAD", "OPTIONS");

  private final AccessStore store;
  private final InstantSource clock;
  private final Caller caller;

  CallerFilter(AccessStore store, InstantSource clock, Caller caller) {
    this.store = store;
    this.clock = clock;
    this.caller = caller;
  }

  /** Runs before every resource of the API. */
  @ServerRequestFilter
  public void identify(ContainerRequestContext request) {
    String authorization = request.getHeaderString("Authorization");
    if (authorization != null) {
      bearer(authorization);
      return;
    }
    Cookie cookie = request.getCookies().get(SessionCookie.NAME);
    if (cookie == null) {
      return;
    }
    store
        .session(Secrets.hash(cookie.getValue()), clock.instant())
        .ifPresent(session -> person(request, session));
  }

  private void bearer(String authorization) {
    if (!authorization.regionMatches(true, 0, "Bearer ", 0, 7)) {
      throw new CellarException(
          ProblemCode.NOT_SIGNED_IN, "only “Authorization: Bearer TOKEN” is understood");
    }
    String secret = authorization.substring(7).strip();
    caller.isPipeline(
        store
            .pipelineOfToken(Secrets.hash(secret), clock.instant())
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_SIGNED_IN,
                        "the token is not valid, or was revoked; make a new one under Tokens of"
                            + " the project")));
  }

  private void person(ContainerRequestContext request, Session session) {
    if (!SAFE.contains(request.getMethod())) {
      String sent = request.getHeaderString("X-Vine-Csrf");
      boolean same =
          sent != null
              && MessageDigest.isEqual(
                  sent.getBytes(StandardCharsets.UTF_8),
                  session.csrf().getBytes(StandardCharsets.UTF_8));
      if (!same) {
        throw new CellarException(
            ProblemCode.NOT_ALLOWED,
            "the header X-Vine-Csrf is missing or wrong; reload the page and try again");
      }
    }
    caller.isPerson(session);
  }
}
