package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.RUN;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.grouping.GroupKey;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.grouping.KnownGroups;
import org.vinecellar.core.triage.reading.PlaceMemo;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;
import org.vinecellar.store.ledger.GroupCounts;
import org.vinecellar.store.triage.rows.CodeRows;
import org.vinecellar.store.triage.rows.FailingResults;
import org.vinecellar.store.triage.rows.FailureRows;
import org.vinecellar.store.triage.rows.GroupRows;
import org.vinecellar.store.triage.rows.Regroupings;
import org.vinecellar.store.triage.rules.RuleApplying;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Work: groups the failures of a run, and carries to them what was decided. */
public final class RunExplaining {
  private static final Logger LOG = LoggerFactory.getLogger(RunExplaining.class);

  /** So many errors of a group in one run tell what is the same in all. */
  private static final int TEMPLATES = 20;

  /** So many different errors of a run are kept with their words; further ones by their keys. */
  private static final int MOST_COMPARED = 20_000;

  /** Further ones are not told apart: each takes room, and nobody looks at so many. */
  private static final int MOST_APART = 60_000;

  /** A run waits so long for those that know what its causes were before. */
  private static final Duration SHORTLY = Duration.ofMillis(300);

  /** The failures of tonight print the places of last night. */
  private static final PlaceMemo PLACES = new PlaceMemo();

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final CodeSettings code;
  private final int version;

  /** Whether it was grouped before, by less than what is known now. */
  private final boolean anew;

  /** Each failing result, with its signature by number. */
  private final List<Place> places = new ArrayList<>();

  private final Map<Signature, Integer> numbers = new LinkedHashMap<>();
  private final List<Signature> signatures = new ArrayList<>();
  private final Map<GroupKey, Set<Integer>> tests = new HashMap<>();
  private int notCompared;
  private int stumbled;

  private record Place(int place, int testId, int signature, int outcome) {}

