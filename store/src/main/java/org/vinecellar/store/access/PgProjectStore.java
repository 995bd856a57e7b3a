package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.MEMBER;
import static org.vinecellar.store.generated.Tables.PROJECT;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Membership;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

/** Projects in PostgreSQL. Thread-safe. */
public final class PgProjectStore implements ProjectStore {
  private final Sql sql;

  /** On that database. */
  public PgProjectStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Project> projects() {
    return sql.with(
        dsl -> dsl.selectFrom(PROJECT).orderBy(PROJECT.NAME).fetch(PgProjectStore::project));
  }

  @Override
  public Optional<Project> project(String key) {
    return sql.with(
        dsl ->
            dsl.selectFrom(PROJECT)
                .where(PROJECT.KEY.eq(key))
                .fetchOptional(PgProjectStore::project));
  }

  @Override
  public Project create(String key, String name, @Nullable Long owner, Instant now) {
    return sql.transaction(
        dsl -> {
          Project made =
              dsl.insertInto(PROJECT)
                  .set(PROJECT.KEY, key)
                  .set(PROJECT.NAME, name)
                  .set(PROJECT.CREATED_AT, Sql.utc(now))
                  .onConflictDoNothing()
                  .returning()
                  .fetchOne(PgProjectStore::project);
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
  public Project change(int projectId, String name, boolean open) {
    return sql.with(
        dsl ->
            dsl.update(PROJECT)
                .set(PROJECT.NAME, name)
                .set(PROJECT.IS_OPEN, open)
                .where(PROJECT.ID.eq(projectId))
                .returning()
                .fetchSingle(PgProjectStore::project));
  }

  static Project project(Record row) {
    return new Project(
        row.get(PROJECT.ID), row.get(PROJECT.KEY), row.get(PROJECT.NAME), row.get(PROJECT.IS_OPEN));
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
}
