package org.vinecellar.store.trust;

import java.math.BigDecimal;
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
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.trust.evidence.Night;
import org.vinecellar.core.trust.flaky.Conduct;
import org.vinecellar.core.trust.flaky.Sight;
import org.vinecellar.store.edits.FollowingNotes;
import org.vinecellar.store.trust.folding.MadeUpNames;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Work: learns of tests from the runs of a stream, in the order in which they began. What is kept
 * is as it was some runs ago: the latest may still get more results, and others may come between
 * them. When one changes that is older, or is gone, all is learned anew; that waits a moment, since
 * such runs come in crowds. What is known afterwards is the same in whatever order they came.
 */
public final class StreamLearning {
  private static final Logger LOG = LoggerFactory.getLogger(StreamLearning.class);
  private static final Duration SHORTLY = Duration.ofSeconds(2);

  private static final Duration BUSY = Duration.ofMillis(200);

  /** Runs that are learned from at once. */
  private static final int SOME = 50;

  /** So many results are held in memory at once. */
  private static final int SEEN = 100_000;

  /** When more than so many are not settled, all but the latest few are. */
  private static final int UNSETTLED = 16;

  private static final int LATEST = 8;

  /** With so many runs before it a run is compared, to see which of their tests go on in it. */
  private static final int COMPARED = 4;

  /** Which are among so many before it, whatever else is known: that depends on what came when. */
  private static final int NEAR = Causes.LOOKED_BACK;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Nights nights;
  private final BadNights badNights;
  private Sights sights;
  private final BeliefRows rows;
  private final Renaming renaming;
  private final MadeUpNames madeUp;
  private Lineage lineage;

  /** Of the tests of the runs that are learned from for the first time. */
  private final Map<Long, BigDecimal> sums = new HashMap<>();

  private @Nullable List<Night> lately;
  private @Nullable OffsetDateTime settledAt;
  private int settledNumber;

