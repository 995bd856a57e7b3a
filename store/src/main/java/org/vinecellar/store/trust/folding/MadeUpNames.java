package org.vinecellar.store.trust.folding;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.renames.MadeUp;
import org.vinecellar.store.sql.Ids;

/** Recognises the made-up names of a stream, and folds those of which people said so. */
public final class MadeUpNames {
  private static final int FETCHED = 10_000;

  /** More that come at once are another stream under an old name. */
  private static final int MOST = 60_000;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;

  /** Of a stream that nobody else learns from. */
  public MadeUpNames(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
  }

  /** Cases that could be of one test: in a suite, in a variant. */
  record Key(int suite, int variant, MadeUp.Family family) {}

  private record Case(int test, Key key, int run) {}

  /** What is known of some cases. */
  private static final class Seen {
    private final Map<Integer, Integer> brought = new HashMap<>();
    private final List<Integer> earlier = new ArrayList<>();
  }

  /** What was recognised at some runs, and nobody spoke of, is recognised anew, or not at all. */
  public void forget(Collection<Long> runs) {
    dsl.execute(
        "delete from made_up where project_id = ? and stream_id = ? and run_id = any(?)"
            + " and said_at is null",
        projectId,
        streamId,
        Ids.of(runs));
  }

  /** The same, of all runs. */
  public void forgetAll() {
    dsl.execute(
        "delete from made_up where project_id = ? and stream_id = ? and said_at is null",
        projectId,
        streamId);
  }

  /**
   * Looks at the tests that came with a run.
   *
   * @return those that go on as what they are folded under
   */
  public Set<Integer> at(long run) {
    List<Integer> came =
        dsl.fetch(
                "select test_id from test_in_stream where project_id = ? and stream_id = ?"
                    + " and first_run_id = ? limit ?",
                projectId,
                streamId,
                run,
                MOST)
            .getValues(0, Integer.class);
    Map<Key, Integer> folded = folded();
    if (came.size() < MadeUp.SOME && (folded.isEmpty() || came.isEmpty())) {
      return Set.of();
    }
    Map<Key, List<Integer>> families = new HashMap<>();
    for (Case one : cases(came)) {
      families.computeIfAbsent(one.key, k -> new ArrayList<>()).add(one.test);
    }
    Set<Integer> gone = new HashSet<>();
    folded.forEach(
        (key, into) -> {
          List<Integer> cases = families.remove(key);
          if (cases != null) {
            gone.addAll(cases);
            Folding.join(dsl, projectId, streamId, into, cases);
            Folding.enter(dsl, projectId, streamId, into, run);
          }
        });
    families.values().removeIf(cases -> cases.size() < MadeUp.SOME);
    if (!families.isEmpty()) {
      recognise(run, families.keySet());
    }
    return gone;
  }

  /** With the test that each is folded under. */
  private Map<Key, Integer> folded() {
    Map<Key, Integer> folded = new HashMap<>();
    dsl.fetch(
            "select suite_id::int, variant_id::int, name, parameters, test_id::int from made_up"
                + " where project_id = ? and stream_id = ? and test_id is not null",
            projectId,
            streamId)
        .forEach(row -> folded.put(key(row), row.get(4, Integer.class)));
    return folded;
  }

  static Key key(Record row) {
    return new Key(
        row.get(0, Integer.class),
        row.get(1, Integer.class),
        new MadeUp.Family(row.get(2, String.class), row.get(3, String.class)));
  }

  private List<Case> cases(Collection<Integer> tests) {
    return dsl
        .fetch(
            "select id::int, coalesce(suite_id, 0)::int, coalesce(variant_id, 0)::int, name,"
                + " parameters, 0 from test where project_id = ? and id = any(?)",
            projectId,
            Ids.of(tests))
        .stream()
        .flatMap(row -> Stream.ofNullable(caseOf(row)))
        .toList();
  }

  /** Null for a test whose name could not be made up. */
  private static @Nullable Case caseOf(Record row) {
    MadeUp.Family family =
        MadeUp.family((String) Objects.requireNonNull(row.get(3)), (String) row.get(4));
    return family == null
        ? null
        : new Case(
            (Integer) row.get(0),
            new Key((Integer) row.get(1), (Integer) row.get(2), family),
            (Integer) row.get(5));
  }

  /** Looks at all that a stream has had in their suites. */
  private void recognise(long run, Set<Key> keys) {
    Map<Key, Seen> seen = new HashMap<>();
    each(
        keys,
        one -> {
          Seen family = seen.computeIfAbsent(one.key, k -> new Seen());
          family.brought.merge(one.run, 1, Integer::sum);
          if (one.run != run) {
            family.earlier.add(one.test);
          }
        });
    seen.forEach(
        (key, family) -> {
          Map<Integer, Integer> brought = family.brought;
          if (MadeUp.are(brought.values(), family.earlier.size(), again(run, family.earlier))) {
            enter(run, key, brought.values().stream().mapToInt(Integer::intValue).sum());
          }
        });
  }

  /** How many of some tests a run has. */
  private int again(long run, Collection<Integer> tests) {
    return dsl.fetchSingle(
            "select count(distinct test_id)::int from result_row where run_id = ?"
                + " and test_id = any(?)",
            run,
            Ids.of(tests))
        .get(0, Integer.class);
  }

  private void each(Set<Key> keys, Consumer<Case> consumer) {
    Set<Integer> suites = keys.stream().map(Key::suite).collect(Collectors.toSet());
    try (Cursor<Record> rows =
        dsl.resultQuery(
                "select t.id::int, coalesce(t.suite_id, 0)::int, coalesce(t.variant_id, 0)::int,"
                    + " t.name, t.parameters, s.first_run_id::int from test_in_stream s join test t"
                    + " on t.project_id = s.project_id and t.id = s.test_id where s.project_id = ?"
                    + " and s.stream_id = ? and coalesce(t.suite_id, 0) = any(?)",
                projectId,
                streamId,
                Ids.of(suites))
            .fetchSize(FETCHED)
            .fetchLazy()) {
      for (Record row : rows) {
        Case one = caseOf(row);
        if (one != null && keys.contains(one.key)) {
          consumer.accept(one);
        }
      }
    }
  }

  /** All cases that a stream has had. */
  List<Integer> of(Key key) {
    List<Integer> tests = new ArrayList<>();
    each(Set.of(key), one -> tests.add(one.test));
    return tests;
  }

  private void enter(long run, Key key, int cases) {
    int known =
        dsl.execute(
            "update made_up set cases = ? where project_id = ? and stream_id = ? and suite_id = ?"
                + " and variant_id = ? and name = ? and parameters is not distinct from ?",
            cases,
            projectId,
            streamId,
            key.suite,
            key.variant,
            key.family.name(),
            key.family.parameters());
    if (known == 0) {
      dsl.execute(
          "insert into made_up (project_id, stream_id, suite_id, variant_id, name, parameters,"
              + " cases, run_id) values (?, ?, ?, ?, ?, ?, ?, ?)",
          projectId,
          streamId,
          key.suite,
          key.variant,
          key.family.name(),
          key.family.parameters(),
          cases,
          run);
    }
  }
}
