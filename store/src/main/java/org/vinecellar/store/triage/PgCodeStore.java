package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.CODE_SETTINGS;

import java.time.Instant;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.code.CodeStore;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.CodeRows;
import org.vinecellar.store.work.WorkKind;

/** What projects say of their code, in PostgreSQL. Thread-safe. */
public final class PgCodeStore implements CodeStore {
  /** So many runs are left to be grouped anew, as long as that many pieces of work wait at most. */
  private static final int SOME = 8;

  private final Sql sql;

  /** On that database. */
  public PgCodeStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public Kept code(int projectId) {
    return sql.with(dsl -> kept(dsl, projectId));
  }

  private static Kept kept(DSLContext dsl, int projectId) {
    Record row = CodeRows.of(dsl, projectId);
    Record runs =
        dsl.fetchSingle(
            "select count(*)::int, count(*) filter (where grouped_by between 1 and ?)::int from run"
                + " where project_id = ? and number is not null and deleted_at is null",
            CodeRows.version(row) - 1,
            projectId);
    return new Kept(
        CodeRows.settings(row),
        row == null ? 0 : row.get(CODE_SETTINGS.VERSION),
        row == null ? null : row.get(CODE_SETTINGS.CHANGED_AT).toInstant(),
        row == null ? null : row.get(CODE_SETTINGS.CHANGED_BY),
        runs.get(0, Integer.class),
        runs.get(1, Integer.class));
  }

  @Override
  public Kept keep(int projectId, CodeSettings settings, int version, Hand hand) {
    CodeSettings checked = settings.checked();
    return sql.transaction(
        dsl -> {
          dsl.execute("select 1 from project where id = ? for update", projectId);
          Kept before = kept(dsl, projectId);
          if (before.version() != version) {
            throw new CellarException(
                ProblemCode.EDITED_MEANWHILE,
                "what is said of the code is version "
                    + before.version()
                    + " by now, not "
                    + version
                    + "; look at it again, and change that");
          }
          if (!before.settings().equals(checked)) {
            dsl.execute(
                "insert into code_settings (project_id, version, own, helpers, changed_at,"
                    + " changed_by) values (?, ?, ?, ?, ?::timestamptz, ?) on conflict (project_id)"
                    + " do update set version = excluded.version, own = excluded.own, helpers ="
                    + " excluded.helpers, changed_at = excluded.changed_at, changed_by ="
                    + " excluded.changed_by",
                projectId,
                version + 1,
                String.join("\n", checked.own()),
                String.join("\n", checked.helpers()),
                Sql.utc(hand.now()),
                hand.name());
          }
          return kept(dsl, projectId);
        });
  }

  @Override
  public int groupSomeAnew(Instant now) {
    return sql.transaction(
        dsl ->
            dsl.execute(
                "insert into work (kind, project_id, subject_id, asked_at, due_at, tries)"
                    + " select ?, r.project_id, r.id, ?::timestamptz, ?::timestamptz, 0"
                    + " from (select p.id as project_id, "
                    + CodeRows.version()
                    + " as version from project p left join code_settings c on c.project_id = p.id) v"
                    + " cross join lateral (select r.project_id, r.id from run r"
                    + " where r.project_id = v.project_id and r.grouped_by between 1 and v.version - 1"
                    + " and r.number is not null and r.deleted_at is null and r.explained"
                    + " and not exists (select 1 from work w where w.kind = ?"
                    + " and w.subject_id = r.id) order by r.id desc limit ?) r"
                    + " where (select count(*) from work where due_at <= ?::timestamptz) <= ? limit ?",
                WorkKind.EXPLAIN_RUN.name(),
                Sql.utc(now),
                Sql.utc(now),
                WorkKind.EXPLAIN_RUN.name(),
                SOME,
                Sql.utc(now),
                SOME,
                SOME));
  }
}
