package org.vinecellar.store.triage;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.triage.rows.FailingResults;

/**
 * What the results of a run say that passed when they were tried again. They are in no failure
 * group; but a cause that many of them met tells nothing of any of them.
 */
final class Stumbles {
  /** More of one run are not told apart: they are the run's. */
  static final int MOST = 2_000;

  /** Of so many different errors of the run they may be the same. */
  private static final int MOST_ERRORS = 20_000;

  /** So many tests beside them are counted for one error. */
  private static final int MOST_BESIDE = 500;

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final List<One> all = new ArrayList<>();
  private final Map<Signature, Beside> failing = new HashMap<>();

  Stumbles(DSLContext dsl, int projectId, long runId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
  }

  private record One(int place, int testId, Signature signature) {}

  /** An error of those that failed in the end. */
  private record Beside(int group, Set<Integer> tests) {}

  /** One error, as the run knows it. */
  private static final class Cause {
    private final Set<Integer> tests = new HashSet<>();
    private @Nullable Integer group;
    private boolean passed;

    /** How many tests met it, each once in however many variants. */
    int reach(Map<Integer, Long> bases) {
      return (int) tests.stream().map(bases::get).distinct().count();
    }
  }

  void add(List<FailingResults.One> some, List<Signature> theirs) {
    for (int i = 0; i < some.size(); i++) {
      FailingResults.One one = some.get(i);
      all.add(new One(one.place(), one.testId(), theirs.get(i)));
    }
  }

  /** Another test of the run failed in the end, and says this. */
  void beside(Signature signature, int test, int group) {
    if (!all.isEmpty() && (failing.size() < MOST_ERRORS || failing.containsKey(signature))) {
      Set<Integer> tests =
          failing.computeIfAbsent(signature, k -> new Beside(group, new HashSet<>())).tests;
      if (tests.size() < MOST_BESIDE) {
        tests.add(test);
      }
    }
  }

  /** Keeps those that met what others met. */
  void write() {
    dsl.execute("delete from stumble where run_id = ?", runId);
    if (all.isEmpty()) {
      return;
    }
    List<Signature> settled = Grouping.settled(all.stream().map(One::signature).toList());
    List<Signature> both = new ArrayList<>(settled);
    both.addAll(failing.keySet());
    Grouping.Result result = Grouping.of(both, key -> List.of());
    Map<String, Cause> causes = new HashMap<>();
    failing.forEach(
        (signature, beside) -> {
          Cause cause = cause(causes, result, signature);
          cause.tests.addAll(beside.tests);
          cause.group = cause.group == null ? beside.group : cause.group;
        });
    for (int i = 0; i < settled.size(); i++) {
      Cause cause = cause(causes, result, settled.get(i));
      cause.tests.add(all.get(i).testId);
      cause.passed = true;
    }
    Map<Integer, Long> bases =
        bases(
            causes.values().stream()
                .filter(cause -> cause.passed && cause.tests.size() > 1)
                .flatMap(cause -> cause.tests.stream())
                .distinct()
                .toList());
    BatchBindStep batch =
        dsl.batch(
            "insert into stumble (run_id, place, group_id, reach, certain)"
                + " values (?, ?, ?::int, ?, ?)");
    for (int i = 0; i < settled.size(); i++) {
      Cause cause = cause(causes, result, settled.get(i));
      int reach = cause.reach(bases);
      if (reach > 1) {
        batch = batch.bind(runId, all.get(i).place, cause.group, reach, settled.get(i).strong());
      }
    }
    if (batch.size() > 0) {
      int[] unused = batch.execute();
    }
  }

  /** What is the same for all variants of a test. */
  private Map<Integer, Long> bases(Collection<Integer> tests) {
    Map<Integer, Long> bases = new HashMap<>();
    if (!tests.isEmpty()) {
      dsl.fetch(
              "select t.id, coalesce(t.base_low, t.key_low) from test t where t.project_id = ?"
                  + " and t.id = any(?)",
              projectId,
              Ids.of(tests))
          .forEach(row -> bases.put((Integer) row.get(0), (Long) row.get(1)));
    }
    return bases;
  }

  private static Cause cause(Map<String, Cause> causes, Grouping.Result result, Signature one) {
    String first = Objects.requireNonNull(result.of().get(one.key())).first().key();
    return causes.computeIfAbsent(first, k -> new Cause());
  }
}
