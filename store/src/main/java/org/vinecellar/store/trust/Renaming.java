package org.vinecellar.store.trust;

import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_FACTS;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.renames.Face;
import org.vinecellar.core.trust.renames.Matching;
import org.vinecellar.core.trust.renames.Reason;
import org.vinecellar.core.trust.renames.Succession;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;

/** Finds which tests of a stream go on under other names, at the first run that has those. */
final class Renaming {
  /** More at once are another stream under an old name. */
  private static final int MOST = 100_000;

  /** A test is recognised by the causes of so many of its latest failures. */
  private static final int CAUSES = 20;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final Instant now;

  Renaming(DSLContext dsl, int projectId, long streamId, Instant now) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
    this.now = now;
  }

  /** What was found of the tests that came with some runs is found anew, or not at all. */
  void forget(Collection<Long> runs) {
    dsl.execute(
        "delete from succession where project_id = ? and stream_id = ? and state in (1, 2)"
            + " and run_id = any(?)",
        projectId,
        streamId,
        Ids.of(runs));
  }

  /**
   * What has an old name of its own in a run that is at least as late as the new one was never
   * renamed.
   */
  void apart(long run) {
    dsl.execute(
        "delete from succession s where s.project_id = ? and s.stream_id = ? and s.state in (1, 2)"
            + " and exists (select 1 from result_row x where x.run_id = ?"
            + " and x.test_id = s.old_test_id) and exists (select 1 from run n, run r"
            + " where n.project_id = s.project_id and n.id = s.run_id"
            + " and r.project_id = s.project_id and r.id = ?"
            + " and (n.started_at, n.number) <= (r.started_at, r.number))",
        projectId,
        streamId,
        run,
        run);
  }

  /**
   * Looks at a run that has tests for the first time.
   *
   * @param before the run that it follows, which ran in the same environment if one did
   */
  void at(long run, long before) {
    List<Integer> came =
        dsl.fetch(
                "select test_id from test_in_stream where project_id = ? and main_run_id = ?"
                    + " and stream_id = ?",
                projectId,
                run,
                streamId)
            .getValues(0, Integer.class);
    if (came.isEmpty() || came.size() > MOST) {
      return;
    }
    Map<Integer, Double> old = order(before);
    Map<Integer, Double> here = order(run);
    Set<Integer> gone = new HashSet<>(old.keySet());
    gone.removeAll(here.keySet());
    came.removeIf(test -> !here.containsKey(test));
    if (gone.isEmpty() || came.isEmpty() || gone.size() > MOST) {
      return;
    }
    Set<Integer> both = new HashSet<>(old.keySet());
    both.retainAll(here.keySet());
    List<Succession> found =
        Matching.of(
            faces(gone, old, causes(gone, run)),
            faces(came, here, causesIn(run, came)),
            names(both),
            longs(old.keySet()),
            longs(here.keySet()));
    found.forEach(one -> enter(one, run));
  }

  private static List<Long> longs(Collection<Integer> numbers) {
    return numbers.stream().map(Integer::longValue).toList();
  }

  private void enter(Succession one, long run) {
    dsl.execute(
        "insert into succession (project_id, stream_id, old_test_id, new_test_id, run_id, state,"
            + " likely, reasons, made_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?::timestamptz)"
            + " on conflict do nothing",
        projectId,
        streamId,
        one.old(),
        one.now(),
        run,
        one.isSure() ? 1 : 2,
        one.likely(),
        one.reasons().stream().map(Reason::name).collect(Collectors.joining(" ")),
        Sql.utc(now));
  }

  /** The tests of a run in their order, with milliseconds; less than zero where none are told. */
  private Map<Integer, Double> order(long run) {
    Map<Integer, Double> order = new LinkedHashMap<>();
    for (Record row :
        dsl.fetch(
            "select test_id, duration_us from result where run_id = ? and kind = 0"
                + " and not superseded order by place",
            run)) {
      Long micros = row.get(1, Long.class);
      order.putIfAbsent(row.get(0, Integer.class), micros == null ? -1.0 : micros / 1000.0);
    }
    return order;
  }

  private List<String> names(Set<Integer> tests) {
    return dsl.fetch(
            "select distinct name from test where project_id = ? and id = any(?)",
            projectId,
            Ids.of(tests))
        .getValues(0, String.class);
  }

  private Map<Long, Set<Long>> causesIn(long run, Collection<Integer> tests) {
    Map<Long, Set<Long>> causes = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select test_id, group_id from failure where run_id = ? and test_id = any(?)",
            run,
            Ids.of(tests))) {
      causes
          .computeIfAbsent(row.get(0, Long.class), k -> new HashSet<>())
          .add(row.get(1, Long.class));
    }
    return causes;
  }

  /** Only a cause that few tests have tells one from another. */
  private Map<Long, Set<Long>> causes(Set<Integer> gone, long run) {
    Map<Long, Set<Long>> causes = new HashMap<>();
    if (!dsl.fetchSingle(
            "select failed + errored > 0 from run where project_id = ? and id = ?", projectId, run)
        .get(0, Boolean.class)) {
      return causes;
    }
    for (Record row :
        dsl.fetch(
            "select f.test_id, f.group_id from (select unnest(?) as id) t cross join lateral"
                + " (select f.test_id, f.group_id from failure f where f.test_id = t.id"
                + " order by f.run_id desc limit ?) f join failure_group g on g.project_id = ?"
                + " and g.id = f.group_id and g.tests <= 3",
            Ids.of(gone),
            CAUSES,
            projectId)) {
      causes
          .computeIfAbsent(row.get(0, Long.class), k -> new HashSet<>())
          .add(row.get(1, Long.class));
    }
    return causes;
  }

  private List<Face> faces(
      Collection<Integer> tests, Map<Integer, Double> millis, Map<Long, Set<Long>> causes) {
    List<Record> rows =
        List.copyOf(
            dsl.select(KeptTests.FIELDS)
                .select(TEST_FACTS.SOURCE_FILE)
                .from(TEST)
                .leftJoin(TEST_FACTS)
                .on(TEST_FACTS.TEST_ID.eq(TEST.ID), TEST_FACTS.VERSION.eq(TEST.FACTS))
                .where(
                    TEST.PROJECT_ID.eq(projectId),
                    DSL.condition("{0} = any({1})", TEST.ID, Ids.of(tests)))
                .orderBy(TEST.ID)
                .fetch());
    KeptTests kept = new KeptTests(dsl, projectId, rows);
    List<Face> faces = new ArrayList<>(rows.size());
    for (Record row : rows) {
      KeptTest test = kept.of(row);
      faces.add(
          new Face(
              test.id(),
              test.suite(),
              test.name(),
              test.parameters(),
              test.variant(),
              row.get(TEST_FACTS.SOURCE_FILE),
              millis.getOrDefault((int) test.id(), -1.0),
              causes.getOrDefault(test.id(), Set.of())));
    }
    return faces;
  }

  /** As it was kept. */
  static List<Reason> reasons(@Nullable String words) {
    return words == null || words.isEmpty()
        ? List.of()
        : Arrays.stream(words.split(" ")).map(Reason::valueOf).toList();
  }
}
