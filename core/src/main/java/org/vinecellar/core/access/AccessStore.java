package org.vinecellar.core.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Keeps projects, tokens, accounts and sessions. Secrets come as hashes only. */
public interface AccessStore {
  /** By name. */
  List<Project> projects();

  Optional<Project> project(String key);

  /**
   * @throws org.vinecellar.core.problem.CellarException {@code ALREADY_EXISTS}
   */
  Project createProject(String key, String name, Instant now);

  /** The newest first, revoked ones last. */
  List<Token> tokens(int projectId);

  Token createToken(
      int projectId, String name, String hash, String hint, String createdBy, Instant now);

  /** False when the project has no valid token of that id. */
  boolean revokeToken(int projectId, long id, Instant now);

  /** The project that a valid token belongs to, and the token's name; notes its use. */
  Optional<Pipeline> pipelineOfToken(String hash, Instant now);

  /** Whoever holds a token. */
  record Pipeline(Project project, String tokenName) {}

  boolean hasAccounts();

  Optional<Account> account(String login);

  /**
   * @return false when another instance made an account of that login first
   */
  boolean createAccount(String login, String passwordHash, Instant now);

  /** Sets a password and ends all sessions of the account but that of one token. */
  void changePassword(long accountId, String passwordHash, String keptTokenHash);

  void createSession(String tokenHash, Session session, Instant now);

  Optional<Session> session(String tokenHash, Instant now);

  void deleteSession(String tokenHash);

  /** Until when a subject has to wait; a time that has passed when it need not. */
  Instant blockedUntil(String subject);

  /**
   * Counts a failure to sign in.
   *
   * @return how many there were in a row
   */
  int countFailure(String subject, Instant now);

  void block(String subject, Instant until);

  void forgetFailures(String subject);

  /** Drops sessions and failures that ran out. */
  void dropExpired(Instant now);
}
