package org.vinecellar.store.trust;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;

/** Which runs of a stream have a test under another name than the run before them. */
final class RunsByNames {
  /** Up to so many names are looked up in a run; of more, all of the run is read. */
  private static final int FEW = 2_000;

  /** What so many runs have is remembered. */
  private static final int REMEMBERED = 16;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Map<Integer, Integer> tests;
  private final Set<Integer> madeUp;
  private final Map<Long, Map<Integer, Set<Integer>>> had =
      new LinkedHashMap<>(REMEMBERED, 1, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, Map<Integer, Set<Integer>>> eldest) {
          return size() > REMEMBERED;
        }
      };

  /**
   * @param tests names, each with the one of now, that one too
   * @param madeUp those of them that are others in each run
   */
  RunsByNames(
      DSLContext dsl,
      int projectId,
      long streamId,
      Map<Integer, Integer> tests,
      Set<Integer> madeUp) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.tests = tests;
    this.madeUp = madeUp;
  }

  /** These; none of them is older than the name of a test that came last. */
  List<Long> crossing() {
    List<Long> crossing = new ArrayList<>();
    if (tests.isEmpty()) {
      return crossing;
    }
    for (Record row :
        dsl.fetch(
            "select id, previous_id from run where project_id = ? and stream_id = ?"
                + " and number is not null and previous_id is not null"
                + " and started_at >= least(?::timestamptz, (select min(r.started_at) from run r"
                + " where r.project_id = ? and r.stream_id = ? and r.number is not null"
                + " and not exists (select 1 from run_learned l where l.run_id = r.id"
                + " and l.changed_at = r.changed_at))) order by started_at, number",
            projectId,
            streamId,
            Sql.utc(since()),
            projectId,
            streamId)) {
      long run = row.get(0, Long.class);
      if (differ(names(run), names(row.get(1, Long.class)))) {
        crossing.add(run);
      }
    }
    return crossing;
  }

  private boolean differ(Map<Integer, Set<Integer>> here, Map<Integer, Set<Integer>> before) {
    for (Map<Integer, Set<Integer>> one : List.of(here, before)) {
      if (one.values().stream().flatMap(Set::stream).anyMatch(madeUp::contains)) {
        return true;
      }
    }
    return here.entrySet().stream()
        .anyMatch(
            one -> {
              Set<Integer> other = before.get(one.getKey());
              return other != null && !(other.size() == 1 && other.equals(one.getValue()));
            });
  }

  /** Those that a run has, by the test. */
  private Map<Integer, Set<Integer>> names(long run) {
    return had.computeIfAbsent(
        run,
        key -> {
          Map<Integer, Set<Integer>> found = new HashMap<>();
          List<Integer> ids =
              tests.size() <= FEW
                  ? dsl.fetch(
                          "select test_id from result_row where run_id = ? and test_id = any(?)",
                          run,
                          Ids.of(tests.keySet()))
                      .getValues(0, Integer.class)
                  : dsl.fetch("select test_id from result_row where run_id = ?", run)
                      .getValues(0, Integer.class);
          for (Integer id : ids) {
            Integer test = tests.get(id);
            if (test != null) {
              found.computeIfAbsent(test, k -> new HashSet<>(2)).add(id);
            }
          }
          return found;
        });
  }

  /**
   * When the second name of a test came, of the one that had two first; of made-up ones, any. Runs
   * of which nobody has learned may have had it before.
   */
  private Instant since() {
    Map<Integer, List<Instant>> came = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select m.id, r.started_at from unnest(?) m (id) left join test_in_stream s"
                + " on s.project_id = ? and s.stream_id = ? and s.test_id = m.id left join run r"
                + " on r.project_id = s.project_id and r.id = s.first_run_id",
            Ids.of(tests.keySet()),
            projectId,
            streamId)) {
      OffsetDateTime at = row.get(1, OffsetDateTime.class);
      came.computeIfAbsent(tests.get(row.get(0, Integer.class)), k -> new ArrayList<>())
          .add(at == null ? Instant.EPOCH : at.toInstant());
    }
    boolean any = tests.keySet().stream().anyMatch(madeUp::contains);
    return came.values().stream()
        .map(
            all -> {
              all.sort(null);
              return all.get(any || all.size() < 2 ? 0 : 1);
            })
        .min(Instant::compareTo)
        .orElse(Instant.EPOCH);
  }
}
