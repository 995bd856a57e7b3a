package org.vinecellar.store.triage.rows;

import java.util.HashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** Where people said that failures belong, as it was read once. */
public final class Regroupings {
  /** For the whole of a group. */
  public static final int WHOLE = 0;

  private record From(int group, int test) {}

  private final Map<From, Integer> to = new HashMap<>();

  private Regroupings() {}

  /** Those of a project. */
  public static Regroupings of(DSLContext dsl, int projectId) {
    Regroupings all = new Regroupings();
    dsl.fetch(
            "select group_id, test_id, to_group_id from regrouping where project_id = ?", projectId)
        .forEach(
            row ->
                all.to.put(
                    new From(row.get(0, Integer.class), row.get(1, Integer.class)),
                    row.get(2, Integer.class)));
    return all;
  }

  /** Where a failure of a test belongs whose error leads to a group. */
  public int of(int found, int test) {
    int group = found;
    Integer next = next(group, test);
    // None leads in a circle: who joins groups looks where they lead.
    for (int step = 0; next != null && step < to.size(); step++) {
      group = next;
      next = next(group, test);
    }
    return group;
  }

  private @Nullable Integer next(int group, int test) {
    Integer ofTest = to.get(new From(group, test));
    return ofTest == null ? to.get(new From(group, WHOLE)) : ofTest;
  }

  /** Whether some failures would belong nowhere. */
  public boolean leadInACircle() {
    return to.keySet().stream()
        .anyMatch(from -> next(of(from.group, from.test), from.test) != null);
  }

  /** Where the whole of a group belongs. */
  public long of(long group) {
    return group == (int) group ? of((int) group, WHOLE) : group;
  }
}
