package org.vinecellar.store.blobs;

import static org.vinecellar.store.generated.Tables.KEPT_CONTENT;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.store.sql.Sql;

/**
 * Drops contents that nothing names. Only those in doubt are looked at: new ones, whose upload may
 * have failed, and those of something that was taken away.
 */
public final class UnusedContents {
  private static final int AT_ONCE = 100;

  private final Sql sql;
  private final BlobStore blobs;

  /** On that database. */
  public UnusedContents(Sql sql, BlobStore blobs) {
    this.sql = sql;
    this.blobs = blobs;
  }

  /** Something that named them goes, in the same transaction. */
  public static void doubt(DSLContext dsl, int projectId, Collection<Long> numbers) {
    dsl.update(KEPT_CONTENT)
        .set(KEPT_CONTENT.IN_DOUBT, true)
        .where(are(projectId, numbers))
        .execute();
  }

  /**
   * Looks at all that are in doubt.
   *
   * @param before only what no upload has relied on since
   * @return how many were dropped
   */
  public int drop(Instant before) {
    int dropped = 0;
    List<Integer> some;
    do {
      some = sql.transaction(dsl -> some(dsl, before));
      dropped += some.get(1);
    } while (some.get(0) == AT_ONCE);
    return dropped;
  }

  /** How many were looked at, and how many of them were dropped. */
  private List<Integer> some(DSLContext dsl, Instant before) {
    var looked =
        dsl.fetch(
            "select c.project_id, c.blob_id,"
                + " exists (select 1 from attachment a where a.blob_id = c.blob_id)"
                + " or exists (select 1 from bundle_file b"
                + " where b.project_id = c.project_id and b.blob_id = c.blob_id)"
                + " or exists (select 1 from part_file f"
                + " where f.project_id = c.project_id and f.blob_id = c.blob_id) as used"
                + " from kept_content c where c.in_doubt and c.used_at < cast(? as timestamptz)"
                + " order by c.used_at limit ? for update of c skip locked",
            Sql.utc(before),
            AT_ONCE);
    Map<Integer, List<Long>> used = new HashMap<>();
    Map<Integer, List<Long>> gone = new HashMap<>();
    for (Record one : looked) {
      (one.get("used", Boolean.class) ? used : gone)
          .computeIfAbsent(one.get("project_id", Integer.class), p -> new ArrayList<>())
          .add(one.get("blob_id", Long.class));
    }
    used.forEach(
        (project, numbers) ->
            dsl.update(KEPT_CONTENT)
                .set(KEPT_CONTENT.IN_DOUBT, false)
                .where(are(project, numbers))
                .execute());
    gone.forEach(
        (project, numbers) -> {
          dsl.deleteFrom(KEPT_CONTENT).where(are(project, numbers)).execute();
          blobs.drop(dsl, project, numbers);
        });
    return List.of(looked.size(), gone.values().stream().mapToInt(List::size).sum());
  }

  private static Condition are(int projectId, Collection<Long> numbers) {
    return KEPT_CONTENT
        .PROJECT_ID
        .eq(projectId)
        .and(KEPT_CONTENT.BLOB_ID.eq(DSL.any(numbers.toArray(Long[]::new))));
  }
}
