package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.ACCOUNT;
import static org.vinecellar.store.generated.Tables.PROJECT;
import static org.vinecellar.store.generated.Tables.SESSION;
import static org.vinecellar.store.generated.Tables.SIGN_IN_FAILURE;
import static org.vinecellar.store.generated.Tables.TOKEN;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Optional;
import org.jooq.Record;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

/** Access in PostgreSQL. Thread-safe. */
public final class PgAccessStore implements AccessStore {
  /** Uses of a token closer together than this are noted once. */
  private static final Duration USE_GRAIN = Duration.ofMinutes(1);

  private final Sql sql;

  /** On that database. */
  public PgAccessStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Project> projects() {
    return sql.with(
        dsl -> dsl.selectFrom(PROJECT).orderBy(PROJECT.NAME).fetch(PgAccessStore::project));
  }

  @Override
  public Optional<Project> project(String key) {
    return sql.with(
        dsl ->
            dsl.selectFrom(PROJECT)
                .where(PROJECT.KEY.eq(key))
                .fetchOptional(PgAccessStore::project));
  }

  @Override
  public Project createProject(String key, String name, Instant now) {
    int made =
        sql.with(
            dsl ->
                dsl.insertInto(PROJECT)
                    .set(PROJECT.KEY, key)
                    .set(PROJECT.NAME, name)
                    .set(PROJECT.CREATED_AT, Sql.utc(now))
                    .onConflictDoNothing()
                    .execute());
    if (made == 0) {
      throw new CellarException(
          ProblemCode.ALREADY_EXISTS, "a project with the key “" + key + "” exists already");
    }
    return project(key).orElseThrow();
  }

  private static Project project(Record row) {
    return new Project(row.get(PROJECT.ID), row.get(PROJECT.KEY), row.get(PROJECT.NAME));
  }

  @Override
  public List<Token> tokens(int projectId) {
    return sql.with(
        dsl ->
            dsl.selectFrom(TOKEN)
                .where(TOKEN.PROJECT_ID.eq(projectId))
                .orderBy(TOKEN.REVOKED_AT.isNotNull(), TOKEN.CREATED_AT.desc(), TOKEN.ID.desc())
                .limit(500)
                .fetch(PgAccessStore::token));
  }

  @Override
  public Token createToken(
      int projectId, String name, String hash, String hint, String createdBy, Instant now) {
    return sql.with(
        dsl ->
            dsl.insertInto(TOKEN)
                .set(TOKEN.PROJECT_ID, projectId)
                .set(TOKEN.NAME, name)
                .set(TOKEN.TOKEN_HASH, hash)
                .set(TOKEN.HINT, hint)
                .set(TOKEN.CREATED_AT, Sql.utc(now))
                .set(TOKEN.CREATED_BY, createdBy)
                .returning()
                .fetchSingle(PgAccessStore::token));
  }

  private static Token token(Record row) {
    return new Token(
        row.get(TOKEN.ID),
        row.get(TOKEN.NAME),
        row.get(TOKEN.HINT),
        row.get(TOKEN.CREATED_AT).toInstant(),
        row.get(TOKEN.CREATED_BY),
        Sql.instantOrNull(row.get(TOKEN.LAST_USED_AT)),
        Sql.instantOrNull(row.get(TOKEN.REVOKED_AT)));
  }

  @Override
  public boolean revokeToken(int projectId, long id, Instant now) {
    return sql.with(
            dsl ->
                dsl.update(TOKEN)
                    .set(TOKEN.REVOKED_AT, Sql.utc(now))
                    .where(
                        TOKEN.PROJECT_ID.eq(projectId), TOKEN.ID.eq(id), TOKEN.REVOKED_AT.isNull())
                    .execute())
        == 1;
  }

  @Override
  public Optional<Pipeline> pipelineOfToken(String hash, Instant now) {
    return sql.with(
        dsl -> {
          Record row =
              dsl.select()
                  .from(TOKEN)
                  .join(PROJECT)
                  .on(PROJECT.ID.eq(TOKEN.PROJECT_ID))
                  .where(TOKEN.TOKEN_HASH.eq(hash), TOKEN.REVOKED_AT.isNull())
                  .fetchOne();
          if (row == null) {
            return Optional.empty();
          }
          OffsetDateTime used = row.get(TOKEN.LAST_USED_AT);
          if (used == null || used.toInstant().isBefore(now.minus(USE_GRAIN))) {
            dsl.update(TOKEN)
                .set(TOKEN.LAST_USED_AT, Sql.utc(now))
                .where(TOKEN.TOKEN_HASH.eq(hash))
                .execute();
          }
          return Optional.of(new Pipeline(project(row), row.get(TOKEN.NAME)));
        });
  }

  @Override
  public boolean hasAccounts() {
    return sql.with(dsl -> dsl.fetchExists(ACCOUNT));
  }

