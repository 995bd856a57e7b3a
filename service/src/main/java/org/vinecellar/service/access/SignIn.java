package org.vinecellar.service.access;

import io.quarkus.elytron.security.common.BcryptUtil;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Invitation;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.access.SignInTries;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.VineConfig;

/**
 * Checks passwords, slowly, and ever more slowly for who guesses. A try is counted before the hash
 * is computed, so that many at once are not all let in. It counts for the name as tried from that
 * address, and for the address: whoever guesses names elsewhere locks nobody out.
 */
@Singleton
public class SignIn {
  private static final int FREE_TRIES = 5;

  /** More, since a whole office may come from one address. */
  private static final int FREE_TRIES_OF_AN_ADDRESS = 30;

  private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);
  private static final int COST = 12;

  /** Checked when the account does not exist, so that the answer takes as long. */
  private static final String NOBODY = BcryptUtil.bcryptHash("nobody", COST);

  private final SessionStore sessions;
  private final SignInTries tries;
  private final PeopleStore people;
  private final InstantSource clock;
  private final VineConfig config;

  SignIn(
      SessionStore sessions,
      SignInTries tries,
      PeopleStore people,
      InstantSource clock,
      VineConfig config) {
    this.sessions = sessions;
    this.tries = tries;
    this.people = people;
    this.clock = clock;
    this.config = config;
  }

  /** The hash to keep for a password. */
  public static String hash(String password) {
    return BcryptUtil.bcryptHash(password, COST);
  }

  /** A new session, and the secret that stands for it. */
  record SignedIn(String secret, Session session) {}

  /** From where somebody signs in, and with what. */
  record Device(String address, String agent) {}

  /**
   * Signs a person in.
   *
   * @throws CellarException {@code NOT_SIGNED_IN} for a wrong login or password, {@code
   *     TOO_MANY_TRIES} when it has to wait
   */
  SignedIn signIn(String typed, String password, Device device) {
    String login = Names.meant(typed);
    Instant now = clock.instant();
    String address = "address:" + cut(device.address());
    String pair = "login:" + cut(login) + "@" + cut(device.address());
    admit(pair, FREE_TRIES, now);
    admit(address, FREE_TRIES_OF_AN_ADDRESS, now);
    Optional<Account> account = login.indexOf('\0') < 0 ? people.account(login) : Optional.empty();
    if (!matches(password, account.map(Account::passwordHash).orElse(null))
        || account.isEmpty()
        || !account.get().enabled()) {
      throw new CellarException(ProblemCode.NOT_SIGNED_IN, "the name or the password is not right");
    }
    tries.forget(pair);
    tries.forgive(address, now);
    return begin(account.get(), device, now);
  }

  private SignedIn begin(Account account, Device device, Instant now) {
    String secret = Secrets.random(32);
    Session session =
        new Session(
            0,
            account.id(),
            account.login(),
            account.administrator(),
            Secrets.random(24),
            now.plus(config.session().length()));
    sessions.create(Secrets.hash(secret), session, device.agent(), device.address(), now);
    return new SignedIn(secret, session);
  }

  /** Takes as long for an account that has no password, or is none. */
  private static boolean matches(String password, @Nullable String hash) {
    boolean right = BcryptUtil.matches(password, hash == null ? NOBODY : hash);
    return right && hash != null;
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
    String subject = "change:" + cut(session.login().toLowerCase(Locale.ROOT));
    admit(subject, FREE_TRIES, now);
    Account account = people.account(session.login()).orElseThrow();
    if (!matches(present, account.passwordHash())) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "the present password is not right");
    }
    tries.forget(subject);
    Passwords.check(next, session.login());
    people.changePassword(account.id(), hash(next), Secrets.hash(secret));
  }

  /** An invitation that is still good; tries count as those to sign in. */
  Invitation look(String secret, Device device) {
    Instant now = clock.instant();
    String address = "address:" + cut(device.address());
    admit(address, FREE_TRIES_OF_AN_ADDRESS, now);
    Invitation found =
        people.invitation(Secrets.hash(secret), now).orElseThrow(SignIn::notGoodAnyMore);
    tries.forgive(address, now);
    return found;
  }

  /** Uses an invitation, and signs the person in. */
  SignedIn accept(String secret, String password, Device device) {
    Invitation invitation = look(secret, device);
    Passwords.check(password, invitation.login());
    Instant now = clock.instant();
    Account account =
        people
            .accept(Secrets.hash(secret), hash(password), now)
            .filter(Account::enabled)
            .orElseThrow(SignIn::notGoodAnyMore);
    return begin(account, device, now);
  }

  private static CellarException notGoodAnyMore() {
    return new CellarException(
        ProblemCode.NOT_FOUND,
        "this link is not good any more: it was used, withdrawn, or its time is over. Ask an"
            + " administrator for another");
  }

  private static String cut(String text) {
    String plain = text.replace('\0', '\uFFFD');
    return plain.length() > 120 ? plain.substring(0, 120) : plain;
  }

  private void admit(String subject, int free, Instant now) {
    Duration wait = tries.admit(subject, free, LONGEST_WAIT, now);
    if (!wait.isZero()) {
      throw new TryLaterException(
          ProblemCode.TOO_MANY_TRIES,
          "too many wrong tries; wait " + (wait.toSeconds() + 1) + " seconds and try again",
          wait);
    }
  }
}
