package org.vinecellar.store.results;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.store.sql.Ids;

/** Names of suites from the outermost in, looked up for a page at once. */
public final class SuitePaths {
  private final Map<Long, Node> nodes = new HashMap<>();

  private record Node(String name, @Nullable Long parent) {}

  /** Of these suites. */
  public SuitePaths(DSLContext dsl, int projectId, Collection<Long> suiteIds) {
    if (suiteIds.isEmpty()) {
      return;
    }
    for (Record row :
        dsl.fetch(
            "with recursive up(id, parent_id, name) as ("
                + " select id, parent_id, name from suite where project_id = ? and id = any(?)"
                + " union select s.id, s.parent_id, s.name from suite s join up"
                + " on s.id = up.parent_id where s.project_id = ?)"
                + " select id, parent_id, name from up",
            projectId,
            Ids.of(suiteIds),
            projectId)) {
      nodes.put(row.get(0, Long.class), new Node(row.get(2, String.class), row.get(1, Long.class)));
    }
  }

  /** From the outermost in; empty for null. */
  public List<String> of(@Nullable Long suiteId) {
    return ids(suiteId).stream().map(this::name).toList();
  }

  /** A suite and those around it, the outermost first; empty for null. */
  public List<Long> ids(@Nullable Long suiteId) {
    List<Long> ids = new ArrayList<>();
    Long id = suiteId;
    while (id != null && nodes.containsKey(id)) {
      ids.add(id);
      id = Objects.requireNonNull(nodes.get(id)).parent();
    }
    Collections.reverse(ids);
    return ids;
  }

  /** Of one of them, or one around them. */
  public String name(long suiteId) {
    return Objects.requireNonNull(nodes.get(suiteId)).name();
  }
}