  @Override
  public Optional<Account> account(String login) {
    return sql.with(
        dsl ->
            dsl.selectFrom(ACCOUNT)
                .where(ACCOUNT.LOGIN.eq(login))
                .fetchOptional(
                    row ->
                        new Account(
                            row.get(ACCOUNT.ID),
                            row.get(ACCOUNT.LOGIN),
                            row.get(ACCOUNT.PASSWORD_HASH))));
  }

  @Override
  public boolean createAccount(String login, String passwordHash, Instant now) {
    return sql.with(
            dsl ->
                dsl.insertInto(ACCOUNT)
                    .set(ACCOUNT.LOGIN, login)
                    .set(ACCOUNT.PASSWORD_HASH, passwordHash)
                    .set(ACCOUNT.CREATED_AT, Sql.utc(now))
                    .onConflictDoNothing()
                    .execute())
        == 1;
  }

  @Override
  public void changePassword(long accountId, String passwordHash, String keptTokenHash) {
    sql.transaction(
        dsl -> {
          dsl.update(ACCOUNT)
              .set(ACCOUNT.PASSWORD_HASH, passwordHash)
              .where(ACCOUNT.ID.eq(accountId))
              .execute();
          return dsl.deleteFrom(SESSION)
              .where(SESSION.ACCOUNT_ID.eq(accountId), SESSION.TOKEN_HASH.ne(keptTokenHash))
              .execute();
        });
  }

  @Override
  public void createSession(String tokenHash, Session session, Instant now) {
    sql.with(
        dsl ->
            dsl.insertInto(SESSION)
                .set(SESSION.TOKEN_HASH, tokenHash)
                .set(SESSION.ACCOUNT_ID, session.accountId())
                .set(SESSION.CSRF, session.csrf())
                .set(SESSION.CREATED_AT, Sql.utc(now))
                .set(SESSION.EXPIRES_AT, Sql.utc(session.expiresAt()))
                .execute());
  }

  @Override
  public Optional<Session> session(String tokenHash, Instant now) {
    return sql.with(
        dsl ->
            dsl.select()
                .from(SESSION)
                .join(ACCOUNT)
                .on(ACCOUNT.ID.eq(SESSION.ACCOUNT_ID))
                .where(SESSION.TOKEN_HASH.eq(tokenHash), SESSION.EXPIRES_AT.gt(Sql.utc(now)))
                .fetchOptional(
                    row ->
                        new Session(
                            row.get(SESSION.ACCOUNT_ID),
                            row.get(ACCOUNT.LOGIN),
                            row.get(SESSION.CSRF),
                            row.get(SESSION.EXPIRES_AT).toInstant())));
  }

  @Override
  public void deleteSession(String tokenHash) {
    sql.with(dsl -> dsl.deleteFrom(SESSION).where(SESSION.TOKEN_HASH.eq(tokenHash)).execute());
  }

  @Override
  public Instant blockedUntil(String subject) {
    return sql.with(
        dsl ->
            dsl.selectFrom(SIGN_IN_FAILURE)
                .where(SIGN_IN_FAILURE.SUBJECT.eq(subject))
                .fetchOptional(row -> row.get(SIGN_IN_FAILURE.BLOCKED_UNTIL).toInstant())
                .orElse(Instant.EPOCH));
  }

  @Override
  public int countFailure(String subject, Instant now) {
    return sql.with(
        dsl ->
            dsl.insertInto(SIGN_IN_FAILURE)
                .set(SIGN_IN_FAILURE.SUBJECT, subject)
                .set(SIGN_IN_FAILURE.FAILURES, 1)
                .set(SIGN_IN_FAILURE.BLOCKED_UNTIL, Sql.utc(now))
                .onConflict(SIGN_IN_FAILURE.SUBJECT)
                .doUpdate()
                .set(SIGN_IN_FAILURE.FAILURES, SIGN_IN_FAILURE.FAILURES.plus(1))
                .returningResult(SIGN_IN_FAILURE.FAILURES)
                .fetchSingle(SIGN_IN_FAILURE.FAILURES));
  }

  @Override
  public void block(String subject, Instant until) {
    sql.with(
        dsl ->
            dsl.update(SIGN_IN_FAILURE)
                .set(SIGN_IN_FAILURE.BLOCKED_UNTIL, Sql.utc(until))
                .where(SIGN_IN_FAILURE.SUBJECT.eq(subject))
                .execute());
  }

  @Override
  public void forgetFailures(String subject) {
    sql.with(
        dsl ->
            dsl.deleteFrom(SIGN_IN_FAILURE).where(SIGN_IN_FAILURE.SUBJECT.eq(subject)).execute());
  }

  @Override
  public void dropExpired(Instant now) {
    sql.with(
        dsl -> {
          dsl.deleteFrom(SESSION).where(SESSION.EXPIRES_AT.lt(Sql.utc(now))).execute();
          return dsl.deleteFrom(SIGN_IN_FAILURE)
              .where(SIGN_IN_FAILURE.BLOCKED_UNTIL.lt(Sql.utc(now.minus(Duration.ofDays(1)))))
              .execute();
        });
  }
}
