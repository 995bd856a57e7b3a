package org.vinecellar.store.edits;

import java.util.Collection;
import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.store.sql.Ids;

/**
 * What people wrote of a test stands at its later name too, as a row of its own, so that all that
 * reads notes finds it there. Whoever edits it there makes it that name's own.
 */
public final class FollowingNotes {
  /** So often at most a test is renamed, as far as notes go. */
  private static final int NAMES = 20;

  /** A test goes on as one other in a stream, whatever is said of it. */
  private static final String GOES_ON =
      " and s.state in (1, 3) and not exists (select 1 from succession o"
          + " where o.project_id = s.project_id and o.old_test_id = s.old_test_id"
          + " and o.stream_id = s.stream_id and o.state in (1, 3)"
          + " and (o.state, o.likely) > (s.state, s.likely))";

  private static final String IS_WRITTEN = " and (n.description is not null or n.tags <> '[]')";

  /** The first of several old names that have one. */
  private static final String SOURCES =
      "select distinct on (s.new_test_id) s.new_test_id as now, n.subject_id as old,"
          + " n.description, n.tags from note n join succession s on s.project_id = n.project_id"
          + " and s.old_test_id = n.subject_id"
          + GOES_ON
          + " where n.project_id = ? and n.subject = 1"
          + IS_WRITTEN
          + " order by s.new_test_id, n.subject_id";

  private static final String GONE =
      "delete from note c where c.project_id = ? and c.subject = 1 and c.from_test_id is not null"
          + " and not exists (select 1 from note n join succession s on s.project_id = n.project_id"
          + " and s.old_test_id = n.subject_id and s.new_test_id = c.subject_id"
          + GOES_ON
          + " where n.project_id = c.project_id and n.subject = 1"
          + " and n.subject_id = c.from_test_id"
          + IS_WRITTEN
          + ") returning c.subject_id::int";

  private static final String COME =
      "insert into note as c (project_id, subject, subject_id, version, description, labels, tags,"
          + " from_test_id) select ?, 1, n.now, 1, n.description, '{}', n.tags, n.old from ("
          + SOURCES
          + ") n on conflict (project_id, subject, subject_id) do update"
          + " set version = c.version + 1, description = excluded.description,"
          + " tags = excluded.tags, from_test_id = excluded.from_test_id"
          + " where c.from_test_id is not null"
          + " and (c.description, c.tags, c.from_test_id) is distinct from"
          + " (excluded.description, excluded.tags, excluded.from_test_id)"
          + " returning subject_id::int";

  private static final String TAGS =
      "insert into test_tag (project_id, test_id, version, tag) select distinct ?, n.subject_id::int,"
          + " 0, t.tag from note n cross join lateral jsonb_array_elements_text(n.tags) as t (tag)"
          + " where n.project_id = ? and n.subject = 1 and n.subject_id = any(?)";

  private final DSLContext dsl;
  private final int projectId;

  private FollowingNotes(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** After notes were written, or tests were joined or parted. */
  public static void keep(DSLContext dsl, int projectId) {
    FollowingNotes notes = new FollowingNotes(dsl, projectId);
    boolean changed = true;
    for (int i = 0; changed && i < NAMES; i++) {
      changed = notes.step();
    }
  }

  private boolean step() {
    List<Integer> gone = dsl.fetch(GONE, projectId).getValues(0, Integer.class);
    List<Integer> come = dsl.fetch(COME, projectId, projectId).getValues(0, Integer.class);
    tag(gone);
    tag(come);
    return gone.size() + come.size() > 0;
  }

  private void tag(Collection<Integer> tests) {
    if (!tests.isEmpty()) {
      dsl.execute("delete from test_tag where version = 0 and test_id = any(?)", Ids.of(tests));
      dsl.execute(TAGS, projectId, projectId, Ids.of(tests));
    }
  }
}
