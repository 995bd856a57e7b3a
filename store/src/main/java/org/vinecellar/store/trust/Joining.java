package org.vinecellar.store.trust;

import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** What people say of tests under two names. */
public final class Joining {
  private static final int JOINED = 3;
  private static final int APART = 4;

  private final DSLContext dsl;
  private final int projectId;
  private final Hand hand;

  Joining(DSLContext dsl, int projectId, Hand hand) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.hand = hand;
  }

  void say(String stream, long old, long now, boolean joined) {
    Record row =
        dsl.fetchOne(
            "select m.id, count(s.test_id)::int from stream m join test_in_stream s"
                + " on s.project_id = m.project_id and s.stream_id = m.id"
                + " and s.test_id in (?, ?) where m.project_id = ? and m.name = ? group by m.id",
            old,
            now,
            projectId,
            stream);
    if (old == now) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "a test goes on as itself anyway; name another one");
    }
    if (row == null || row.get(1, Integer.class) < 2) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "the stream “" + stream + "” has not had both of these tests");
    }
    long id = row.get(0, Long.class);
    // One after the other: what goes round in a circle shows only to who sees what others said.
    dsl.execute(
        "select 1 from stream where project_id = ? and id = ? for no key update", projectId, id);
    if (joined && Lineage.of(dsl, projectId, id).passes((int) now, (int) old)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the second goes on as the first already; part them before you turn them round");
    }
    if (joined) {
      // A test goes on as one other; what was said last holds.
      dsl.execute(
          "delete from succession where project_id = ? and stream_id = ? and old_test_id = ?"
              + " and new_test_id <> ? and state in (1, 2, 3)",
          projectId,
          id,
          old,
          now);
    }
    dsl.execute(
        "insert into succession (project_id, stream_id, old_test_id, new_test_id, state, likely,"
            + " reasons, made_at, made_by) values (?, ?, ?, ?, ?, 1, '', ?::timestamptz, ?)"
            + " on conflict (project_id, stream_id, old_test_id, new_test_id) do update"
            + " set state = excluded.state, made_at = excluded.made_at,"
            + " made_by = excluded.made_by",
        projectId,
        id,
        old,
        now,
        joined ? JOINED : APART,
        Sql.utc(hand.now()),
        hand.name());
    WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, id, hand.now());
  }

  /** What people said of the tests of a stream holds in the one that it becomes. */
  public static void handOn(DSLContext dsl, int projectId, long from, long to) {
    dsl.execute(
        "insert into succession (project_id, stream_id, old_test_id, new_test_id, state, likely,"
            + " reasons, made_at, made_by) select project_id, ?, old_test_id, new_test_id, state,"
            + " likely, reasons, made_at, made_by from succession where project_id = ?"
            + " and stream_id = ? and state in (3, 4)"
            + " on conflict (project_id, stream_id, old_test_id, new_test_id) do nothing",
        to,
        projectId,
        from);
    dsl.execute(
        "update made_up m set stream_id = ? where m.project_id = ? and m.stream_id = ?"
            + " and m.said_at is not null and not exists (select 1 from made_up o"
            + " where o.project_id = m.project_id and o.stream_id = ? and o.suite_id = m.suite_id"
            + " and o.variant_id = m.variant_id and o.name = m.name"
            + " and o.parameters is not distinct from m.parameters)",
        to,
        projectId,
        from,
        to);
  }
}
