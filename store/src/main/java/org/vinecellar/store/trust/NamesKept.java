package org.vinecellar.store.trust;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.store.results.NowNames;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Keeps which earlier name goes on as which of now, for all who sum up what tests did; leaves the
 * work to compare those runs anew to which it makes a difference.
 */
final class NamesKept {
  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Instant now;

  NamesKept(DSLContext dsl, int projectId, long streamId, Instant now) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.now = now;
  }

  /** As it is joined now. */
  void keep(Lineage lineage) {
    Named kept = kept();
    Named wanted = new Named(lineage.names(), new HashSet<>());
    wanted.names.keySet().stream().filter(lineage::isMadeUp).forEach(wanted.madeUp::add);
    Set<Integer> changed = new TreeSet<>();
    for (Named one : List.of(kept, wanted)) {
      one.names.keySet().stream().filter(old -> !kept.isLike(wanted, old)).forEach(changed::add);
    }
    if (changed.isEmpty()) {
      return;
    }
    // Whoever compares runs now has done so when the others are looked at, or waits for the new
    // names.
    NowNames.change(dsl, streamId);
    write(changed, wanted);
    Set<Long> runs = new TreeSet<>();
    for (Named one : List.of(kept, wanted)) {
      runs.addAll(
          new RunsByNames(dsl, projectId, streamId, one.around(changed), one.madeUp).crossing());
    }
    runs.forEach(run -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, run, now));
  }

  private Named kept() {
    Named kept = new Named(new HashMap<>(), new HashSet<>());
    for (Record row :
        dsl.fetch(
            "select test_id, now_test_id, made_up from earlier_name where project_id = ?"
                + " and stream_id = ?",
            projectId,
            streamId)) {
      kept.names.put(row.get(0, Integer.class), row.get(1, Integer.class));
      if (row.get(2, Boolean.class)) {
        kept.madeUp.add(row.get(0, Integer.class));
      }
    }
    return kept;
  }

  private void write(Set<Integer> changed, Named wanted) {
    dsl.execute(
        "delete from earlier_name where project_id = ? and stream_id = ? and test_id = any(?)",
        projectId,
        streamId,
        Ids.of(changed));
    List<Integer> olds = changed.stream().filter(wanted.names::containsKey).toList();
    dsl.execute(
        "insert into earlier_name (project_id, stream_id, test_id, now_test_id, made_up)"
            + " select ?, ?, n.old, n.latest, n.old = any(?) from unnest(?, ?) n (old, latest)",
        projectId,
        streamId,
        Ids.of(olds.stream().filter(wanted.madeUp::contains).toList()),
        Ids.of(olds),
        Ids.of(olds.stream().map(wanted.names::get).toList()));
  }

  /** Earlier names with those of now, and which of them are made up. */
  private record Named(Map<Integer, Integer> names, Set<Integer> madeUp) {
    boolean isLike(Named other, Integer old) {
      Integer latest = names.get(old);
      return latest != null
          && latest.equals(other.names.get(old))
          && madeUp.contains(old) == other.madeUp.contains(old);
    }

    /**
     * All names of the tests of which some are others; of those that are made up only the others.
     */
    Map<Integer, Integer> around(Set<Integer> changed) {
      Set<Integer> tests = new HashSet<>();
      changed.stream().filter(names::containsKey).map(names::get).forEach(tests::add);
      Map<Integer, Integer> around = new HashMap<>();
      tests.forEach(test -> around.put(test, test));
      names.forEach(
          (old, latest) -> {
            boolean counts = !madeUp.contains(old) || changed.contains(old);
            if (tests.contains(latest) && counts) {
              around.put(old, latest);
            }
          });
      return around;
    }
  }
}
