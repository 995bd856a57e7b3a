package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.ACCOUNT;
import static org.vinecellar.store.generated.Tables.SESSION;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.SessionInfo;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.store.sql.Sql;

/** Sessions in PostgreSQL. Thread-safe. */
public final class PgSessionStore implements SessionStore {
  /** Uses of a session closer together than this are noted once. */
  private static final Duration SEEN_GRAIN = Duration.ofMinutes(5);

  private final Sql sql;

  /** On that database. */
  public PgSessionStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public void create(String tokenHash, Session session, String agent, String address, Instant now) {
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
  public void end(String tokenHash) {
    sql.with(dsl -> dsl.deleteFrom(SESSION).where(SESSION.TOKEN_HASH.eq(tokenHash)).execute());
  }

  @Override
  public boolean end(long accountId, long id) {
    return sql.with(
            dsl ->
                dsl.deleteFrom(SESSION)
                    .where(SESSION.ACCOUNT_ID.eq(accountId), SESSION.ID.eq(id))
                    .execute())
        == 1;
  }

  @Override
  public void endOthers(long accountId, String keptTokenHash) {
    sql.with(dsl -> endOthers(dsl, accountId, keptTokenHash));
  }

  static int endOthers(DSLContext dsl, long accountId, String keptTokenHash) {
    return dsl.deleteFrom(SESSION)
        .where(SESSION.ACCOUNT_ID.eq(accountId), SESSION.TOKEN_HASH.ne(keptTokenHash))
        .execute();
  }

  @Override
  public void dropExpired(Instant now) {
    sql.with(dsl -> dsl.deleteFrom(SESSION).where(SESSION.EXPIRES_AT.lt(Sql.utc(now))).execute());
  }
}