  private RunExplaining(
      DSLContext dsl, int projectId, long runId, @Nullable Record code, Record run) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
    this.code = CodeRows.settings(code);
    this.version = CodeRows.version(code);
    this.anew = run.get(RUN.GROUPED_BY) != 0 && run.get(RUN.GROUPED_BY) < version;
  }

  /** Does it. While it lasts, the run does not change. */
  public static void explain(DSLContext dsl, int projectId, long runId, Instant now) {
    Record run =
        dsl.select(RUN.NUMBER, RUN.GROUPED_BY)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId), RUN.DELETED_AT.isNull())
            .forUpdate()
            .fetchOne();
    if (run == null || run.get(RUN.NUMBER) == null) {
      return;
    }
    Record code = CodeRows.of(dsl, projectId);
    boolean first = run.get(RUN.GROUPED_BY) == 0;
    if (first && GroupingAnew.some(dsl, projectId, CodeRows.version(code), now) > 0) {
      WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, projectId, runId, now.plus(SHORTLY));
      return;
    }
    RunExplaining explaining = new RunExplaining(dsl, projectId, runId, code, run);
    explaining.all(now);
    dsl.update(RUN)
        .set(RUN.EXPLAINED, true)
        .set(RUN.STUMBLED, explaining.stumbled)
        .set(RUN.NOT_COMPARED, explaining.notCompared)
        .set(RUN.GROUPED_BY, explaining.version)
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
    WorkRows.ask(dsl, WorkKind.CARRY_RUN, projectId, runId, now);
    WorkRows.ask(dsl, WorkKind.LEARN_RUN, projectId, runId, now);
    dsl.execute("select pg_notify('vine_run', ?)", projectId + "/" + runId);
  }

  private void all(Instant now) {
    FailingResults results = new FailingResults(dsl, projectId, runId);
    Signer signer = new Signer(CodeMap.of(results.suiteNames(), code), PLACES);
    Stumbles stumbles = new Stumbles(dsl, projectId, runId);
    stumbled = results.stumbling();
    if (stumbled > 0 && stumbled <= Stumbles.MOST) {
      results.eachStumbling(some -> stumbles.add(some, signed(signer, some)));
    }
    if (!results.areThere()) {
      dsl.execute("delete from failure where run_id = ?", runId);
      new GroupCounts(dsl, projectId).ofRun(runId);
      stumbles.write();
      return;
    }
    long begun = System.nanoTime();
    results.each(some -> add(some, signed(signer, some)));
    List<Signature> settled = Grouping.settled(signatures);
    GroupRows groups = new GroupRows(dsl, projectId, version);
    groups.lock();
    groups.of(runId, tests);
    KnownGroups found = groups.with(Grouping.asked(settled));
    Grouping.Result result =
        Grouping.of(settled, groups.with(Grouping.askedThen(settled, found)).or(found));
    Map<String, Integer> ids = enter(result, groups, kept(settled, result, groups), now);
    long grouped = System.nanoTime();
    failures(settled, result, ids, stumbles);
    stumbles.write();
    Carrying.toRun(dsl, projectId, runId);
    int unused = RuleApplying.toRun(dsl, projectId, runId, now);
    new GroupCounts(dsl, projectId).ofRun(runId);
    // Their rows are held by now, in an order in which nobody waits for another.
    groups.widen(templates(settled, result, ids));
    LOG.info(
        "run {}: {} failures read and grouped in {} ms, written and counted in {} ms",
        runId,
        places.size(),
        (grouped - begun) / 1_000_000,
        (System.nanoTime() - grouped) / 1_000_000);
  }

  private void add(List<FailingResults.One> some, List<Signature> theirs) {
    for (int i = 0; i < some.size(); i++) {
      FailingResults.One one = some.get(i);
      places.add(new Place(one.place(), one.testId(), number(theirs.get(i)), one.outcome()));
      tests.merge(GroupKey.ofTest(one.test()), Set.of(one.testId()), RunExplaining::both);
    }
  }

  private static Set<Integer> both(Set<Integer> some, Set<Integer> others) {
    if (some.containsAll(others)) {
      return some;
    }
    Set<Integer> all = new HashSet<>(some);
    all.addAll(others);
    return all;
  }

  private int number(Signature signature) {
    Integer known = numbers.get(signature);
    if (known != null) {
      return known;
    }
    Signature kept = signature;
    if (signatures.size() >= MOST_COMPARED) {
      notCompared++;
      kept = signatures.size() < MOST_APART ? signature.keyAlone() : Signature.further();
    }
    Integer next = signatures.size();
    Integer same = numbers.putIfAbsent(kept, next);
    if (same != null) {
      return same;
    }
    signatures.add(kept);
    return next;
  }

  /** Each by itself, and so on all cores; what comes of it has the order of the run. */
  private List<Signature> signed(Signer signer, List<FailingResults.One> some) {
    return some.parallelStream().map(one -> signed(signer, one)).toList();
  }

  /** A text that cannot be read is no reason to leave all the others unread. */
  private Signature signed(Signer signer, FailingResults.One one) {
    try {
      return signer.sign(one.test(), one.failures());
    } catch (RuntimeException | StackOverflowError e) {
      LOG.warn("a failure of run {}, place {}, cannot be read", runId, one.place(), e);
      return signer.sign(one.test(), List.of());
    }
  }

  /** Groups that would be new ones, and are some that there are. */
  private Map<String, Integer> kept(
      List<Signature> settled, Grouping.Result result, GroupRows groups) {
    if (!anew) {
      return Map.of();
    }
    KeptGroups kept = new KeptGroups(dsl, runId);
    Set<Integer> taken = new HashSet<>();
    for (Place one : places) {
      Grouping.Placed placed =
          Objects.requireNonNull(result.of().get(settled.get(one.signature).key()));
      if (placed.known() == null) {
        kept.add(placed.first().key(), one.place);
      } else {
        taken.add((int) placed.known().id());
      }
    }
    return kept.of(groups, taken);
  }

  /** The number of each group, by the key of its first signature. */
  private Map<String, Integer> enter(
      Grouping.Result result, GroupRows groups, Map<String, Integer> kept, Instant now) {
    Map<String, Integer> ids = new HashMap<>();
    Map<String, Signature> made = new LinkedHashMap<>();
    for (Grouping.Placed placed : result.of().values()) {
      String first = placed.first().key();
      Integer id = placed.known() != null ? (Integer) (int) placed.known().id() : kept.get(first);
      if (id == null) {
        made.putIfAbsent(first, placed.first());
      } else {
        ids.putIfAbsent(first, id);
      }
    }
    made.keySet().removeAll(ids.keySet());
    Iterator<Integer> next = groups.make(List.copyOf(made.values()), now).iterator();
    made.keySet().forEach(first -> ids.put(first, next.next()));
    Map<Integer, Signature> renewed = new LinkedHashMap<>();
    Map<Integer, Set<GroupKey>> keys = new LinkedHashMap<>();
    result
        .of()
        .values()
        .forEach(
            placed -> {
              String first = placed.first().key();
              Integer id = Objects.requireNonNull(ids.get(first));
              if (placed.joined() == Grouping.Joined.KEY) {
                renewed.putIfAbsent(id, placed.first());
              }
              Set<GroupKey> more = result.keys().get(first);
              if (more != null) {
                keys.computeIfAbsent(id, k -> new java.util.LinkedHashSet<>()).addAll(more);
              }
            });
    groups.add(keys);
    if (anew) {
      groups.behind(renewed.keySet()).stream()
          .sorted()
          .forEach(id -> groups.renew(id, Objects.requireNonNull(renewed.get(id))));
    }
    return ids;
  }

  /** Some of what the errors of each group look like. */
  private static Map<Integer, Set<String>> templates(
      List<Signature> settled, Grouping.Result result, Map<String, Integer> ids) {
    Map<Integer, Set<String>> templates = new LinkedHashMap<>();
    for (Signature one : settled) {
      Grouping.Placed placed = Objects.requireNonNull(result.of().get(one.key()));
      Integer id = Objects.requireNonNull(ids.get(placed.first().key()));
      Set<String> some = templates.computeIfAbsent(id, k -> new TreeSet<>());
      if (some.size() < TEMPLATES) {
        some.add(one.template());
      }
    }
    return templates;
  }

  private void failures(
      List<Signature> settled,
      Grouping.Result result,
      Map<String, Integer> ids,
      Stumbles stumbles) {
    Regroupings said = Regroupings.of(dsl, projectId);
    List<FailureRows.Row> rows = new ArrayList<>(places.size());
    for (Place one : places) {
      Signature signature = settled.get(one.signature);
      Grouping.Placed placed = Objects.requireNonNull(result.of().get(signature.key()));
      int found = Objects.requireNonNull(ids.get(placed.first().key()));
      int group = said.of(found, one.testId);
      stumbles.beside(signature, one.testId, group);
      rows.add(
          new FailureRows.Row(
              one.place,
              one.testId,
              group,
              found,
              placed.joined().code(),
              placed.carries(signature),
              one.outcome));
    }
    new FailureRows(dsl, runId).write(rows);
  }
}
