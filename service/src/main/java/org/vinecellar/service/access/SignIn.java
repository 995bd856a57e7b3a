package org.vinecellar.service.access;

import io.quarkus.elytron.security.common.BcryptUtil;
import jakarta.inject.Singleton;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;

/** Checks passwords, slowly, and ever more slowly for who guesses. */
@Singleton
public class SignIn {
  private static final int FREE_TRIES_OF_A_LOGIN = 5;

  /** More, since a whole office may come from one address. */
  private static final int FREE_TRIES_OF_AN_ADDRESS = 30;

  private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);
  private static final int COST = 12;
  private static final int SHORTEST_PASSWORD = 12;

  /** What bcrypt looks at; the rest of a longer one would not count. */
  private static final int LONGEST_PASSWORD_BYTES = 72;

  /** Checked when the account does not exist, so that the answer takes as long. */
  private static final String NOBODY = BcryptUtil.bcryptHash("nobody", COST);

  private final AccessStore store;
  private final InstantSource clock;
  private final VineConfig config;

  SignIn(AccessStore store, InstantSource clock, VineConfig config) {
    this.store = store;
    this.clock = clock;
    this.config = config;
  }

  /** The hash to keep for a password. */
  public static String hash(String password) {
    return BcryptUtil.bcryptHash(password, COST);
  }

  /** A new session, and the secret that stands for it. */
  record SignedIn(String secret, Session session) {}

  /**
   * Signs a person in.
   *
   * @param address where the request comes from
   * @throws CellarException {@code NOT_SIGNED_IN} for a wrong login or password, {@code
   *     TOO_MANY_TRIES} when it has to wait
   */
  SignedIn signIn(String login, String password, String address) {
    Instant now = clock.instant();
    List<String> subjects =
        List.of("login:" + cut(login.toLowerCase(Locale.ROOT)), "address:" + cut(address));
    refuseBlocked(subjects, now);
    Optional<Account> account = store.account(login);
    boolean right = BcryptUtil.matches(password, account.map(Account::passwordHash).orElse(NOBODY));
    if (account.isEmpty() || !right) {
      subjects.forEach(subject -> countFailure(subject, now));
      throw new CellarException(ProblemCode.NOT_SIGNED_IN, "the name or the password is not right");
    }
    subjects.forEach(store::forgetFailures);
    String secret = Secrets.random(32);
    Session session =
        new Session(
            account.get().id(), login, Secrets.random(24), now.plus(config.session().length()));
    store.createSession(Secrets.hash(secret), session, now);
    return new SignedIn(secret, session);
  }

  /**
   * Sets another password, and ends the sessions of the account elsewhere.
   *
   * @param secret of the session that asks, which stays
   * @throws CellarException {@code INVALID_VALUE} when the present password is not right or the new
   *     one will not do, {@code TOO_MANY_TRIES} when it has to wait
   */
  void changePassword(Session session, String secret, String present, String next) {
    Instant now = clock.instant();
    String subject = "login:" + cut(session.login().toLowerCase(Locale.ROOT));
    refuseBlocked(List.of(subject), now);
    Account account = store.account(session.login()).orElseThrow();
    if (!BcryptUtil.matches(present, account.passwordHash())) {
      countFailure(subject, now);
      throw new CellarException(ProblemCode.INVALID_VALUE, "the present password is not right");
    }
    int bytes = next.getBytes(StandardCharsets.UTF_8).length;
    if (next.length() < SHORTEST_PASSWORD || bytes > LONGEST_PASSWORD_BYTES) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the new password must have at least "
              + SHORTEST_PASSWORD
              + " characters, and at most "
              + LONGEST_PASSWORD_BYTES
              + " bytes");
    }
    store.forgetFailures(subject);
    store.changePassword(account.id(), hash(next), Secrets.hash(secret));
  }

  private void refuseBlocked(List<String> subjects, Instant now) {
    for (String subject : subjects) {
      Instant until = store.blockedUntil(subject);
      if (until.isAfter(now)) {
        throw wait(Duration.between(now, until));
      }
    }
  }

  private static String cut(String text) {
    return text.length() > 200 ? text.substring(0, 200) : text;
  }

  private void countFailure(String subject, Instant now) {
    int failures = store.countFailure(subject, now);
    int free = subject.startsWith("login:") ? FREE_TRIES_OF_A_LOGIN : FREE_TRIES_OF_AN_ADDRESS;
    if (failures >= free) {
      long seconds = 1L << Math.min(failures - free, 20);
      Duration wait = Duration.ofSeconds(Math.min(seconds, LONGEST_WAIT.toSeconds()));
      store.block(subject, now.plus(wait));
    }
  }

  private static CellarException wait(Duration duration) {
    return new CellarException(
        ProblemCode.TOO_MANY_TRIES,
        "too many wrong tries; wait " + (duration.toSeconds() + 1) + " seconds and try again");
  }
}
