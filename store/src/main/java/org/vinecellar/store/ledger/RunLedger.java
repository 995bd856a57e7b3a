package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.function.ToLongFunction;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.store.results.NowNames;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * The one place where a run changes. Whoever changes anything of a run opens its ledger, which
 * locks the run, says what was changed, and settles: counts are taken anew from the results,
 * changes told anew, the version goes up, watchers are told, and work is left for what follows. All
 * in the caller's transaction, so that all of it is seen at once or nothing.
 *
 * <p>One ledger of one run at a time in a transaction; not thread-safe.
 */
public final class RunLedger {
  /** Begins the names of what is being taken away; nobody can give such a name. */
  public static final String REMOVED = "\u0001";

  /** Up to so many tests, changes are told anew with every batch; beyond, only at the end. */
  private static final int COMPARED_LIVE = 20_000;

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final Record run;
  private final SuiteTally suites;
  private final Set<Integer> parts = new TreeSet<>();
  private final Set<Long> touched = new HashSet<>();
  private final Map<Field<?>, @Nullable Object> set = new HashMap<>();
  private @Nullable Integer onlyPart;
  private @Nullable Written written;
  private boolean several;
  private boolean again;
  private boolean shares;
  private boolean counted;
  private boolean compared;
  private boolean gone;
  private boolean live;
  private boolean labelled;
  private boolean all;

