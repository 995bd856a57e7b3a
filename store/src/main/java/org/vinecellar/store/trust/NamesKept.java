package org.vinecellar.store.trust;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
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

  NamesKept(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
  }

  /** As it is joined now. */
  void keep(Lineage lineage, Instant now) {
    Map<Integer, Integer> kept = new HashMap<>();
    Set<Integer> madeUp = new HashSet<>();
    for (Record row :
        dsl.fetch(
            "select test_id, now_test_id, made_up from earlier_name where project_id = ?"
                + " and stream_id = ?",
            projectId,
            streamId)) {
      kept.put(row.get(0, Integer.class), row.get(1, Integer.class));
      if (row.get(2, Boolean.class)) {
        madeUp.add(row.get(0, Integer.class));
      }
    }
    Map<Integer, Integer> wanted = lineage.names();
    Set<Integer> changed = new TreeSet<>();
    kept.forEach(
        (old, latest) -> {
          boolean same =
              latest.equals(wanted.get(old)) && madeUp.contains(old) == lineage.isMadeUp(old);
          if (!same) {
            changed.add(old);
          }
        });
    wanted.keySet().stream().filter(old -> !kept.containsKey(old)).forEach(changed::add);
    if (changed.isEmpty()) {
      return;
    }
    Set<Long> runs = new TreeSet<>(touched(new Named(kept, madeUp), changed));
    write(changed, wanted, lineage);
    madeUp.addAll(wanted.keySet().stream().filter(lineage::isMadeUp).toList());
    runs.addAll(touched(new Named(wanted, madeUp), changed));
    runs.forEach(run -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, run, now));
  }

  private void write(Set<Integer> changed, Map<Integer, Integer> wanted, Lineage lineage) {
    dsl.execute(
        "delete from earlier_name where project_id = ? and stream_id = ? and test_id = any(?)",
        projectId,
        streamId,
        Ids.of(changed));
    List<Integer> olds = changed.stream().filter(wanted::containsKey).toList();
    dsl.execute(
        "insert into earlier_name (project_id, stream_id, test_id, now_test_id, made_up)"
            + " select ?, ?, n.old, n.latest, n.old = any(?) from unnest(?, ?) n (old, latest)",
        projectId,
        streamId,
        Ids.of(olds.stream().filter(lineage::isMadeUp).toList()),
        Ids.of(olds),
        Ids.of(olds.stream().map(wanted::get).toList()));
  }

  /** Earlier names with those of now, and which of them are made up. */
  private record Named(Map<Integer, Integer> names, Set<Integer> madeUp) {}

  /**
   * Runs that have a test under another name than the run with which they are compared. None is
   * older than the name of it that came last; of names that are made up, all that have one, and
   * those after them.
   */
  private Collection<Long> touched(Named named, Set<Integer> changed) {
    Set<Integer> tests = new HashSet<>();
    changed.stream().filter(named.names::containsKey).map(named.names::get).forEach(tests::add);
    List<Integer> ids = new ArrayList<>(tests);
    List<Integer> of = new ArrayList<>(tests);
    named.names.forEach(
        (old, latest) -> {
          boolean counts = !named.madeUp.contains(old) || changed.contains(old);
          if (tests.contains(latest) && counts) {
            ids.add(old);
            of.add(latest);
          }
        });
    if (ids.isEmpty()) {
      return Set.of();
    }
    List<Integer> madeUp = ids.stream().filter(named.madeUp::contains).toList();
    return dsl.fetch(
            "with member as materialized (select m.id, m.of, m.id = any(?) as made_up"
                + " from unnest(?, ?) m (id, of)),"
                + " met as (select m.of, bool_or(m.made_up) as made_up,"
                + " array_agg(coalesce(r.started_at, '-infinity') order by r.started_at nulls first)"
                + " as at from member m left join test_in_stream s on s.project_id = ?"
                + " and s.stream_id = ? and s.test_id = m.id left join run r"
                + " on r.project_id = s.project_id and r.id = s.first_run_id group by 1),"
                + " since as (select min(case when made_up then at[1] else at[2] end) as at from met)"
                + " select r.id from run r, since where r.project_id = ? and r.stream_id = ?"
                + " and r.number is not null and r.previous_id is not null"
                + " and r.started_at >= since.at and (exists (select 1 from member a"
                + " join result_row n on n.run_id = r.id and n.test_id = a.id"
                + " join member b on b.of = a.of and b.id <> a.id"
                + " join result_row p on p.run_id = r.previous_id and p.test_id = b.id)"
                + " or exists (select 1 from member a join result_row n"
                + " on n.run_id in (r.id, r.previous_id) and n.test_id = a.id where a.made_up))",
            Ids.of(madeUp),
            Ids.of(ids),
            Ids.of(of),
            projectId,
            streamId,
            projectId,
            streamId)
        .getValues(0, Long.class);
  }

  /**
   * Of some runs, those that have a test under another name than the run with which they are
   * compared: they may have been compared before that was known.
   */
  void compareAgain(Collection<Long> runs, Instant now) {
    String names =
        "(select coalesce(e.now_test_id, x.test_id) as now, x.test_id from result_row x"
            + " left join earlier_name e on e.project_id = r.project_id"
            + " and e.stream_id = r.stream_id and e.test_id = x.test_id where x.run_id = %s"
            + " and (e.test_id is not null or exists (select 1 from earlier_name o"
            + " where o.project_id = r.project_id and o.stream_id = r.stream_id"
            + " and o.now_test_id = x.test_id)))";
    dsl.fetch(
            "select r.id from run r where r.project_id = ? and r.stream_id = ? and r.id = any(?)"
                + " and r.previous_id is not null and exists (select 1 from earlier_name e"
                + " where e.project_id = r.project_id and e.stream_id = r.stream_id)"
                + " and exists (select 1 from "
                + names.formatted("r.id")
                + " n join "
                + names.formatted("r.previous_id")
                + " p on p.now = n.now and p.test_id <> n.test_id)",
            projectId,
            streamId,
            Ids.of(runs))
        .getValues(0, Long.class)
        .forEach(run -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, run, now));
  }
}
