package org.vinecellar.store.triage;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.desk.GroupDetail.Similar;
import org.vinecellar.core.triage.desk.Suggestion;
import org.vinecellar.core.triage.desk.Suggestion.Strength;

/** What is suggested of groups, and how often that was what people then said. */
final class Suggestions {
  private Suggestions() {}

  /** Of a group with those like groups; null when nothing is. */
  static @Nullable Suggestion of(DSLContext dsl, int projectId, List<Similar> similar) {
    return Suggestion.best(similar).map(best -> weighed(dsl, projectId, best)).orElse(null);
  }

  /** By what stands: who takes a decision back was wrong, or the suggestion was. */
  private static Suggestion weighed(DSLContext dsl, int projectId, Similar best) {
    Strength strength = Strength.of(best);
    Record row =
        dsl.fetchSingle(
            "select count(*) filter (where s.was_right)::int, count(*)::int from suggested s"
                + " join decision d on d.project_id = s.project_id and d.id = s.decision_id"
                + " and d.undone_at is null where s.project_id = ? and s.strength = ?",
            projectId,
            strength.code());
    return new Suggestion(best, strength, row.get(0, Integer.class), row.get(1, Integer.class));
  }

  /**
   * Notes what is suggested of a group that somebody explains, and whether they say the same.
   *
   * @param similar groups, as they were before
   */
  static void note(
      DSLContext dsl, int projectId, List<Similar> similar, long decision, String category) {
    Suggestion.best(similar)
        .ifPresent(
            best ->
                dsl.execute(
                    "insert into suggested (project_id, decision_id, strength, was_right)"
                        + " values (?, ?, ?, ?)",
                    projectId,
                    decision,
                    Strength.of(best).code(),
                    best.said() != null && best.said().category().equals(category)));
  }
}
