package org.vinecellar.store.ledger;

import org.jooq.DSLContext;
import org.vinecellar.core.edits.Subject;

/** The labels and tags of a run that count, as rows: what uploads told, as people changed it. */
final class RunLabels {
  private static final int RUN = Subject.Kind.RUN.code();

  private RunLabels() {}

  /** Enters them anew. */
  static void enter(DSLContext dsl, int projectId, long runId) {
    remove(dsl, runId);
    dsl.execute(
        "insert into run_label (project_id, run_id, key, value)"
            + " select r.project_id, r.id, l.key, l.value from run r"
            + " left join note n on n.project_id = r.project_id and n.subject = ?"
            + " and n.subject_id = r.id"
            + " cross join lateral jsonb_each_text(r.labels || coalesce(n.labels, '{}')) l"
            + " where r.project_id = ? and r.id = ? and l.value is not null",
        RUN,
        projectId,
        runId);
    dsl.execute(
        "insert into run_tag (project_id, run_id, tag)"
            + " select distinct n.project_id, n.subject_id, t.tag from note n"
            + " cross join lateral jsonb_array_elements_text(n.tags) t(tag)"
            + " where n.project_id = ? and n.subject = ? and n.subject_id = ?",
        projectId,
        RUN,
        runId);
  }

  private static void remove(DSLContext dsl, long runId) {
    dsl.execute("delete from run_label where run_id = ?", runId);
    dsl.execute("delete from run_tag where run_id = ?", runId);
  }
}
