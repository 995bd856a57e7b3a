package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.ACCOUNT;
import static org.vinecellar.store.generated.Tables.PERSON_TOKEN;
import static org.vinecellar.store.generated.Tables.PROJECT;
import static org.vinecellar.store.generated.Tables.TOKEN;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Table;
import org.jooq.TableField;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Scope;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.store.sql.Sql;

/**
 * Tokens of projects and of people; two tables of the same columns but for whose they are.
 * Thread-safe.
 */
public final class PgTokenStore implements TokenStore {
  /** Uses of a token closer together than this are noted once. */
  private static final Duration USE_GRAIN = Duration.ofMinutes(1);

  private static final int MOST = 500;

  private final Sql sql;

  /** On that database. */
  public PgTokenStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Token> ofProject(int projectId) {
    return sql.with(
        dsl ->
            dsl.selectFrom(TOKEN)
                .where(TOKEN.PROJECT_ID.eq(projectId))
                .orderBy(TOKEN.REVOKED_AT.isNotNull(), TOKEN.CREATED_AT.desc(), TOKEN.ID.desc())
                .limit(MOST)
                .fetch(row -> token(row, row.get(TOKEN.CREATED_BY))));
  }

  @Override
  public List<Token> ofPerson(long accountId) {
    return sql.with(
        dsl ->
            dsl.select(PERSON_TOKEN.asterisk(), ACCOUNT.LOGIN)
                .from(PERSON_TOKEN)
                .join(ACCOUNT)
                .on(ACCOUNT.ID.eq(PERSON_TOKEN.ACCOUNT_ID))
                .where(PERSON_TOKEN.ACCOUNT_ID.eq(accountId))
                .orderBy(
                    PERSON_TOKEN.REVOKED_AT.isNotNull(),
                    PERSON_TOKEN.CREATED_AT.desc(),
                    PERSON_TOKEN.ID.desc())
                .limit(MOST)
                .fetch(row -> token(row, row.get(ACCOUNT.LOGIN))));
  }

  @Override
  public Token createForProject(int projectId, Token.New token, Instant now) {
    return sql.with(
        dsl ->
            dsl.insertInto(TOKEN)
                .set(TOKEN.PROJECT_ID, projectId)
                .set(TOKEN.NAME, token.name())
                .set(TOKEN.TOKEN_HASH, token.hash())
                .set(TOKEN.HINT, token.hint())
                .set(TOKEN.SCOPES, (short) Scope.bits(token.scopes()))
                .set(TOKEN.CREATED_AT, Sql.utc(now))
                .set(TOKEN.CREATED_BY, token.createdBy())
                .set(TOKEN.EXPIRES_AT, Sql.utcOrNull(token.expiresAt()))
                .returning()
                .fetchSingle(row -> token(row, token.createdBy())));
  }

  @Override
  public Token createForPerson(long accountId, Token.New token, Instant now) {
    return sql.with(
        dsl ->
            dsl.insertInto(PERSON_TOKEN)
                .set(PERSON_TOKEN.ACCOUNT_ID, accountId)
                .set(PERSON_TOKEN.NAME, token.name())
                .set(PERSON_TOKEN.TOKEN_HASH, token.hash())
                .set(PERSON_TOKEN.HINT, token.hint())
                .set(PERSON_TOKEN.SCOPES, (short) Scope.bits(token.scopes()))
                .set(PERSON_TOKEN.CREATED_AT, Sql.utc(now))
                .set(PERSON_TOKEN.EXPIRES_AT, Sql.utcOrNull(token.expiresAt()))
                .returning()
                .fetchSingle(row -> token(row, token.createdBy())));
  }

  private static Token token(Record row, String createdBy) {
    // Both tables call these columns the same.
    return new Token(
        row.get("id", Long.class),
        row.get("name", String.class),
        row.get("hint", String.class),
        Scope.ofBits(row.get("scopes", Short.class)),
        time(row, "created_at").orElseThrow(),
        createdBy,
        time(row, "expires_at").orElse(null),
        time(row, "last_used_at").orElse(null),
        time(row, "revoked_at").orElse(null));
  }

