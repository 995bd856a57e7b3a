package org.vinecellar.core.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Tokens of projects and of people. Secrets come as hashes only. */
public interface TokenStore {
  /** Those of a project, the newest first, revoked ones last, at most 500. */
  List<Token> ofProject(int projectId);

  Token createForProject(int projectId, Token.New token, Instant now);

  /** False when the project has no valid token of that id. */
  boolean revokeOfProject(int projectId, long id, Instant now);

  /** What a valid token of a project says; notes its use. */
  Optional<Pipeline> pipeline(String hash, Instant now);

  /** Whoever holds a token of a project. */
  record Pipeline(Project project, String tokenName, Set<Scope> scopes) {}

  /** Those of a person, the newest first, revoked ones last, at most 500. */
  List<Token> ofPerson(long accountId);

  Token createForPerson(long accountId, Token.New token, Instant now);

  /** False when the person has no valid token of that id. */
  boolean revokeOfPerson(long accountId, long id, Instant now);

  /** The person of a valid token of their own; notes its use. */
  Optional<PersonByToken> person(String hash, Instant now);

  /** A person who acts through a token of their own. */
  record PersonByToken(Account account, String tokenName, Set<Scope> scopes) {}
}
