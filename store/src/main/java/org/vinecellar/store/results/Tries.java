package org.vinecellar.store.results;

import java.util.List;
import org.jooq.DSLContext;

/**
 * Which parts of a run try the tests of another part again: those that say so, by the same name and
 * variant, or by a later attempt of it. A test that comes again in any other part is no retry; both
 * results stand. So they do where parts of one name ran at once, as their times tell: nothing is
 * tried again before it has ended.
 */
public final class Tries {
  private static final String SAME =
      "select o.part_no from part n join part o on o.project_id = n.project_id"
          + " and o.run_id = n.run_id and o.part_no <> n.part_no and o.variant = n.variant"
          + " and o.named = n.named and (o.name = n.name or not n.named)"
          + " where n.project_id = ? and n.run_id = ? and n.part_no = ?";

  /** Of parts that are whole; for most of the shorter one's time, since clocks differ a little. */
  private static final String AT_ONCE =
      "coalesce(o.live_batch is null and n.live_batch is null"
          + " and least(o.ended_at, n.ended_at) - greatest(o.started_at, n.started_at)"
          + " > greatest(interval '1 second',"
          + " least(o.ended_at - o.started_at, n.ended_at - n.started_at) / 2), false)";

  private Tries() {}

  /** Parts whose tests a part that has come now tries again. */
  public static List<Integer> before(DSLContext dsl, int projectId, long runId, int part) {
    return dsl.fetch(
            SAME
                + " and case when o.attempt is null or n.attempt is null then n.named and not "
                + AT_ONCE
                + " else o.attempt < n.attempt end",
            projectId,
            runId,
            part)
        .getValues(0, Integer.class);
  }

  /** Parts that tried the tests of a part again, though they came before it. */
  public static List<Integer> after(DSLContext dsl, int projectId, long runId, int part) {
    return dsl.fetch(SAME + " and o.attempt > n.attempt", projectId, runId, part)
        .getValues(0, Integer.class);
  }

  /** Parts that have tries of the same tests, earlier or later, and the part itself. */
  public static List<Integer> around(DSLContext dsl, int projectId, long runId, int part) {
    List<Integer> parts =
        dsl.fetch(
                SAME + " and (o.attempt <> n.attempt or n.named and not " + AT_ONCE + ")",
                projectId,
                runId,
                part)
            .getValues(0, Integer.class);
    parts.add(part);
    return parts;
  }
}
