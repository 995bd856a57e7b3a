package org.vinecellar.core.access;

import java.time.Duration;
import java.time.Instant;

/** Tries to sign in, so that nobody can go on guessing. */
public interface SignInTries {
  /**
   * Counts a try to sign in, before it is known whether it is right.
   *
   * @param subject who tries
   * @param free so many may fail in a row without a wait; each further one doubles the wait
   * @param longest the wait never becomes longer
   * @return how long to wait instead; zero when the try is counted and may go on
   */
  Duration admit(String subject, int free, Duration longest, Instant now);

  /** A try was right: nothing is held against the subject any more. */
  void forget(String subject);

  /** A try was right: it is not held against the subject. */
  void forgive(String subject, Instant now);

  /** Drops what is old enough to be held against nobody. */
  void dropExpired(Instant now);
}
