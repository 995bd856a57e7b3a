package org.vinecellar.store.trust.folding;

import java.util.Collection;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.trust.renames.Reason;
import org.vinecellar.store.results.SuitePaths;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Cases go on as one test that has a mark for what is made up. To all that knows of renames, each
 * is an earlier name of that test.
 */
final class Folding {
  /** All names of a test are held when its stream is learned from. */
  private static final int MOST = 300_000;

  private final DSLContext dsl;
  private final int projectId;
  private final Hand hand;

  Folding(DSLContext dsl, int projectId, Hand hand) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.hand = hand;
  }

  void say(int id, boolean folded) {
    Record row =
        dsl.fetchOptional(
                "select m.suite_id::int, m.variant_id::int, m.name, m.parameters, m.stream_id,"
                    + " m.test_id::int, m.run_id from made_up m join stream s"
                    + " on s.project_id = m.project_id and s.id = m.stream_id"
                    + " and s.deleted_at is null where m.project_id = ? and m.id = ?"
                    + " for update of m",
                projectId,
                id)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "no made-up names were recognised under the number " + id));
    long stream = row.get("stream_id", Long.class);
    if (folded == (row.get("test_id") != null)) {
      return;
    }
    if (folded) {
      MadeUpNames.Key key = MadeUpNames.key(row);
      List<Integer> cases = new MadeUpNames(dsl, projectId, stream).of(key);
      if (cases.size() > MOST) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "these are "
                + cases.size()
                + " cases, and more than "
                + MOST
                + " cannot be held as one test; give the test a name that stays, and it is a new one");
      }
      int into = test(key);
      join(dsl, projectId, stream, into, cases);
      enter(dsl, projectId, stream, into, row.get("run_id", Long.class));
      say(id, (Integer) into);
    } else {
      part(stream, row.get("test_id", Integer.class));
      say(id, null);
    }
    WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, stream, hand.now());
  }

  private void say(int id, @Nullable Integer test) {
    dsl.execute(
        "update made_up set test_id = ?::int, said_at = ?::timestamptz, said_by = ?"
            + " where project_id = ? and id = ?",
        test,
        Sql.utc(hand.now()),
        hand.name(),
        projectId,
        id);
  }

  private void part(long stream, int from) {
    dsl.execute(
        "delete from succession where project_id = ? and stream_id = ? and new_test_id = ?"
            + " and reasons = ?",
        projectId,
        stream,
        from,
        Reason.FOLDED.name());
    dsl.execute(
        "delete from test_in_stream where project_id = ? and stream_id = ? and test_id = ?",
        projectId,
        stream,
        from);
  }

  /** The test that has a mark for what is made up. */
  private int test(MadeUpNames.Key key) {
    SuitePath suite = SuitePath.ROOT;
    if (key.suite() != 0) {
      for (String name :
          new SuitePaths(dsl, projectId, List.of((long) key.suite())).of((long) key.suite())) {
        suite = suite.child(name);
      }
    }
    Variant variant =
        key.variant() == 0
            ? Variant.NONE
            : Variant.of(
                Json.map(
                    JSONB.valueOf(
                        dsl.fetchSingle(
                                "select words::text from variant where project_id = ? and id = ?",
                                projectId,
                                key.variant())
                            .get(0, String.class))));
    TestId test = TestId.of(suite, key.family().name(), key.family().parameters()).in(variant);
    boolean alone = variant.isNone();
    dsl.execute(
        "insert into test (project_id, key_high, key_low, suite_id, name, parameters, variant_id,"
            + " base_high, base_low) values (?, ?, ?, ?::int, ?, ?, ?::int, ?::bigint, ?::bigint)"
            + " on conflict (project_id, key_high, key_low) do nothing",
        projectId,
        test.key().high(),
        test.key().low(),
        key.suite() == 0 ? null : (Integer) key.suite(),
        test.name(),
        test.parameters(),
        alone ? null : (Integer) key.variant(),
        alone ? null : (Long) test.base().high(),
        alone ? null : (Long) test.base().low());
    return dsl.fetchSingle(
            "select id::int from test where project_id = ? and key_high = ? and key_low = ?",
            projectId,
            test.key().high(),
            test.key().low())
        .get(0, Integer.class);
  }

  /** What a person said stays, whatever is learned anew. */
  static void join(
      DSLContext dsl, int projectId, long stream, int into, Collection<Integer> cases) {
    dsl.execute(
        "insert into succession (project_id, stream_id, old_test_id, new_test_id, state, likely,"
            + " reasons, made_at, made_by) select ?, ?, c.id, m.test_id, 3, 1, ?, m.said_at,"
            + " m.said_by from unnest(?) as c (id) cross join (select ?::int as test_id,"
            + " coalesce(max(said_at), now()) as said_at, max(said_by) as said_by from made_up"
            + " where project_id = ? and stream_id = ? and test_id = ?) m"
            + " where c.id <> m.test_id on conflict do nothing",
        projectId,
        stream,
        Reason.FOLDED.name(),
        Ids.of(cases),
        into,
        projectId,
        stream,
        into);
  }

  /** The stream has had it since the first run that had one of its cases. */
  static void enter(DSLContext dsl, int projectId, long stream, int test, long run) {
    dsl.execute(
        "insert into test_in_stream (project_id, stream_id, test_id, first_run_id, main_run_id)"
            + " values (?, ?, ?, ?, ?) on conflict do nothing",
        projectId,
        stream,
        test,
        run,
        run);
  }
}
