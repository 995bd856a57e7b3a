package org.vinecellar.store.results;

import static org.vinecellar.store.generated.Tables.EARLIER_NAME;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.Collection;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.vinecellar.store.sql.Ids;

/**
 * Takes what a test did under its earlier names together with what it does under that of now.
 * Queries join {@code EARLIER_NAME} from the left, beside {@code RUN}.
 */
public final class NowNames {
  /** Of the names of a stream, beside its number. */
  private static final int LOCK = 0x6e616d65;

  private NowNames() {}

  /**
   * Nobody changes the names of the stream's tests until this transaction has ended: for who keeps
   * what follows from them. Waits for who does.
   */
  public static void hold(DSLContext dsl, long stream) {
    dsl.execute("select pg_advisory_xact_lock_shared(?, ?::int)", LOCK, stream);
  }

  /** Waits for all who hold the names of the stream's tests, and keeps others from it. */
  public static void change(DSLContext dsl, long stream) {
    dsl.execute("select pg_advisory_xact_lock(?, ?::int)", LOCK, stream);
  }

  /** How it is joined to a run's test. */
  public static Condition joined(int projectId, Field<Long> test) {
    return EARLIER_NAME
        .PROJECT_ID
        .eq(projectId)
        .and(EARLIER_NAME.STREAM_ID.eq(RUN.STREAM_ID))
        .and(EARLIER_NAME.TEST_ID.eq(test));
  }

  /**
   * Whether a test is one of those, or goes on as one of them in some stream: what an index finds,
   * before it is looked at which of the two it is.
   */
  public static Condition maybe(int projectId, Field<Long> test, Collection<Long> now) {
    return DSL.condition(
        "{0} = any(array(select unnest({1}) union {2}))",
        test,
        Ids.of(now),
        DSL.select(EARLIER_NAME.TEST_ID)
            .from(EARLIER_NAME)
            .where(EARLIER_NAME.PROJECT_ID.eq(projectId))
            .and(DSL.condition("{0} = any({1})", EARLIER_NAME.NOW_TEST_ID, Ids.of(now))));
  }

  /**
   * All names of a test in a stream, those of its cases that are others in each run left out.
   *
   * @param stream its name
   */
  public static List<Long> all(DSLContext dsl, int projectId, String stream, long test) {
    return dsl.fetch(
            "with named as (select e.* from earlier_name e join stream s"
                + " on s.project_id = e.project_id and s.id = e.stream_id"
                + " where s.project_id = ? and s.name = ?),"
                + " now as (select coalesce((select now_test_id from named where test_id = ?), ?)"
                + " as id) select ?::int union select id from now"
                + " union select n.test_id from named n join now on n.now_test_id = now.id"
                + " where not n.made_up",
            projectId,
            stream,
            test,
            test,
            test)
        .getValues(0, Long.class);
  }

  /** The test as which that one goes on in the stream of the run. */
  public static Field<Long> of(Field<Long> test) {
    return DSL.coalesce(EARLIER_NAME.NOW_TEST_ID, test);
  }
}
