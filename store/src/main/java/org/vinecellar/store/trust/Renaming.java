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
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.AuthorId;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.renames.ById;
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
  private static final int MOST = 60_000;

  /** Tests of so large runs are not compared. */
  private static final int LARGE = 200_000;

  private static final int FETCHED = 10_000;

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
   * @param earlier the run that it follows, which ran in the same environment if one did, and those
   *     before that one, the latest first
   * @param folded tests that go on as others already
   */
  void at(long run, List<Long> earlier, Set<Integer> folded) {
    long before = earlier.get(0);
    List<Integer> came =
        dsl.fetch(
                "select test_id from test_in_stream where project_id = ? and main_run_id = ?"
                    + " and stream_id = ? limit ?",
                projectId,
                run,
                streamId,
                MOST + 1)
            .getValues(0, Integer.class);
    if (came.isEmpty() || came.size() > MOST || isLarge(run) || isLarge(before)) {
      return;
    }
    Set<Integer> paired = byId(run, came);
    came.removeAll(paired);
    came.removeAll(folded);
    if (came.isEmpty()) {
      // As in each run of a folded test: nothing is left to compare.
      return;
    }
    Map<Integer, Double> old = order(before);
    Map<Integer, Double> here = order(run);
    old.putAll(notReached(old.keySet(), earlier.subList(1, earlier.size())));
    Set<Integer> gone = new HashSet<>(old.keySet());
    gone.removeAll(here.keySet());
    gone.removeAll(paired);
    came.removeIf(test -> !here.containsKey(test));
    if (gone.isEmpty() || came.isEmpty() || gone.size() > MOST) {
      return;
    }
    gone.removeAll(joined(gone));
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

  /**
   * What its author gave an ID is the same test under whatever name, however long it was away.
   *
   * @return old and new ones that were found
   */
  private Set<Integer> byId(long run, List<Integer> came) {
    Set<Integer> paired = new HashSet<>();
    Map<Integer, String> news = authorIds(came);
    if (news.isEmpty()) {
      return paired;
    }
    List<Integer> olds =
        dsl.fetch(
                "select distinct o.test_id from test_tag o join test_in_stream s"
                    + " on s.project_id = o.project_id and s.stream_id = ?"
                    + " and s.test_id = o.test_id and s.main_run_id is not null"
                    + " where o.project_id = ? and o.tag = any(?)"
                    + " and not exists (select 1 from result_row x where x.run_id = ?"
                    + " and x.test_id = o.test_id)"
                    + " and not exists (select 1 from succession j where j.project_id = ?"
                    + " and j.stream_id = ? and j.old_test_id = o.test_id and j.state in (1, 3))"
                    + " limit ?",
                streamId,
                projectId,
                news.values().stream().distinct().toArray(String[]::new),
                run,
                projectId,
                streamId,
                MOST)
            .getValues(0, Integer.class);
    olds.removeAll(came);
    List<Succession> found =
        ById.of(faces(olds, Map.of(), Map.of()), faces(news.keySet(), Map.of(), Map.of()));
    for (Succession one : found) {
      enter(one, run);
      paired.add((int) one.old());
      paired.add((int) one.now());
    }
    return paired;
  }

  /** Those that have one. */
  private Map<Integer, String> authorIds(Collection<Integer> tests) {
    Map<Integer, Set<String>> tags = new HashMap<>();
    if (!tests.isEmpty()) {
      dsl.fetch(
              "select g.test_id, g.tag from test_tag g join test t on t.project_id = g.project_id"
                  + " and t.id = g.test_id where g.test_id = any(?) and g.project_id = ?"
                  + " and g.tag like 'id:%' and (g.version = 0 or g.version = t.facts)",
              Ids.of(tests), projectId)
          .forEach(
              row ->
                  tags.computeIfAbsent(row.get(0, Integer.class), k -> new HashSet<>())
                      .add(row.get(1, String.class)));
    }
    Map<Integer, String> ids = new HashMap<>();
    tags.forEach((test, all) -> AuthorId.of(all).ifPresent(id -> ids.put(test, id)));
    return ids;
  }

  private boolean isLarge(long run) {
    return dsl.fetchSingle(
            "select passed + failed + errored + skipped > ? from run where project_id = ?"
                + " and id = ?",
            LARGE,
            projectId,
            run)
        .get(0, Boolean.class);
  }

  /** Tests of some runs in whose suites the one after them ran none: they were not taken away. */
  private Map<Integer, Double> notReached(Set<Integer> next, List<Long> runs) {
    Map<Integer, Double> more = new LinkedHashMap<>();
    for (long run : runs) {
      if (!isLarge(run)) {
        order(run).forEach(more::putIfAbsent);
      }
    }
    more.keySet().removeAll(next);
    if (!more.isEmpty()) {
      Map<Integer, Integer> suites = suites(more.keySet());
      Set<Integer> ran = new HashSet<>(suites(next).values());
      more.keySet().removeIf(test -> ran.contains(suites.get(test)));
    }
    return more;
  }

  private Map<Integer, Integer> suites(Set<Integer> tests) {
    return dsl.fetch(
            "select id, coalesce(suite_id, 0) from test where project_id = ? and id = any(?)",
            projectId,
            Ids.of(tests))
        .intoMap(row -> (Integer) row.get(0), row -> (Integer) row.get(1));
  }

  /** Those of some tests that go on under other names already. */
  private List<Integer> joined(Set<Integer> tests) {
    return dsl.fetch(
            "select old_test_id from succession where project_id = ? and stream_id = ?"
                + " and state in (1, 3) and old_test_id = any(?)",
            projectId,
            streamId,
            Ids.of(tests))
        .getValues(0, Integer.class);
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
    try (Cursor<Record> rows =
        dsl.resultQuery(
                "select test_id, duration_us / 1e3::float8 from result where run_id = ?"
                    + " and kind = 0 and not superseded order by place",
                run)
            .fetchSize(FETCHED)
            .fetchLazy()) {
      for (Record row : rows) {
        Double millis = (Double) row.get(1);
        order.putIfAbsent((Integer) row.get(0), millis == null ? -1.0 : millis);
      }
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
    Map<Integer, String> ids = authorIds(tests);
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
              ids.get((int) test.id()),
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
