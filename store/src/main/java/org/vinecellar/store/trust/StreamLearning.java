package org.vinecellar.store.trust;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.core.trust.flaky.Conduct;
import org.vinecellar.core.trust.flaky.Sight;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Work: learns of tests from the runs of a stream, in the order in which they began. A run that
 * comes late, has changed or is gone makes all of it be learned anew; that waits a moment, since
 * such runs come in crowds. What is known afterwards is the same in whatever order they came.
 */
public final class StreamLearning {
  private static final Duration SHORTLY = Duration.ofSeconds(2);

  /** Runs that are learned from in one transaction. */
  private static final int SOME = 50;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Nights nights;
  private final Sights sights;
  private final BeliefRows rows;

  private StreamLearning(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.nights = new Nights(dsl, projectId, streamId);
    this.sights = new Sights(dsl, projectId);
    this.rows = new BeliefRows(dsl, projectId, streamId);
  }

  /** Work: learns from a run, and from those before it that nobody has learned from. */
  public static void run(DSLContext dsl, int projectId, long runId, Instant now) {
    Record run =
        dsl.fetchOne(
            "select stream_id from run where project_id = ? and id = ? and number is not null"
                + " and deleted_at is null and not is_open and explained",
            projectId,
            runId);
    if (run == null) {
      return;
    }
    long stream = run.get(0, Long.class);
    String main = hold(dsl, projectId, stream);
    StreamLearning learning = new StreamLearning(dsl, projectId, stream);
    Record place =
        dsl.fetchOne(
            "select r.version, l.version as known, exists (select 1 from run_learned o"
                + " where o.project_id = r.project_id and o.stream_id = r.stream_id"
                + " and (o.started_at, o.number) > (r.started_at, r.number)) as late"
                + " from run r left join run_learned l on l.run_id = r.id"
                + " where r.project_id = ? and r.id = ? and r.stream_id = ?",
            projectId,
            runId,
            stream);
    if (place == null || Objects.equals(place.get(0), place.get(1))) {
      return;
    }
    boolean first =
        dsl.fetchOne(
                "select 1 from run_learned where project_id = ? and stream_id = ? limit 1",
                projectId,
                stream)
            == null;
    if (place.get(1) != null
        || place.get(2, Boolean.class)
        || (!first && !Objects.equals(main, learning.nights.mainBranch()))) {
      WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, stream, now.plus(SHORTLY));
      return;
    }
    learning.noteMain();
    if (learning.goOn() == SOME) {
      WorkRows.ask(dsl, WorkKind.LEARN_RUN, projectId, runId, now);
    }
  }

  /** Work: learns all that a stream tells, from nothing. */
  public static void anew(DSLContext dsl, int projectId, long stream, Instant now) {
    if (dsl.fetchOne("select 1 from stream where project_id = ? and id = ?", projectId, stream)
        == null) {
      return;
    }
    String unused = hold(dsl, projectId, stream);
    for (String table : List.of("run_learned", "test_belief", "test_in_stream")) {
      dsl.execute(
          "delete from " + table + " where project_id = ? and stream_id = ?", projectId, stream);
    }
    StreamLearning learning = new StreamLearning(dsl, projectId, stream);
    learning.noteMain();
    learning.all();
  }

  /** Nobody else learns of the stream then; nobody who sends waits for that. */
  private static @Nullable String hold(DSLContext dsl, int projectId, long stream) {
    dsl.execute(
        "insert into stream_learning (project_id, stream_id) values (?, ?) on conflict do nothing",
        projectId,
        stream);
    return dsl.fetchSingle(
            "select main_branch from stream_learning where project_id = ? and stream_id = ? for update",
            projectId,
            stream)
        .get(0, String.class);
  }

  private void noteMain() {
    dsl.execute(
        "update stream_learning set main_branch = ? where project_id = ? and stream_id = ?"
            + " and main_branch is distinct from ?",
        nights.mainBranch(),
        projectId,
        streamId,
        nights.mainBranch());
  }

  /** From some of the runs after the last that is known. */
  private int goOn() {
    List<Nights.Known> known = nights.learned(1);
    Nights.Known last = known.isEmpty() ? null : known.get(0);
    List<Nights.Known> next =
        nights.after(
            last == null ? null : last.started(), last == null ? 0 : last.night().number(), SOME);
    if (next.isEmpty()) {
      return 0;
    }
    Map<Integer, Conduct> conducts = rows.all();
    Set<Integer> changed = new HashSet<>(conducts.keySet());
    for (Nights.Known one : next) {
      Night before = last == null ? null : last.night();
      boolean bad = one.night().isBad(before);
      Set<Integer> met = new HashSet<>(sights.stumbling(one, bad));
      met.removeAll(conducts.keySet());
      if (!met.isEmpty()) {
        conducts.putAll(conduct(nights.learned(Nights.LOOKED_BACK), met));
      }
      Map<Integer, Sight> told =
          sights
              .of(
                  List.of(one.night()),
                  bad ? List.of(one.night().run()) : List.of(),
                  conducts.keySet())
              .getOrDefault(one.night().run(), Map.of());
      add(conducts, one.night(), told);
      // What only seemed to fail by itself.
      met.removeIf(test -> Objects.requireNonNull(conducts.get(test)).stumbles() > 0);
      conducts.keySet().removeAll(met);
      changed.addAll(conducts.keySet());
      nights.learn(List.of(one));
      enter(List.of(one));
      last = one;
    }
    changed.retainAll(conducts.keySet());
    rows.write(conducts, changed);
    return next.size();
  }

  private void all() {
    List<Nights.Known> all = new ArrayList<>();
    OffsetDateTime started = null;
    int number = 0;
    List<Nights.Known> some = nights.after(null, 0, Nights.LOOKED_BACK);
    while (!some.isEmpty()) {
      nights.learn(some);
      enter(some);
      all.addAll(some);
      Nights.Known last = some.get(some.size() - 1);
      started = last.started();
      number = last.night().number();
      some = nights.after(started, number, Nights.LOOKED_BACK);
    }
    List<Nights.Known> recent =
        all.subList(Math.max(0, all.size() - Nights.LOOKED_BACK), all.size());
    Set<Integer> tests = new HashSet<>();
    Night before = null;
    for (Nights.Known one : recent) {
      tests.addAll(sights.stumbling(one, one.night().isBad(before)));
      before = one.night();
    }
    Map<Integer, Conduct> conducts = conduct(recent, tests);
    tests.removeIf(test -> Objects.requireNonNull(conducts.get(test)).stumbles() == 0);
    rows.write(conducts, tests);
  }

  /** How some tests did in some runs. */
  private Map<Integer, Conduct> conduct(List<Nights.Known> runs, Set<Integer> tests) {
    Map<Integer, Conduct> conducts = new HashMap<>();
    tests.forEach(test -> conducts.put(test, Conduct.start()));
    Night before = null;
    for (int from = 0; from < runs.size() && !tests.isEmpty(); from += SOME) {
      List<Night> some =
          runs.subList(from, Math.min(runs.size(), from + SOME)).stream()
              .map(Nights.Known::night)
              .toList();
      List<Long> bad = new ArrayList<>();
      for (Night night : some) {
        if (night.isBad(before)) {
          bad.add(night.run());
        }
        before = night;
      }
      Map<Long, Map<Integer, Sight>> told = sights.of(some, bad, tests);
      some.forEach(night -> add(conducts, night, told.getOrDefault(night.run(), Map.of())));
    }
    return conducts;
  }

  private static void add(Map<Integer, Conduct> conducts, Night night, Map<Integer, Sight> told) {
    conducts.replaceAll(
        (test, conduct) -> conduct.after(Sights.at(told, test, night), night.run()));
  }

  /** The tests that the stream has had by then. */
  private void enter(List<Nights.Known> some) {
    for (Nights.Known one : some) {
      dsl.execute(
          "insert into test_in_stream (project_id, stream_id, test_id, first_run_id)"
              + " select distinct on (r.test_id) ?, ?, r.test_id, r.run_id from result_row r"
              + " where r.run_id = ? and (r.state >> 6) & 3 = 0 and not exists (select 1 from"
              + " test_in_stream s where s.project_id = ? and s.stream_id = ?"
              + " and s.test_id = r.test_id)",
          projectId,
          streamId,
          one.night().run(),
          projectId,
          streamId);
    }
  }
}
