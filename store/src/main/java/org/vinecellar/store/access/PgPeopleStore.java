package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.ACCOUNT;
import static org.vinecellar.store.generated.Tables.INVITATION;
import static org.vinecellar.store.generated.Tables.INVITATION_PROJECT;
import static org.vinecellar.store.generated.Tables.PROJECT;
import static org.vinecellar.store.generated.Tables.SESSION;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Invitation;
import org.vinecellar.core.access.Member;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

/** People in PostgreSQL. Thread-safe. */
public final class PgPeopleStore implements PeopleStore {
  private static final int MOST = 5000;

  private final Sql sql;

  /** On that database. */
  public PgPeopleStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public boolean hasAccounts() {
    return sql.with(dsl -> dsl.fetchExists(ACCOUNT));
  }

  @Override
  public Optional<Account> account(String login) {
    return sql.with(dsl -> account(dsl, ACCOUNT.LOGIN.eq(login)));
  }

  @Override
  public Optional<Account> account(long id) {
    return sql.with(dsl -> account(dsl, ACCOUNT.ID.eq(id)));
  }

  private static Optional<Account> account(DSLContext dsl, Condition which) {
    return dsl.selectFrom(ACCOUNT).where(which).fetchOptional(PgPeopleStore::account);
  }

  static Account account(Record row) {
    return new Account(
        row.get(ACCOUNT.ID),
        row.get(ACCOUNT.LOGIN),
        row.get(ACCOUNT.PASSWORD_HASH),
        row.get(ACCOUNT.IS_ADMIN),
        row.get(ACCOUNT.CREATED_AT).toInstant(),
        Sql.instantOrNull(row.get(ACCOUNT.DISABLED_AT)));
  }

  @Override
  public List<Account> accounts() {
    return sql.with(
        dsl ->
            dsl.selectFrom(ACCOUNT)
                .orderBy(ACCOUNT.LOGIN)
                .limit(MOST)
                .fetch(PgPeopleStore::account));
  }

  @Override
  public boolean createAccount(
      String login, @Nullable String passwordHash, boolean administrator, Instant now) {
    return sql.with(dsl -> insert(dsl, login, passwordHash, administrator, now)).isPresent();
  }

  private static Optional<Account> insert(
      DSLContext dsl,
      String login,
      @Nullable String passwordHash,
      boolean administrator,
      Instant now) {
    return dsl.insertInto(ACCOUNT)
        .set(ACCOUNT.LOGIN, login)
        .set(ACCOUNT.PASSWORD_HASH, passwordHash)
        .set(ACCOUNT.IS_ADMIN, administrator)
        .set(ACCOUNT.CREATED_AT, Sql.utc(now))
        .onConflictDoNothing()
        .returning()
        .fetchOptional(PgPeopleStore::account);
  }

  @Override
  public void changePassword(long accountId, String passwordHash, String keptTokenHash) {
    sql.transaction(
        dsl -> {
          setPassword(dsl, accountId, passwordHash);
          return PgSessionStore.endOthers(dsl, accountId, keptTokenHash);
        });
  }

  private static void setPassword(DSLContext dsl, long accountId, String passwordHash) {
    dsl.update(ACCOUNT)
        .set(ACCOUNT.PASSWORD_HASH, passwordHash)
        .where(ACCOUNT.ID.eq(accountId))
        .execute();
  }

  @Override
  public void setEnabled(long accountId, boolean enabled, Instant now) {
    keepingAnAdministrator(
        dsl -> {
          dsl.update(ACCOUNT)
              .set(ACCOUNT.DISABLED_AT, enabled ? null : Sql.utc(now))
              .where(ACCOUNT.ID.eq(accountId))
              .execute();
          if (!enabled) {
            dsl.deleteFrom(SESSION).where(SESSION.ACCOUNT_ID.eq(accountId)).execute();
          }
        });
  }

  @Override
  public void setAdministrator(long accountId, boolean administrator) {
    keepingAnAdministrator(
        dsl ->
            dsl.update(ACCOUNT)
                .set(ACCOUNT.IS_ADMIN, administrator)
                .where(ACCOUNT.ID.eq(accountId))
                .execute());
  }

  private void keepingAnAdministrator(Consumer<DSLContext> change) {
    Condition able = ACCOUNT.IS_ADMIN.eq(true).and(ACCOUNT.DISABLED_AT.isNull());
    sql.transaction(
        dsl -> {
          dsl.selectOne().from(ACCOUNT).where(able).orderBy(ACCOUNT.ID).forUpdate().fetch();
          change.accept(dsl);
          if (!dsl.fetchExists(ACCOUNT, able)) {
            throw new CellarException(
                ProblemCode.LAST_ONE,
                "this is the last administrator; make somebody else one first");
          }
          return true;
        });
  }

  @Override
  public void invite(String secretHash, Invitation invitation, Instant now) {
    sql.transaction(
        dsl -> {
          dsl.deleteFrom(INVITATION).where(INVITATION.LOGIN.eq(invitation.login())).execute();
          dsl.insertInto(INVITATION)
              .set(INVITATION.SECRET_HASH, secretHash)
              .set(INVITATION.LOGIN, invitation.login())
              .set(INVITATION.ACCOUNT_ID, invitation.accountId())
              .set(INVITATION.IS_ADMIN, invitation.administrator())
              .set(INVITATION.CREATED_BY, invitation.createdBy())
              .set(INVITATION.CREATED_AT, Sql.utc(now))
              .set(INVITATION.EXPIRES_AT, Sql.utc(invitation.expiresAt()))
              .execute();
          for (Invitation.Place place : invitation.projects()) {
            dsl.insertInto(INVITATION_PROJECT)
                .set(INVITATION_PROJECT.SECRET_HASH, secretHash)
                .set(INVITATION_PROJECT.PROJECT_ID, place.projectId())
                .set(INVITATION_PROJECT.ROLE, (short) place.role().code())
                .execute();
          }
          return true;
        });
  }