  private static Optional<Instant> time(Record row, String column) {
    return Optional.ofNullable(row.get(column, OffsetDateTime.class))
        .map(OffsetDateTime::toInstant);
  }

  @Override
  public boolean revokeOfProject(int projectId, long id, Instant now) {
    return revoke(
        TOKEN, TOKEN.REVOKED_AT, TOKEN.PROJECT_ID.eq(projectId).and(TOKEN.ID.eq(id)), now);
  }

  @Override
  public boolean revokeOfPerson(long accountId, long id, Instant now) {
    return revoke(
        PERSON_TOKEN,
        PERSON_TOKEN.REVOKED_AT,
        PERSON_TOKEN.ACCOUNT_ID.eq(accountId).and(PERSON_TOKEN.ID.eq(id)),
        now);
  }

  private boolean revoke(
      Table<Record> table,
      TableField<Record, OffsetDateTime> revokedAt,
      Condition which,
      Instant now) {
    return sql.with(
            dsl ->
                dsl.update(table)
                    .set(revokedAt, Sql.utc(now))
                    .where(which, revokedAt.isNull())
                    .execute())
        == 1;
  }

  @Override
  public Optional<Pipeline> pipeline(String hash, Instant now) {
    return sql.with(
        dsl -> {
          Record row =
              dsl.select()
                  .from(TOKEN)
                  .join(PROJECT)
                  .on(PROJECT.ID.eq(TOKEN.PROJECT_ID))
                  .where(TOKEN.TOKEN_HASH.eq(hash), valid(TOKEN.REVOKED_AT, TOKEN.EXPIRES_AT, now))
                  .fetchOne();
          if (row == null) {
            return Optional.empty();
          }
          used(dsl, TOKEN, TOKEN.LAST_USED_AT, row, TOKEN.TOKEN_HASH.eq(hash), now);
          return Optional.of(
              new Pipeline(
                  PgProjectStore.project(row),
                  row.get(TOKEN.NAME),
                  Scope.ofBits(row.get(TOKEN.SCOPES))));
        });
  }

  @Override
  public Optional<PersonByToken> person(String hash, Instant now) {
    return sql.with(
        dsl -> {
          Record row =
              dsl.select()
                  .from(PERSON_TOKEN)
                  .join(ACCOUNT)
                  .on(ACCOUNT.ID.eq(PERSON_TOKEN.ACCOUNT_ID))
                  .where(
                      PERSON_TOKEN.TOKEN_HASH.eq(hash),
                      ACCOUNT.DISABLED_AT.isNull(),
                      valid(PERSON_TOKEN.REVOKED_AT, PERSON_TOKEN.EXPIRES_AT, now))
                  .fetchOne();
          if (row == null) {
            return Optional.empty();
          }
          used(
              dsl,
              PERSON_TOKEN,
              PERSON_TOKEN.LAST_USED_AT,
              row,
              PERSON_TOKEN.TOKEN_HASH.eq(hash),
              now);
          return Optional.of(
              new PersonByToken(
                  PgPeopleStore.account(row),
                  row.get(PERSON_TOKEN.NAME),
                  Scope.ofBits(row.get(PERSON_TOKEN.SCOPES))));
        });
  }

  private static Condition valid(
      TableField<Record, OffsetDateTime> revokedAt,
      TableField<Record, OffsetDateTime> expiresAt,
      Instant now) {
    return revokedAt.isNull().and(expiresAt.isNull().or(expiresAt.gt(Sql.utc(now))));
  }

  private static void used(
      DSLContext dsl,
      Table<Record> table,
      TableField<Record, OffsetDateTime> lastUsedAt,
      Record row,
      Condition which,
      Instant now) {
    @Nullable OffsetDateTime used = row.get(lastUsedAt);
    if (used == null || used.toInstant().isBefore(now.minus(USE_GRAIN))) {
      Sql.note(dsl.update(table).set(lastUsedAt, Sql.utc(now)).where(which));
    }
  }
}
