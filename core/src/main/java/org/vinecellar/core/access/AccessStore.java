package org.vinecellar.core.access;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;

/** Who comes in: projects, tokens, sessions. Secrets come as hashes only. */
public interface AccessStore {
  /** All of them, by name. */
  List<Project> projects();

  Optional<Project> project(String key);

  /**
   * Makes a project.
   *
   * @param owner the account that owns it from the start; null for none
   * @throws CellarException {@code ALREADY_EXISTS}
   */
  Project createProject(String key, String name, @Nullable Long owner, Instant now);

  /** Changes the name of a project, and whether everybody may read it. */
  Project changeProject(int projectId, String name, boolean open);

  /** The newest first, revoked ones last, at most 500. */
  List<Token> tokens(int projectId);

  Token createToken(int projectId, Token.New token, Instant now);

  /** False when the project has no valid token of that id. */
  boolean revokeToken(int projectId, long id, Instant now);

  /** What a valid token of a project says; notes its use. */
  Optional<Pipeline> pipelineOfToken(String hash, Instant now);

  /** Whoever holds a token of a project. */
  record Pipeline(Project project, String tokenName, Set<Scope> scopes) {}

  /** Tokens of a person, the newest first, revoked ones last, at most 500. */
  List<Token> tokensOf(long accountId);

  Token createTokenOf(long accountId, Token.New token, Instant now);

  /** False when the person has no valid token of that id. */
  boolean revokeTokenOf(long accountId, long id, Instant now);

  /** The person of a valid token of their own; notes its use. */
  Optional<PersonByToken> personOfToken(String hash, Instant now);

  /** A person who acts through a token of their own. */
  record PersonByToken(Account account, String tokenName, Set<Scope> scopes) {}

  /**
   * What an account may be in a project: its role there, or reader where everybody may read.
   *
   * @return empty when there is no such project, or the account is nothing in it
   */
  Optional<Membership> membership(long accountId, String projectKey);

  /** All projects in which the account is something, by name. */
  List<Membership> memberships(long accountId);

  /** Keeps a session. */
  void createSession(String tokenHash, Session session, String agent, String address, Instant now);

  /** A session that has not ended, of an account that is not disabled; notes its use. */
  Optional<Session> session(String tokenHash, Instant now);

  /** The latest first. */
  List<SessionInfo> sessions(long accountId, Instant now);

  void deleteSession(String tokenHash);

  /** False when the account has no such session. */
  boolean deleteSession(long accountId, long id);

  /** Ends all sessions of the account but the one with that token. */
  void deleteOtherSessions(long accountId, String keptTokenHash);

  /**
   * Counts a try to sign in, before it is known whether it is right.
   *
   * @param subject who tries
   * @param free so many may fail in a row without a wait; each further one doubles the wait
   * @param longest the wait never becomes longer
   * @return how long to wait instead; zero when the try is counted and may go on
   */
  Duration admitTry(String subject, int free, Duration longest, Instant now);

  /** A try was right: nothing is held against the subject any more. */
  void forgetTries(String subject);

  /** A try was right: it is not held against the subject. */
  void forgiveTry(String subject, Instant now);

  /** Drops sessions, invitations and tries that ran out. */
  void dropExpired(Instant now);
}