  @Override
  public Optional<Invitation> invitation(String secretHash, Instant now) {
    return sql.with(
        dsl ->
            dsl.selectFrom(INVITATION)
                .where(INVITATION.SECRET_HASH.eq(secretHash), good(now))
                .fetchOptional()
                .map(row -> invitation(dsl, row)));
  }

  @Override
  public List<Invitation> invitations(Instant now) {
    return sql.with(
        dsl ->
            invitations(
                dsl,
                dsl.selectFrom(INVITATION)
                    .where(good(now))
                    .orderBy(INVITATION.CREATED_AT.desc())
                    .limit(MOST)
                    .fetch()));
  }

  private static Condition good(Instant now) {
    return INVITATION.EXPIRES_AT.gt(Sql.utc(now));
  }

  private static Invitation invitation(DSLContext dsl, Record row) {
    return invitations(dsl, List.of(row)).get(0);
  }

  private static List<Invitation> invitations(DSLContext dsl, List<? extends Record> rows) {
    Map<String, List<Invitation.Place>> places =
        dsl.select()
            .from(INVITATION_PROJECT)
            .join(PROJECT)
            .on(PROJECT.ID.eq(INVITATION_PROJECT.PROJECT_ID))
            .where(
                INVITATION_PROJECT.SECRET_HASH.in(
                    rows.stream().map(row -> row.get(INVITATION.SECRET_HASH)).toList()))
            .orderBy(PROJECT.KEY)
            .fetchGroups(
                INVITATION_PROJECT.SECRET_HASH,
                place ->
                    new Invitation.Place(
                        place.get(PROJECT.ID),
                        place.get(PROJECT.KEY),
                        Role.ofCode(place.get(INVITATION_PROJECT.ROLE))));
    return rows.stream()
        .map(
            row ->
                new Invitation(
                    row.get(INVITATION.LOGIN),
                    row.get(INVITATION.ACCOUNT_ID),
                    row.get(INVITATION.IS_ADMIN),
                    places.getOrDefault(row.get(INVITATION.SECRET_HASH), List.of()),
                    row.get(INVITATION.CREATED_BY),
                    row.get(INVITATION.EXPIRES_AT).toInstant()))
        .toList();
  }

  @Override
  public boolean withdraw(String login) {
    return sql.with(dsl -> dsl.deleteFrom(INVITATION).where(INVITATION.LOGIN.eq(login)).execute())
        > 0;
  }

  @Override
  public Optional<Account> accept(String secretHash, String passwordHash, Instant now) {
    return sql.transaction(
        dsl -> {
          Optional<Invitation> found =
              dsl.selectFrom(INVITATION)
                  .where(INVITATION.SECRET_HASH.eq(secretHash), good(now))
                  .forUpdate()
                  .fetchOptional()
                  .map(row -> invitation(dsl, row));
          if (found.isEmpty()) {
            return Optional.empty();
          }
          dsl.deleteFrom(INVITATION).where(INVITATION.SECRET_HASH.eq(secretHash)).execute();
          Invitation invitation = found.get();
          Long known = invitation.accountId();
          return Optional.of(
              known == null
                  ? join(dsl, invitation, passwordHash, now)
                  : reset(dsl, known, passwordHash));
        });
  }

  private static Account join(
      DSLContext dsl, Invitation invitation, String passwordHash, Instant now) {
    Account account =
        insert(dsl, invitation.login(), passwordHash, invitation.administrator(), now)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.ALREADY_EXISTS,
                        "there is an account “" + invitation.login() + "” already"));
    for (Invitation.Place place : invitation.projects()) {
      MemberRows.set(
          dsl, place.projectId(), account.id(), place.role(), invitation.createdBy(), now);
    }
    return account;
  }

  private static Account reset(DSLContext dsl, long accountId, String passwordHash) {
    setPassword(dsl, accountId, passwordHash);
    dsl.deleteFrom(SESSION).where(SESSION.ACCOUNT_ID.eq(accountId)).execute();
    return account(dsl, ACCOUNT.ID.eq(accountId)).orElseThrow();
  }

  @Override
  public List<Member> members(int projectId) {
    return sql.with(dsl -> MemberRows.of(dsl, projectId));
  }

  @Override
  public void setMember(int projectId, long accountId, Role role, String by, Instant now) {
    keepingAnOwner(
        projectId,
        dsl -> {
          MemberRows.set(dsl, projectId, accountId, role, by, now);
          return true;
        });
  }

  @Override
  public boolean removeMember(int projectId, long accountId) {
    return keepingAnOwner(projectId, dsl -> MemberRows.remove(dsl, projectId, accountId));
  }

  /** A project that nobody owned from the start may go on without an owner. */
  private boolean keepingAnOwner(int projectId, Predicate<DSLContext> change) {
    return sql.transaction(
        dsl -> {
          int before = MemberRows.owners(dsl, projectId);
          boolean done = change.test(dsl);
          if (before > 0 && MemberRows.owners(dsl, projectId) == 0) {
            throw MemberRows.lastOwner();
          }
          return done;
        });
  }

  @Override
  public void dropExpired(Instant now) {
    sql.with(
        dsl -> dsl.deleteFrom(INVITATION).where(INVITATION.EXPIRES_AT.lt(Sql.utc(now))).execute());
  }
}
