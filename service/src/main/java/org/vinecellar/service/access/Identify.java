package org.vinecellar.service.access;

import jakarta.inject.Singleton;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.InstantSource;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Finds out who makes a request. Asks the database, so never on an event loop. */
@Singleton
public class Identify {
  /** Where the front door leaves what it found out, in the routing context. */
  public static final String VISITOR = "vine.visitor";

  private static final Set<String> SAFE = Set.of("GET", "HEAD", "OPTIONS");

  /** Longer ones are none of ours; they are not even hashed. */
  private static final int LONGEST_SECRET = 200;

  private final SessionStore sessions;
  private final TokenStore tokens;
  private final InstantSource clock;

  Identify(SessionStore sessions, TokenStore tokens, InstantSource clock) {
    this.sessions = sessions;
    this.tokens = tokens;
    this.clock = clock;
  }

  /**
   * What a request shows of who makes it.
   *
   * @param authorization the header; null when there is none
   * @param cookie of a session; null when there is none
   * @param csrf the header X-Vine-Csrf; null when there is none
   */
  public record Shown(
      String method,
      @Nullable String authorization,
      @Nullable String cookie,
      @Nullable String csrf) {
    /** Whether there is anything to be checked. */
    public boolean isAnything() {
      return authorization != null || cookie != null;
    }
  }

  /**
   * Who that is. A session that has ended is nobody; a token that is not valid is an error.
   *
   * @throws CellarException {@code NOT_SIGNED_IN} for a wrong token, {@code NOT_ALLOWED} when a
   *     change lacks what only our own pages can send
   */
  public Visitor who(Shown shown) {
    String authorization = shown.authorization();
    if (authorization != null) {
      return bearer(authorization);
    }
    String cookie = shown.cookie();
    if (cookie == null || cookie.length() > LONGEST_SECRET) {
      return new Visitor.Nobody();
    }
    Optional<Session> session = sessions.session(Secrets.hash(cookie), clock.instant());
    return session.isEmpty() ? new Visitor.Nobody() : person(shown, session.get());
  }

  private Visitor bearer(String authorization) {
    if (!authorization.regionMatches(true, 0, "Bearer ", 0, 7)) {
      throw new CellarException(
          ProblemCode.NOT_SIGNED_IN, "only “Authorization: Bearer TOKEN” is understood");
    }
    String secret = authorization.substring(7).strip();
    if (secret.length() > LONGEST_SECRET) {
      throw notValid();
    }
    String hash = Secrets.hash(secret);
    if (Secrets.isOfPerson(secret)) {
      TokenStore.PersonByToken by =
          tokens.person(hash, clock.instant()).orElseThrow(Identify::notValid);
      Account account = by.account();
      return new Visitor.Person(
          account.id(), account.login(), account.administrator(), null, by.scopes());
    }
    TokenStore.Pipeline by = tokens.pipeline(hash, clock.instant()).orElseThrow(Identify::notValid);
    return new Visitor.Pipeline(by.project(), by.tokenName(), by.scopes());
  }

  private static CellarException notValid() {
    return new CellarException(
        ProblemCode.NOT_SIGNED_IN,
        "the token is not valid: it was mistyped, revoked, or has ended; make a new one under"
            + " Tokens of the project");
  }

  private static Visitor person(Shown shown, Session session) {
    if (!SAFE.contains(shown.method())) {
      String sent = shown.csrf();
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
    return new Visitor.Person(
        session.accountId(), session.login(), session.administrator(), session, null);
  }
}