  private StreamLearning(DSLContext dsl, int projectId, long streamId, Record kept, Instant now) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.nights = new Nights(dsl, projectId, streamId);
    this.badNights = new BadNights(dsl, projectId);
    this.renaming = new Renaming(dsl, projectId, streamId, now);
    this.madeUp = new MadeUpNames(dsl, projectId, streamId);
    this.lineage = Lineage.of(dsl, projectId, streamId);
    this.sights = new Sights(dsl, projectId, lineage);
    this.rows = new BeliefRows(dsl, projectId, streamId);
    this.settledAt = kept.get("settled_at", OffsetDateTime.class);
    this.settledNumber = settledAt == null ? 0 : kept.get("settled_number", Integer.class);
  }

  /** Work: learns from a run, and from those beside it that nobody has learned from. */
  public static void run(DSLContext dsl, int projectId, long runId, Instant now) {
    Record run =
        dsl.fetchOne(
            "select stream_id from run where project_id = ? and id = ? and number is not null"
                + " and deleted_at is null and explained",
            projectId,
            runId);
    if (run == null) {
      return;
    }
    long stream = run.get(0, Long.class);
    Record kept = hold(dsl, WorkKind.LEARN_RUN, projectId, stream, runId, now);
    if (kept == null) {
      return;
    }
    Boolean settled =
        dsl.fetchSingle(
                "select (started_at, number) <= (?::timestamptz, ?) from run where project_id = ?"
                    + " and id = ?",
                kept.get("settled_at"),
                kept.get("settled_number"),
                projectId,
                runId)
            .get(0, Boolean.class);
    if (Boolean.TRUE.equals(settled)) {
      if (!isKnown(dsl, runId)) {
        WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, stream, now.plus(SHORTLY));
      }
      return;
    }
    StreamLearning learning = new StreamLearning(dsl, projectId, stream, kept, now);
    if (kept.get("settled_at") != null
        && !Objects.equals(kept.get("main_branch"), learning.nights.mainBranch())) {
      WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, stream, now.plus(SHORTLY));
      return;
    }
    learning.latest(true, now);
  }

  private static boolean isKnown(DSLContext dsl, long runId) {
    return dsl.fetchOne(
            "select 1 from run r join run_learned l on l.run_id = r.id"
                + " and l.changed_at = r.changed_at where r.id = ?",
            runId)
        != null;
  }

  /** Work: learns all that a stream tells, from nothing. */
  public static void anew(DSLContext dsl, int projectId, long stream, Instant now) {
    Record kept = hold(dsl, WorkKind.LEARN_STREAM, projectId, stream, stream, now);
    if (kept == null) {
      return;
    }
    for (String table : List.of("run_learned", "test_belief", "test_in_stream")) {
      dsl.execute(
          "delete from " + table + " where project_id = ? and stream_id = ?", projectId, stream);
    }
    dsl.execute(
        "delete from succession where project_id = ? and stream_id = ? and state in (1, 2)",
        projectId,
        stream);
    StreamLearning learning = new StreamLearning(dsl, projectId, stream, kept, now);
    learning.madeUp.forgetAll();
    learning.settle(null, 0);
    learning.enterAll();
    // A run that came meanwhile adds nothing to what is known: nothing is.
    learning.latest(false, now);
    new NamesKept(dsl, projectId, stream, now).keep(learning.lineage);
    FollowingNotes.keep(dsl, projectId);
  }

  /**
   * Nobody else learns of the stream then; nobody who sends waits for that, and neither does who
   * has other work to do: it is put off. The stream is held first, as whoever takes it away does.
   *
   * @return what is kept of it; null when it is gone, or somebody else is at it
   */
  private static @Nullable Record hold(
      DSLContext dsl, WorkKind kind, int projectId, long stream, long subject, Instant now) {
    boolean isThere =
        dsl.fetchOne(
                "select 1 from stream where project_id = ? and id = ? for key share",
                projectId,
                stream)
            != null;
    if (!isThere) {
      return null;
    }
    dsl.execute(
        "insert into stream_learning (project_id, stream_id) values (?, ?) on conflict do nothing",
        projectId,
        stream);
    Record kept =
        dsl.fetchOne(
            "select main_branch, settled_at, settled_number from stream_learning"
                + " where project_id = ? and stream_id = ? for update skip locked",
            projectId,
            stream);
    if (kept == null) {
      WorkRows.ask(dsl, kind, projectId, subject, now.plus(BUSY));
    }
    return kept;
  }

  private static List<Night> nights(List<Nights.Known> some) {
    return some.stream().map(Nights.Known::night).toList();
  }

  /** The latest that are settled. */
  private List<Night> lately() {
    if (lately == null) {
      lately = nights(nights.settled(NEAR));
    }
    return lately;
  }

  private void settle(@Nullable OffsetDateTime started, int number) {
    settledAt = started;
    settledNumber = number;
    lately = null;
    dsl.execute(
        "update stream_learning set settled_at = ?::timestamptz, settled_number = ?,"
            + " main_branch = ? where project_id = ? and stream_id = ?",
        started,
        started == null ? null : (Integer) number,
        nights.mainBranch(),
        projectId,
        streamId);
  }

  /** First of all who goes on as whom: what is believed of tests follows from that. */
  private void enterAll() {
    List<Nights.Known> all = new ArrayList<>();
    List<Nights.Known> some = nights.after(null, 0, Nights.LOOKED_BACK);
    while (!some.isEmpty()) {
      all.addAll(some);
      Nights.Known last = some.get(some.size() - 1);
      some = nights.after(last.started(), last.night().number(), Nights.LOOKED_BACK);
    }
    enter(all);
    nights.learn(all, sums);
  }

  /**
   * From the runs that are not settled; settles those that are not of the latest.
   *
   * @param mayAdd whether one more run may be added to what is known of those before it
   */
  private void latest(boolean mayAdd, Instant now) {
    Lineage before = lineage;
    long begun = System.nanoTime();
    int tests = learnLatest(mayAdd);
    LOG.info(
        "stream {}: learned in {} ms, {} tests failed by themselves before",
        streamId,
        (System.nanoTime() - begun) / 1_000_000,
        tests);
    WorkRows.ask(dsl, WorkKind.COUNT_STREAM, projectId, streamId, now);
    if (!lineage.isLike(before)) {
      new NamesKept(dsl, projectId, streamId, now).keep(lineage);
      FollowingNotes.keep(dsl, projectId);
    }
    if (!lineage.hasAllOf(before)) {
      // What was believed of one is mixed into what is believed of another.
      WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, streamId, now.plus(SHORTLY));
    }
  }

  private int learnLatest(boolean mayAdd) {
    List<Nights.Known> some = nights.after(settledAt, settledNumber, SOME);
    if (mayAdd && isOneMore(some)) {
      Lineage before = lineage;
      enter(some);
      lineage = Lineage.of(dsl, projectId, streamId);
      if (lineage.isLike(before)) {
        return oneMore(some);
      }
    }
    Map<Integer, Conduct> settled = rows.settled();
    while (some.size() == SOME) {
      settled = settled(settled, some.subList(0, SOME - LATEST));
      some = nights.after(settledAt, settledNumber, SOME);
    }
    if (some.size() > UNSETTLED) {
      settled = settled(settled, some.subList(0, some.size() - LATEST));
      some = some.subList(some.size() - LATEST, some.size());
    }
    enter(some);
    renamed(settled);
    Map<Integer, Conduct> now = after(settled, some);
    nights.learn(some, sums);
    now.values().removeIf(conduct -> conduct.stumbles() == 0);
    rows.write(settled, now);
    return now.size();
  }

  /** Whether all but the last of them are known as they are now, and nothing else is. */
  private boolean isOneMore(List<Nights.Known> some) {
    int known = some.size() - 1;
    if (known < 0 || some.size() == SOME) {
      return false;
    }
    List<Night> these = nights(some);
    Set<Long> are = nights.areKnown(these);
    return are.size() == known
        && !are.contains(these.get(known).run())
        && nights.learnedAfter(settledAt, settledNumber) == known;
  }

  /** Adds the last of them to what is known, which is what learning from all of them would tell. */
  private int oneMore(List<Nights.Known> some) {
    int settling = some.size() > UNSETTLED ? some.size() - LATEST : 0;
    Map<Integer, Conduct> before = new HashMap<>();
    if (settling > 0) {
      before.putAll(settled(rows.settled(), some.subList(0, settling)));
    }
    List<Nights.Known> known = some.subList(settling, some.size() - 1);
    List<Nights.Known> last = some.subList(some.size() - 1, some.size());
    List<Night> earlier = lately();
    List<Long> bad = badNights.of(nights(some.subList(settling, some.size())), earlier);
    Map<Integer, Conduct> now = rows.now();
    long run = last.get(0).night().run();
    Set<Integer> met = new HashSet<>(sights.stumbling(last.get(0), bad.contains(run)));
    met.removeAll(now.keySet());
    Map<Integer, Conduct> more = met.isEmpty() ? new HashMap<>() : fromNothing(met);
    before.putAll(more);
    add(more, known, earlier, bad);
    now.putAll(more);
    earlier = new ArrayList<>(earlier);
    earlier.addAll(nights(known));
    add(now, last, earlier, bad);
    nights.learn(last, sums);
    now.values().removeIf(conduct -> conduct.stumbles() == 0);
    if (settling > 0) {
      // Those that only failed by themselves in the latest.
      Set<Integer> lately = new HashSet<>(now.keySet());
      lately.removeAll(before.keySet());
      before.putAll(lately.isEmpty() ? Map.of() : fromNothing(lately));
    }
    rows.write(before, now);
    return now.size();
  }

  private Map<Integer, Conduct> settled(Map<Integer, Conduct> before, List<Nights.Known> some) {
    enter(some);
    renamed(before);
    Map<Integer, Conduct> settled = after(before, some);
    // What only seemed to fail by itself.
    settled.values().removeIf(conduct -> conduct.stumbles() == 0);
    nights.learn(some, sums);
    Nights.Known last = some.get(some.size() - 1);
    settle(last.started(), last.night().number());
    return settled;
  }

  /**
   * How tests have done after some more runs, which follow the settled ones.
   *
   * @param settled how they have done up to those; tests that are met for the first time are put in
   */
  private Map<Integer, Conduct> after(Map<Integer, Conduct> settled, List<Nights.Known> some) {
    List<Night> earlier = lately();
    List<Long> bad = badNights.of(nights(some), earlier);
    Set<Integer> met = new HashSet<>();
    for (Nights.Known one : some) {
      met.addAll(sights.stumbling(one, bad.contains(one.night().run())));
    }
    met.removeAll(settled.keySet());
    if (!met.isEmpty()) {
      settled.putAll(fromNothing(met));
    }
    Map<Integer, Conduct> now = new HashMap<>(settled);
    add(now, some, earlier, bad);
    return now;
  }

  /** How some tests did in the settled runs. */
  private Map<Integer, Conduct> fromNothing(Set<Integer> tests) {
    Map<Integer, Conduct> conducts = new HashMap<>();
    tests.forEach(test -> conducts.put(test, Conduct.start()));
    List<Nights.Known> runs = nights.settled(Nights.LOOKED_BACK + NEAR);
    List<Long> bad = badNights.of(nights(runs), List.of());
    int first = Math.max(0, runs.size() - Nights.LOOKED_BACK);
    for (int from = first; from < runs.size(); from += SOME) {
      List<Nights.Known> some = runs.subList(from, Math.min(runs.size(), from + SOME));
      add(conducts, some, nights(runs.subList(Math.max(0, from - NEAR), from)), bad);
    }
    return conducts;
  }

  private void add(
      Map<Integer, Conduct> conducts,
      List<Nights.Known> some,
      List<Night> earlier,
      List<Long> bad) {
    List<Night> these = nights(some);
    List<Integer> tests = List.copyOf(conducts.keySet());
    int together = Math.max(1, SEEN / Math.max(1, some.size()));
    for (int from = 0; from < tests.size(); from += together) {
      List<Integer> part = tests.subList(from, Math.min(tests.size(), from + together));
      Map<Long, Map<Integer, Sight>> told = sights.of(these, earlier, bad, part);
      for (Night night : these) {
        Map<Integer, Sight> here = told.getOrDefault(night.run(), Map.of());
        for (Integer test : part) {
          conducts.computeIfPresent(
              test, (k, conduct) -> conduct.after(Sights.at(here, test, night), night.run()));
        }
      }
    }
  }

  /**
   * The tests that the stream has had by then, and which of them it had under other names. From the
   * first run on that is new or has changed.
   */
  private void enter(List<Nights.Known> some) {
    List<Night> these = nights(some);
    Set<Long> known = nights.areKnown(these);
    int from = 0;
    while (from < these.size() && known.contains(these.get(from).run())) {
      from++;
    }
    if (from == these.size()) {
      return;
    }
    List<Night> anew = these.subList(from, these.size());
    // Those after them were entered as if these had not been; they come next, as if they were new.
    Nights.Known last = some.get(some.size() - 1);
    List<Long> later = nights.forgetAfter(last.started(), last.night().number());
    List<Long> runs = new ArrayList<>(anew.stream().map(Night::run).toList());
    List<Night> earlier = new ArrayList<>(lately());
    earlier.addAll(these.subList(0, from));
    TestsInStream tests = new TestsInStream(dsl, projectId, streamId, earlier);
    if (!later.isEmpty() || nights.anyLearned(runs)) {
      runs.addAll(later);
      tests.forget(runs);
      renaming.forget(runs);
      madeUp.forget(runs);
    }
    for (Night night : anew) {
      TestsInStream.Entered entered = tests.enter(night);
      sums.put(night.run(), entered.sum());
      renaming.apart(night.run());
      if (entered.mayBeNew()) {
        Set<Integer> folded = madeUp.at(night.run());
        if (!earlier.isEmpty() && night.branch() == null) {
          renaming.at(night.run(), like(night, earlier), folded);
        }
      }
      earlier.add(night);
    }
  }

  /**
   * The latest of some runs that ran in the same environment, the last one first; the latest of all
   * when none did.
   */
  private static List<Long> like(Night night, List<Night> earlier) {
    List<Long> like = new ArrayList<>();
    int from = Math.max(0, earlier.size() - NEAR);
    for (int i = earlier.size() - 1; i >= from && like.size() < COMPARED; i--) {
      Night one = earlier.get(i);
      if (one.branch() == null && one.environment().equals(night.environment())) {
        like.add(one.run());
      }
    }
    return like.isEmpty() ? List.of(earlier.get(earlier.size() - 1).run()) : like;
  }

  /** What is believed of a test goes on with it. */
  private void renamed(Map<Integer, Conduct> conducts) {
    lineage = Lineage.of(dsl, projectId, streamId);
    sights = new Sights(dsl, projectId, lineage);
    for (int test : List.copyOf(conducts.keySet())) {
      int latest = lineage.latest(test);
      if (latest != test) {
        conducts.putIfAbsent(latest, Objects.requireNonNull(conducts.remove(test)));
      }
    }
  }
}
