package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.ACCOUNT;
import static org.vinecellar.store.generated.Tables.MEMBER;
import static org.vinecellar.store.generated.Tables.PROJECT;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.core.access.Member;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

/** Who is what in which project. */
final class MemberRows {
  private MemberRows() {}

  static List<Member> of(DSLContext dsl, int projectId) {
    return dsl.select()
        .from(MEMBER)
        .join(ACCOUNT)
        .on(ACCOUNT.ID.eq(MEMBER.ACCOUNT_ID))
        .where(MEMBER.PROJECT_ID.eq(projectId))
        .orderBy(ACCOUNT.LOGIN)
        .fetch(
            row ->
                new Member(
                    row.get(MEMBER.ACCOUNT_ID),
                    row.get(ACCOUNT.LOGIN),
                    Role.ofCode(row.get(MEMBER.ROLE)),
                    row.get(MEMBER.ADDED_AT).toInstant(),
                    row.get(MEMBER.ADDED_BY)));
  }

  static void set(
      DSLContext dsl, int projectId, long accountId, Role role, String by, Instant now) {
    lock(dsl, projectId);
    dsl.insertInto(MEMBER)
        .set(MEMBER.PROJECT_ID, projectId)
        .set(MEMBER.ACCOUNT_ID, accountId)
        .set(MEMBER.ROLE, (short) role.code())
        .set(MEMBER.ADDED_AT, Sql.utc(now))
        .set(MEMBER.ADDED_BY, by)
        .onConflict(MEMBER.PROJECT_ID, MEMBER.ACCOUNT_ID)
        .doUpdate()
        .set(MEMBER.ROLE, (short) role.code())
        .execute();
  }

  static boolean remove(DSLContext dsl, int projectId, long accountId) {
    lock(dsl, projectId);
    return dsl.deleteFrom(MEMBER)
            .where(MEMBER.PROJECT_ID.eq(projectId), MEMBER.ACCOUNT_ID.eq(accountId))
            .execute()
        == 1;
  }

  static int owners(DSLContext dsl, int projectId) {
    lock(dsl, projectId);
    return dsl.fetchCount(
        MEMBER, MEMBER.PROJECT_ID.eq(projectId), MEMBER.ROLE.eq((short) Role.OWNER.code()));
  }

  /** Two owners who go at the same time must not both be the second but last. */
  private static void lock(DSLContext dsl, int projectId) {
    dsl.selectOne().from(PROJECT).where(PROJECT.ID.eq(projectId)).forUpdate().fetch();
  }

  static CellarException lastOwner() {
    return new CellarException(
        ProblemCode.LAST_ONE,
        "this is the project’s last owner; make somebody else an owner first");
  }
}