  private RunLedger(DSLContext dsl, int projectId, Record run) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = run.get(RUN.ID);
    this.run = run;
    this.suites = new SuiteTally(dsl, projectId, runId);
  }

  /** Work: tells anew what changed in a run, against one that has changed itself. */
  public static void compareAgain(DSLContext dsl, int projectId, long runId, Instant now) {
    RunLedger ledger = open(dsl, projectId, runId);
    if (ledger != null && ledger.run.get(RUN.NUMBER) != null) {
      ledger.findBefore();
      Settled unused = ledger.compare().settle(now);
    }
  }

  /** Runs may have come meanwhile that happened before this one, or gone. */
  private void findBefore() {
    RunOrder.Place here =
        new RunOrder.Place(
            runId, run.get(RUN.NUMBER), run.get(RUN.STARTED_AT).toInstant(), run.get(RUN.BRANCH));
    RunLedger unused =
        set(RUN.PREVIOUS_ID, new RunOrder(dsl, projectId, run.get(RUN.STREAM_ID)).before(here));
  }

  /** Waits until nobody else changes the run; null when there is no such run. */
  public static @Nullable RunLedger open(DSLContext dsl, int projectId, long runId) {
    Record run =
        dsl.selectFrom(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
            .forUpdate()
            .fetchOne();
    return run == null ? null : new RunLedger(dsl, projectId, run);
  }

  /**
   * Waits for several runs and those that follow them, as everybody who changes several does: by
   * their number. Before their stream: an upload holds its run when it comes to the stream.
   */
  public static void hold(DSLContext dsl, int projectId, Collection<Long> runs) {
    dsl.fetch(
        "select id from run where project_id = ? and (id = any(?) or previous_id = any(?))"
            + " order by id for update",
        projectId,
        Ids.of(runs),
        Ids.of(runs));
  }

  /** The run as it was before this. */
  public Record run() {
    return run;
  }

  /** Sets a column that tells neither counts nor changes. */
  public <T> RunLedger set(Field<T> field, @Nullable T value) {
    set.put(field, value);
    return this;
  }

  /**
   * What an upload counted while it wrote the results of a part.
   *
   * @param suites what stands in each, by its number; 0 for those outside of suites
   * @param changed those of them in which results were changed after they had been written
   */
  public record Written(Map<Long, Counts> suites, Set<Long> changed, Counts told, long micros) {
    /** Copies the collections. */
    public Written {
      suites = Map.copyOf(suites);
      changed = Set.copyOf(changed);
    }

    /** The same, when nobody knows where results were changed. */
    public Written changedAll() {
      return new Written(suites, suites.keySet(), told, micros);
    }
  }

  /** All results of a part have come. */
  public void partCame(int part, Written what) {
    several |= onlyPart != null || gone;
    onlyPart = part;
    written = what;
    touched.addAll(what.suites.keySet());
    counted = true;
    if (!what.changed.isEmpty()) {
      parts.add(part);
    }
  }

  /** A part is about to be taken away with all its results. To be called while they are there. */
  public void partGoes(int part) {
    touched.addAll(suites.ofPart(part));
    gone = true;
    several = true;
    counted = true;
  }

  /** What came of one result is another now. */
  public void resultChanged(int place, @Nullable Long suite) {
    touch(Packed.part(place), Set.of(suite == null ? 0L : suite));
    several = true;
  }

  /** What a part told of its results counts otherwise than before; they do not stand. */
  public void toldAnew(int part) {
    parts.add(part);
  }

  /** The part has tests that another part of the run has tried too. */
  public void triedAgain() {
    again = true;
  }

  /** Nothing that is kept of it is believed: all of it is counted anew. */
  public void recountAll() {
    for (int part :
        dsl.select(PART.PART_NO)
            .from(PART)
            .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId))
            .fetch(PART.PART_NO)) {
      touch(part, suites.ofPart(part));
    }
    several = true;
    counted = true;
    all = true;
  }

  /**
   * Its failures are grouped anew, since they are not what its results say; in place of settling.
   */
  public void explainAgain(Instant now) {
    dsl.update(RUN)
        .set(RUN.EXPLAINED, false)
        .set(RUN.VERSION, RUN.VERSION.plus(1))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
    WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, projectId, runId, now);
  }

  /** Results elsewhere in the run stand no more, or again, in suites that were named. */
  public void elsewhere() {
    several = true;
  }

  private void touch(int part, Collection<Long> inSuites) {
    parts.add(part);
    touched.addAll(inSuites);
    counted = true;
  }

  /**
   * A batch of a part that comes too often to count all of the part each time.
   *
   * @param told by the batch
   * @param standing what stands more than before, suite by suite
   * @param number of a suite
   */
  public void batchCame(
      int part, Counts told, SuiteCounts standing, long micros, ToLongFunction<SuitePath> number) {
    dsl.update(PART)
        .set(CountColumns.OF_PART.to(CountColumns.OF_PART.of(part(part)).plus(told)))
        .set(PART.DURATION_US, PART.DURATION_US.plus(micros))
        .where(isPart(part))
        .execute();
    suites.add(standing, number);
    shares |=
        dsl.fetchExists(
            PART, PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId), PART.PART_NO.ne(part));
    counted = true;
    live = true;
  }

  /** The run is closed. */
  public void close(String by, Instant now) {
    RunLedger unused =
        set(RUN.IS_OPEN, false).set(RUN.CLOSED_AT, Sql.utc(now)).set(RUN.CLOSED_BY, by);
  }

  /**
   * Takes the run out of sight, and leaves the work to take it off the disk. The one after it
   * follows the one before it now. In place of settling.
   */
  public void remove(Instant now) {
    dsl.update(RUN)
        .setNull(RUN.NUMBER)
        .set(RUN.RUN_KEY, REMOVED + runId)
        .set(RUN.DELETED_AT, Sql.utc(now))
        .set(RUN.IS_OPEN, false)
        .set(RUN.VERSION, RUN.VERSION.plus(1))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
    new GroupCounts(dsl, projectId).ofRun(runId);
    new RunMove(dsl, projectId, run).leave(now);
    WorkRows.ask(dsl, WorkKind.REMOVE_RUN, projectId, runId, now);
    dsl.execute("select pg_notify('vine_run', ?)", projectId + "/" + runId);
  }

  /**
   * The run goes to another stream, to the place of its time there.
   *
   * @return the number that it gets there
   */
  public int moveTo(long stream, Instant now) {
    RunMove move = new RunMove(dsl, projectId, run);
    move.leave(now);
    set.putAll(move.enter(stream, now));
    RunLedger unused = compare();
    return Objects.requireNonNull((Integer) set.get(RUN.NUMBER));
  }

  /** Labels or tags that count are others now. */
  public RunLedger labelsChanged() {
    labelled = true;
    return this;
  }

  /** What changed against the run before shall be told anew. */
  public RunLedger compare() {
    compared = true;
    return this;
  }

  /** Enters all that was said; the last that is done with a ledger. */
  public Settled settle(Instant now) {
    Counts counts = CountColumns.OF_RUN.of(run);
    if (counted) {
      recount();
      counts = suites.sum();
      set.putAll(CountColumns.OF_RUN.to(counts));
      set(RUN.OVERRULED, dsl.fetchCount(OVERRULING, OVERRULING.RUN_ID.eq(runId)));
      set(RUN.DURATION_US, duration());
      set(RUN.CHANGED_AT, Sql.utc(now));
    }
    if (shares) {
      set(RUN.SHARED, true);
    }
    ChangeCounts changes = RunRows.changes(run);
    // Of an open run, nothing is told to be gone.
    compared |= isOpen() != run.get(RUN.IS_OPEN);
    // While a large part comes, changes are only told at its end.
    if (compared || (counted && !(live && counts.tests() > COMPARED_LIVE))) {
      changes = changes();
      set.putAll(RunRows.ofChanges(changes));
    }
    if (counted) {
      followed(now);
    }
    Counts before = CountColumns.OF_RUN.of(run);
    if (all || (counted && counts.failing() + before.failing() > 0)) {
      FailingRow.keep(dsl, runId);
    }
    if ((counted && !(live && counts.tests() > COMPARED_LIVE))
        || isOpen() != run.get(RUN.IS_OPEN)) {
      LostTime lost = lost(counts);
      set.put(RUN.FAILING_US, lost.failingUs());
      set.put(RUN.AGAIN_US, lost.againUs());
    }
    // Where nothing fails and nothing failed, not even a first try, there is nothing to explain.
    if (failed(counts) + failed(before) > 0 && (counted || isOpen() != run.get(RUN.IS_OPEN))) {
      set(RUN.EXPLAINED, false);
      WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, projectId, runId, now);
    } else if (counted) {
      WorkRows.ask(dsl, WorkKind.LEARN_RUN, projectId, runId, now);
    }
    dsl.update(RUN)
        .set(set)
        .set(RUN.VERSION, RUN.VERSION.plus(1))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
    if (labelled) {
      RunLabels.enter(dsl, projectId, runId);
    }
    dsl.execute("select pg_notify('vine_run', ?)", projectId + "/" + runId);
    return new Settled(counts, changes, isOpen());
  }

  private LostTime lost(Counts counts) {
    boolean shared = shares || run.get(RUN.SHARED);
    return failed(counts) == 0 && !shared ? LostTime.NONE : LostTime.of(dsl, runId, shared);
  }

  private static int failed(Counts counts) {
    return counts.failing() + counts.setUps() + counts.retried();
  }

  /** A run as it is now. */
  public record Settled(Counts counts, ChangeCounts changes, boolean open) {}

  /** The run with which this one is compared; null for none. */
  public @Nullable Long previous() {
    return set.containsKey(RUN.PREVIOUS_ID)
        ? (Long) set.get(RUN.PREVIOUS_ID)
        : run.get(RUN.PREVIOUS_ID);
  }

  private long stream() {
    return set.containsKey(RUN.STREAM_ID)
        ? Objects.requireNonNull((Long) set.get(RUN.STREAM_ID))
        : run.get(RUN.STREAM_ID);
  }

  private boolean isOpen() {
    return Boolean.TRUE.equals(set.getOrDefault(RUN.IS_OPEN, run.get(RUN.IS_OPEN)));
  }

  private void recountPart(int part) {
    Record told =
        dsl.fetchOne(
            Tallies.told("result r where r.run_id = ? and r.place between ? and ?"),
            runId,
            Packed.first(part),
            Packed.last(part));
    if (told == null) {
      told(part, Counts.NONE, 0);
    } else {
      told(part, RunRows.counts(told, 1), told.get("micros", Long.class));
    }
  }

  private void told(int part, Counts counts, long micros) {
    dsl.update(PART)
        .set(CountColumns.OF_PART.to(counts))
        .set(PART.DURATION_US, micros)
        .where(isPart(part))
        .execute();
  }

  private void recount() {
    Set<Long> anew = new HashSet<>(touched);
    Written came = written;
    if (came != null && onlyPart != null) {
      if (!parts.contains(onlyPart)) {
        told(onlyPart, came.told, came.micros);
      }
      Set<Long> known = suites.known(touched);
      shares = !known.isEmpty();
      if (!several) {
        // Suites that the run had before, or in which results changed since, are counted anew.
        anew = known;
        anew.addAll(came.changed);
        Map<Long, Counts> fresh = new HashMap<>(came.suites);
        fresh.keySet().removeAll(anew);
        suites.enter(fresh);
      }
    }
    parts.forEach(this::recountPart);
    suites.recount(anew);
  }

  private ChangeCounts changes() {
    boolean open = isOpen();
    RunChanges comparison =
        new RunChanges(dsl, projectId, stream(), runId, shares || run.get(RUN.SHARED), previous());
    Integer part = onlyPart;
    // Of a run that was open and still is, a part changes nothing but what its own tests did.
    boolean goesOn = open && run.get(RUN.IS_OPEN);
    return part != null && goesOn && !several && !compared
        ? comparison.addPart(part, RunRows.changes(run), again || shares)
        : comparison.compare(!open && isWhole());
  }

  /** Tells what changed once more, and keeps nothing; of a run that is closed. */
  ChangeCounts lookAgain(Consumer<RunComparison.Different> each) {
    NowNames.hold(dsl, stream());
    return new RunChanges(dsl, projectId, stream(), runId, run.get(RUN.SHARED), previous())
        .look(isWhole(), Integer.MAX_VALUE, each);
  }

  /** Whether what did not come is not there. Of a part that was broken off nobody knows. */
  private boolean isWhole() {
    return !dsl.fetchExists(
        PART,
        PART.PROJECT_ID.eq(projectId),
        PART.RUN_ID.eq(runId),
        PART.BROKEN_OFF.isTrue().or(PART.LIVE_BATCH.isNotNull()));
  }

  /** The run after this one is compared with it. */
  private void followed(Instant now) {
    dsl.select(RUN.ID)
        .from(RUN)
        .where(RUN.PROJECT_ID.eq(projectId), RUN.PREVIOUS_ID.eq(runId))
        .fetch(RUN.ID)
        .forEach(next -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, next, now));
  }

  private long duration() {
    return dsl.select(
            DSL.coalesce(DSL.sum(PART.DURATION_US), DSL.inline(java.math.BigDecimal.ZERO)))
        .from(PART)
        .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId))
        .fetchSingle(0, Long.class);
  }

  /** A part as it is now. */
  public Record part(int part) {
    return dsl.selectFrom(PART).where(isPart(part)).fetchSingle();
  }

  private org.jooq.Condition isPart(int part) {
    return PART.PROJECT_ID.eq(projectId).and(PART.RUN_ID.eq(runId)).and(PART.PART_NO.eq(part));
  }
}
