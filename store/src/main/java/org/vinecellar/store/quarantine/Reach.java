package org.vinecellar.store.quarantine;

import java.time.LocalDate;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.store.sql.Ids;

/**
 * Which tests a quarantine is about: the one that was put there, and whatever goes on as it under
 * another name, in each stream.
 */
public final class Reach {
  /** When a run with those columns begins, {@code q} holds. */
  private static final String HOLDS =
      "q.since_at <= r.started_at and r.started_at < (q.until_on + 1)::timestamp at time zone 'UTC'"
          + " and (q.ended_at is null or r.started_at < q.ended_at)";

  private Reach() {}

  /**
   * A common table {@code reach (quarantine_id, stream_id, test_id)}; its stream is null where all
   * are meant. To be put before a select; takes the project's number twice.
   *
   * @param which a condition on {@code q}, the quarantine; its parameters stand between those two
   */
  static String with(String which) {
    return "with recursive reach (quarantine_id, stream_id, test_id) as ("
        + "select q.id, q.stream_id, q.test_id from quarantine q where q.project_id = ?"
        + (which.isEmpty() ? "" : " and " + which)
        + " union select c.quarantine_id, s.stream_id, s.new_test_id from reach c"
        + " join succession s on s.project_id = ? and s.old_test_id = c.test_id"
        + " and s.state in (1, 3) and (c.stream_id is null or s.stream_id = c.stream_id)) ";
  }

  /** The tests whose failures in a run fail no gate. Takes the project twice, then the run. */
  static String testsOfRun() {
    return with("")
        + "select c.test_id from reach c join quarantine q on q.project_id = ? and q.id = c.quarantine_id"
        + " join run r on r.project_id = q.project_id and r.id = ?"
        + " and (c.stream_id is null or c.stream_id = r.stream_id) where "
        + HOLDS;
  }

  /** Until when tests are there; those that are in no quarantine on that day are not told. */
  public static List<Held> held(
      DSLContext dsl, int projectId, Collection<Long> tests, LocalDate today) {
    return dsl.fetch(
            with("q.ended_at is null and q.until_on >= ?::date")
                + "select c.test_id, c.stream_id, max(q.until_on) from reach c join quarantine q"
                + " on q.project_id = ? and q.id = c.quarantine_id where c.test_id = any(?)"
                + " group by c.test_id, c.stream_id",
            projectId,
            today,
            projectId,
            projectId,
            Ids.of(tests))
        .map(
            row ->
                new Held(
                    row.get(0, Long.class), row.get(1, Long.class), row.get(2, LocalDate.class)));
  }

  /**
   * A test that is there.
   *
   * @param stream where; null for every stream
   */
  public record Held(long test, @Nullable Long stream, LocalDate until) {}

  /** Until when a test is in quarantine in a stream. */
  public static @Nullable LocalDate until(List<Held> held, long test, long stream) {
    return held.stream()
        .filter(one -> one.test() == test && (one.stream() == null || one.stream() == stream))
        .map(Held::until)
        .max(Comparator.naturalOrder())
        .orElse(null);
  }

  /** That a test is there in a stream, on that day. */
  public static Condition isHeld(
      int projectId, Field<Long> test, Field<Long> stream, LocalDate today) {
    return DSL.condition(
        "exists ("
            + with("q.ended_at is null and q.until_on >= {1}::date")
                .replaceFirst("\\?", "{0}")
                .replaceFirst("\\?", "{0}")
            + "select 1 from reach c where c.test_id = {2} and (c.stream_id is null or c.stream_id = {3}))",
        DSL.val(projectId),
        DSL.val(today),
        test,
        stream);
  }

  /** That failures of a test in a run fail no gate. */
  public static Condition holds(int projectId, Field<Long> test, Field<Long> run) {
    String tests = testsOfRun();
    return DSL.condition("{0} in (" + numbered(tests) + ")", test, DSL.val(projectId), run);
  }

  /** Parameters as placeholders: the project wherever it stands, and the run, which is the last. */
  private static String numbered(String sql) {
    int last = sql.lastIndexOf('?');
    return sql.substring(0, last).replace("?", "{1}") + "{2}" + sql.substring(last + 1);
  }
}
