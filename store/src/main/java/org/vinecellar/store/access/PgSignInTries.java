package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.SIGN_IN_FAILURE;

import java.time.Duration;
import java.time.Instant;
import org.jooq.impl.DSL;
import org.vinecellar.core.access.SignInTries;
import org.vinecellar.store.sql.Sql;

/** Tries to sign in, in PostgreSQL. Thread-safe. */
public final class PgSignInTries implements SignInTries {
  private static final Duration TRIES_KEPT = Duration.ofDays(1);

  private final Sql sql;

  /** On that database. */
  public PgSignInTries(Sql sql) {
    this.sql = sql;
  }

  /**
   * One statement, so that of many at once each is counted before the next is let in: a row that is
   * blocked is not touched, and then nothing comes back.
   */
  @Override
  public Duration admit(String subject, int free, Duration longest, Instant now) {
    return sql.with(
        dsl -> {
          var admitted =
              dsl.fetch(
                  "insert into sign_in_failure as f (subject, failures, blocked_until)"
                      + " values (?, 1, cast(? as timestamptz))"
                      + " on conflict (subject) do update set failures = f.failures + 1,"
                      + " blocked_until = case when f.failures + 1 < ? then excluded.blocked_until"
                      + " else excluded.blocked_until"
                      + " + make_interval(secs => least(?, power(2, least(f.failures + 1 - ?, 20)))) end"
                      + " where f.blocked_until <= excluded.blocked_until returning f.failures",
                  subject,
                  Sql.utc(now),
                  free,
                  longest.toSeconds(),
                  free);
          if (admitted.isNotEmpty()) {
            return Duration.ZERO;
          }
          Instant until =
              dsl.selectFrom(SIGN_IN_FAILURE)
                  .where(SIGN_IN_FAILURE.SUBJECT.eq(subject))
                  .fetchOptional(row -> row.get(SIGN_IN_FAILURE.BLOCKED_UNTIL).toInstant())
                  .orElse(now);
          Duration wait = Duration.between(now, until);
          return wait.compareTo(Duration.ofSeconds(1)) < 0 ? Duration.ofSeconds(1) : wait;
        });
  }

  @Override
  public void forget(String subject) {
    sql.with(
        dsl ->
            dsl.deleteFrom(SIGN_IN_FAILURE).where(SIGN_IN_FAILURE.SUBJECT.eq(subject)).execute());
  }

  @Override
  public void forgive(String subject, Instant now) {
    sql.with(
        dsl ->
            dsl.update(SIGN_IN_FAILURE)
                .set(
                    SIGN_IN_FAILURE.FAILURES,
                    DSL.greatest(SIGN_IN_FAILURE.FAILURES.minus(1), DSL.inline(0)))
                .set(SIGN_IN_FAILURE.BLOCKED_UNTIL, Sql.utc(now))
                .where(SIGN_IN_FAILURE.SUBJECT.eq(subject))
                .execute());
  }

  @Override
  public void dropExpired(Instant now) {
    sql.with(
        dsl ->
            dsl.deleteFrom(SIGN_IN_FAILURE)
                .where(SIGN_IN_FAILURE.BLOCKED_UNTIL.lt(Sql.utc(now.minus(TRIES_KEPT))))
                .execute());
  }
}
