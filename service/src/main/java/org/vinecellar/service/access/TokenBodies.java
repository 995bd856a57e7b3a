package org.vinecellar.service.access;

import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Scope;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Tokens of projects and of people on their way in and out. */
final class TokenBodies {
  private static final int MAX_DAYS = 3650;

  private TokenBodies() {}

  /**
   * What a new token takes.
   *
   * @param scopes of send, read, edit, and for people tidy; null for send and read
   * @param days after which it ends, 1 to 3650; null for no end
   */
  @Schema(name = "NewToken")
  record NewToken(
      @Nullable String name,
      @Schema(nullable = true) @Nullable List<String> scopes,
      @Schema(nullable = true) @Nullable Integer days) {}

  /** A token without its secret. */
  @Schema(name = "Token")
  record TokenBody(
      long id,
      String name,
      String hint,
      List<String> scopes,
      Instant createdAt,
      String createdBy,
      @Schema(nullable = true) @Nullable Instant expiresAt,
      @Schema(nullable = true) @Nullable Instant lastUsedAt,
      @Schema(nullable = true) @Nullable Instant revokedAt) {
    static TokenBody of(Token token) {
      return new TokenBody(
          token.id(),
          token.name(),
          token.hint(),
          token.scopes().stream().sorted().map(Scope::word).toList(),
          token.createdAt(),
          token.createdBy(),
          token.expiresAt(),
          token.lastUsedAt(),
          token.revokedAt());
    }
  }

  /** A token with its secret, which is shown this once. */
  @Schema(name = "CreatedToken")
  record CreatedToken(TokenBody token, String secret) {}

  /**
   * A checked token.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  static Token.New checked(@Nullable NewToken body, String secret, String by, Instant now) {
    Token.New token = ofPerson(body, secret, by, now);
    if (token.scopes().contains(Scope.TIDY)) {
      throw invalid("a token of the project cannot have the scope tidy; an owner’s own token can");
    }
    return token;
  }

  /**
   * A checked token of a person, who may have every scope.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  static Token.New ofPerson(@Nullable NewToken body, String secret, String by, Instant now) {
    if (body == null) {
      throw invalid("send the token as JSON: name, and if wanted scopes and days");
    }
    Integer days = body.days();
    if (days != null && (days < 1 || days > MAX_DAYS)) {
      throw invalid("days is " + days + "; it goes from 1 to " + MAX_DAYS);
    }
    return new Token.New(
        Names.checked(body.name()),
        Secrets.hash(secret),
        secret.substring(secret.length() - 4),
        scopes(body.scopes()),
        by,
        days == null ? null : now.plus(Duration.ofDays(days)));
  }

  private static Set<Scope> scopes(@Nullable List<String> words) {
    if (words == null) {
      return EnumSet.of(Scope.SEND, Scope.READ);
    }
    EnumSet<Scope> scopes = EnumSet.noneOf(Scope.class);
    for (String word : words) {
      scopes.add(
          Scope.ofWord(word == null ? "" : word)
              .orElseThrow(
                  () ->
                      invalid("“" + word + "” is no scope; there are send, read, edit and tidy")));
    }
    if (scopes.isEmpty()) {
      throw invalid("a token without a scope is good for nothing; give send, read, edit or tidy");
    }
    return scopes;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
