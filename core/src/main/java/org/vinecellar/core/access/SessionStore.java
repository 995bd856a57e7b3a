package org.vinecellar.core.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Who is signed in. Tokens of sessions come as hashes only. */
public interface SessionStore {
  /** Keeps a session. */
  void create(String tokenHash, Session session, String agent, String address, Instant now);

  /** A session that has not ended, of an account that is not disabled; notes its use. */
  Optional<Session> session(String tokenHash, Instant now);

  /** Those of an account, the latest first. */
  List<SessionInfo> sessions(long accountId, Instant now);

  void end(String tokenHash);

  /** False when the account has no such session. */
  boolean end(long accountId, long id);

  /** Ends all sessions of the account but the one with that token. */
  void endOthers(long accountId, String keptTokenHash);

  /** Drops those that ran out. */
  void dropExpired(Instant now);
}
