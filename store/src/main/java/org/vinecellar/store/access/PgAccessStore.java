package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.ACCOUNT;
import static org.vinecellar.store.generated.Tables.INVITATION;
import static org.vinecellar.store.generated.Tables.MEMBER;
import static org.vinecellar.store.generated.Tables.PROJECT;
import static org.vinecellar.store.generated.Tables.SESSION;
import static org.vinecellar.store.generated.Tables.SIGN_IN_FAILURE;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Membership;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.SessionInfo;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

/** Access in PostgreSQL. Thread-safe. */
public final class PgAccessStore implements AccessStore {
  /** Uses of a session closer together than this are noted once. */
  private static final Duration SEEN_GRAIN = Duration.ofMinutes(5);

  private static final Duration TRIES_KEPT = Duration.ofDays(1);

  private final Sql sql;
  private final TokenRows tokens;

  /** On that database. */
  public PgAccessStore(Sql sql) {
    this.sql = sql;
    this.tokens = new TokenRows(sql);
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
  public Project createProject(String key, String name, @Nullable Long owner, Instant now) {
    return sql.transaction(
        dsl -> {
          Project made =
              dsl.insertInto(PROJECT)
                  .set(PROJECT.KEY, key)
                  .set(PROJECT.NAME, name)
                  .set(PROJECT.CREATED_AT, Sql.utc(now))
                  .onConflictDoNothing()
                  .returning()
                  .fetchOne(PgAccessStore::project);
          if (made == null) {
            throw new CellarException(
                ProblemCode.ALREADY_EXISTS, "a project with the key “" + key + "” exists already");
          }
          if (owner != null) {
            MemberRows.set(dsl, made.id(), owner, Role.OWNER, "", now);
          }
          return made;
        });
  }

  @Override
  public Project changeProject(int projectId, String name, boolean open) {
    return sql.with(
        dsl ->
            dsl.update(PROJECT)
                .set(PROJECT.NAME, name)
                .set(PROJECT.IS_OPEN, open)
                .where(PROJECT.ID.eq(projectId))
                .returning()
                .fetchSingle(PgAccessStore::project));
  }

  static Project project(Record row) {
    return new Project(
        row.get(PROJECT.ID), row.get(PROJECT.KEY), row.get(PROJECT.NAME), row.get(PROJECT.IS_OPEN));
  }

  @Override
  public List<Token> tokens(int projectId) {
    return tokens.ofProject(projectId);
  }

  @Override
  public Token createToken(int projectId, Token.New token, Instant now) {
    return tokens.create(projectId, token, now);
  }

  @Override
  public boolean revokeToken(int projectId, long id, Instant now) {
    return tokens.revoke(projectId, id, now);
  }

  @Override
  public Optional<Pipeline> pipelineOfToken(String hash, Instant now) {
    return tokens.pipeline(hash, now);
  }

  @Override
  public List<Token> tokensOf(long accountId) {
    return tokens.ofPerson(accountId);
  }

  @Override
  public Token createTokenOf(long accountId, Token.New token, Instant now) {
    return tokens.createOf(accountId, token, now);
  }

  @Override
  public boolean revokeTokenOf(long accountId, long id, Instant now) {
    return tokens.revokeOf(accountId, id, now);
  }

  @Override
  public Optional<PersonByToken> personOfToken(String hash, Instant now) {
    return tokens.person(hash, now);
  }

  @Override
  public Optional<Membership> membership(long accountId, String projectKey) {
    return memberships(accountId, PROJECT.KEY.eq(projectKey)).stream().findFirst();
  }

  @Override
  public List<Membership> memberships(long accountId) {
    return memberships(accountId, DSL.noCondition());
  }

  private List<Membership> memberships(long accountId, Condition which) {
    return sql.with(
        dsl ->
            dsl.select(PROJECT.asterisk(), MEMBER.ROLE)
                .from(PROJECT)
                .leftJoin(MEMBER)
                .on(MEMBER.PROJECT_ID.eq(PROJECT.ID), MEMBER.ACCOUNT_ID.eq(accountId))
                .where(which, MEMBER.ROLE.isNotNull().or(PROJECT.IS_OPEN.eq(true)))
                .orderBy(PROJECT.NAME)
                .fetch(
                    row ->
                        new Membership(
                            project(row),
                            row.get(MEMBER.ROLE) == null
                                ? Role.READER
                                : Role.ofCode(row.get(MEMBER.ROLE)))));
  }

  @Override
  public void createSession(
      String tokenHash, Session session, String agent, String address, Instant now) {
    sql.with(
        dsl ->
            dsl.insertInto(SESSION)
                .set(SESSION.TOKEN_HASH, tokenHash)
                .set(SESSION.ACCOUNT_ID, session.accountId())
                .set(SESSION.CSRF, session.csrf())
                .set(SESSION.AGENT, cut(agent, 200))
                .set(SESSION.ADDRESS, cut(address, 100))
                .set(SESSION.CREATED_AT, Sql.utc(now))
                .set(SESSION.SEEN_AT, Sql.utc(now))
                .set(SESSION.EXPIRES_AT, Sql.utc(session.expiresAt()))
                .execute());
  }

  private static String cut(String text, int most) {
    String plain = text.replace('\0', '\uFFFD');
    return plain.length() > most ? plain.substring(0, most) : plain;
  }

  @Override
  public Optional<Session> session(String tokenHash, Instant now) {
    return sql.with(
        dsl -> {
          Record row =
              dsl.select()
                  .from(SESSION)
                  .join(ACCOUNT)
                  .on(ACCOUNT.ID.eq(SESSION.ACCOUNT_ID))
                  .where(
                      SESSION.TOKEN_HASH.eq(tokenHash),
                      SESSION.EXPIRES_AT.gt(Sql.utc(now)),
                      ACCOUNT.DISABLED_AT.isNull())
                  .fetchOne();
          if (row == null) {
            return Optional.empty();
          }
          Instant seen = Sql.instantOrNull(row.get(SESSION.SEEN_AT));
          if (seen == null || seen.isBefore(now.minus(SEEN_GRAIN))) {
            Sql.note(
                dsl.update(SESSION)
                    .set(SESSION.SEEN_AT, Sql.utc(now))
                    .where(SESSION.TOKEN_HASH.eq(tokenHash)));
          }
          return Optional.of(
              new Session(
                  row.get(SESSION.ID),
                  row.get(SESSION.ACCOUNT_ID),
                  row.get(ACCOUNT.LOGIN),
                  row.get(ACCOUNT.IS_ADMIN),
                  row.get(SESSION.CSRF),
                  row.get(SESSION.EXPIRES_AT).toInstant()));
        });
  }

  @Override
  public List<SessionInfo> sessions(long accountId, Instant now) {
    return sql.with(
        dsl ->
            dsl.selectFrom(SESSION)
                .where(SESSION.ACCOUNT_ID.eq(accountId), SESSION.EXPIRES_AT.gt(Sql.utc(now)))
                .orderBy(SESSION.SEEN_AT.desc().nullsLast(), SESSION.ID.desc())
                .limit(200)
                .fetch(
                    row ->
                        new SessionInfo(
                            row.get(SESSION.ID),
                            row.get(SESSION.AGENT),
                            row.get(SESSION.ADDRESS),
                            row.get(SESSION.CREATED_AT).toInstant(),
                            row.get(SESSION.SEEN_AT) == null
                                ? row.get(SESSION.CREATED_AT).toInstant()
                                : row.get(SESSION.SEEN_AT).toInstant(),
                            row.get(SESSION.EXPIRES_AT).toInstant())));
  }

  @Override
  public void deleteSession(String tokenHash) {
    sql.with(dsl -> dsl.deleteFrom(SESSION).where(SESSION.TOKEN_HASH.eq(tokenHash)).execute());
  }

  @Override
  public boolean deleteSession(long accountId, long id) {
    return sql.with(
            dsl ->
                dsl.deleteFrom(SESSION)
                    .where(SESSION.ACCOUNT_ID.eq(accountId), SESSION.ID.eq(id))
                    .execute())
        == 1;
  }

  @Override
  public void deleteOtherSessions(long accountId, String keptTokenHash) {
    sql.with(dsl -> endOthers(dsl, accountId, keptTokenHash));
  }

  static int endOthers(DSLContext dsl, long accountId, String keptTokenHash) {
    return dsl.deleteFrom(SESSION)
        .where(SESSION.ACCOUNT_ID.eq(accountId), SESSION.TOKEN_HASH.ne(keptTokenHash))
        .execute();
  }

  /**
   * One statement, so that of many at once each is counted before the next is let in: a row that is
   * blocked is not touched, and then nothing comes back.
   */
  @Override
  public Duration admitTry(String subject, int free, Duration longest, Instant now) {
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
  public void forgetTries(String subject) {
    sql.with(
        dsl ->
            dsl.deleteFrom(SIGN_IN_FAILURE).where(SIGN_IN_FAILURE.SUBJECT.eq(subject)).execute());
  }

  @Override
  public void forgiveTry(String subject, Instant now) {
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
        dsl -> {
          dsl.deleteFrom(SESSION).where(SESSION.EXPIRES_AT.lt(Sql.utc(now))).execute();
          dsl.deleteFrom(INVITATION).where(INVITATION.EXPIRES_AT.lt(Sql.utc(now))).execute();
          return dsl.deleteFrom(SIGN_IN_FAILURE)
              .where(SIGN_IN_FAILURE.BLOCKED_UNTIL.lt(Sql.utc(now.minus(TRIES_KEPT))))
              .execute();
        });
  }
}
