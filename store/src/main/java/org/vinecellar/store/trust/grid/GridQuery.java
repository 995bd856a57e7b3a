package org.vinecellar.store.trust.grid;

import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.triage.desk.Title;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.trust.grid.Grid;
import org.vinecellar.core.trust.grid.GridStore.Question;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.trust.Lineage;

/** One look at tests by runs. */
final class GridQuery {
  private final DSLContext dsl;
  private final int projectId;

  GridQuery(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Optional<Grid> grid(Question asked) {
    Record stream =
        dsl.fetchOne(
            "select m.id, r.id as run_id, r.started_at, r.number from stream m left join run r"
                + " on r.project_id = m.project_id and r.stream_id = m.id and r.number = ?::int"
                + " where m.project_id = ? and m.name = ? and m.deleted_at is null",
            asked.run(),
            projectId,
            asked.stream());
    if (stream == null || (asked.run() != null && stream.get("run_id") == null)) {
      return Optional.empty();
    }
    long id = stream.get("id", Long.class);
    List<Grid.Run> runs =
        runs(id, asked, stream.get("started_at", OffsetDateTime.class), asked.run());
    Lineage lineage = Lineage.of(dsl, projectId, id);
    List<Integer> shown = tests(id, asked, runs, stream.get("run_id", Long.class), lineage);
    boolean more = shown.size() > asked.tests();
    List<Integer> tests = more ? shown.subList(0, asked.tests()) : shown;
    Map<Integer, Cells> cells = cells(runs, tests, lineage);
    Map<Long, KeptTest> kept = KeptTests.byNumber(dsl, projectId, tests);
    Set<Long> groups = new HashSet<>();
    List<Grid.Row> rows = new ArrayList<>();
    for (int test : tests) {
      KeptTest one = kept.get((long) test);
      Cells here = cells.getOrDefault(test, new Cells(runs.size()));
      if (one != null) {
        Grid.Row row = here.row(one);
        rows.add(row);
        groups.addAll(row.groups());
      }
    }
    return Optional.of(new Grid(runs, rows, titles(groups), more));
  }

  private List<Grid.Run> runs(
      long stream, Question asked, @Nullable OffsetDateTime started, @Nullable Integer number) {
    List<Grid.Run> runs = new ArrayList<>();
    for (Record row :
        dsl.fetch(
            "select r.id, r.number, r.started_at, r.commit_id, r.branch from run r"
                + " where r.project_id = ? and r.stream_id = ? and r.number is not null"
                + " and (?::text is null or r.branch = ?) and (?::timestamptz is null"
                + " or (r.started_at, r.number) <= (?::timestamptz, ?::int))"
                + " order by r.started_at desc, r.number desc limit ?",
            projectId,
            stream,
            asked.branch(),
            asked.branch(),
            started,
            started,
            number,
            asked.runs())) {
      runs.add(
          new Grid.Run(
              row.get("id", Long.class),
              row.get("number", Integer.class),
              row.get("started_at", OffsetDateTime.class).toInstant(),
              row.get("commit_id", String.class),
              row.get("branch", String.class)));
    }
    Collections.reverse(runs);
    return runs;
  }

  /** Under the names that they have now, one more than are asked for if there are. */
  private List<Integer> tests(
      long stream, Question asked, List<Grid.Run> runs, @Nullable Long run, Lineage lineage) {
    Set<Integer> tests = new LinkedHashSet<>();
    // Those that were renamed are found under each of their names.
    int limit = 2 * asked.tests() + 1;
    for (Record row :
        dsl.resultQuery(
                "with bad as (select f.test_id, count(distinct f.run_id) as times from failure f"
                    + " where f.run_id = any({0}) group by f.test_id)"
                    + " select test.id, coalesce(b.times, 0) as times from test"
                    + " left join bad b on b.test_id = test.id where test.project_id = {1}"
                    + " and exists (select 1 from test_in_stream x where x.project_id = {1}"
                    + " and x.stream_id = {2} and x.test_id = test.id)"
                    + " and ({3}::int is null or test.id in (select f.test_id from failure f"
                    + " where f.run_id = {3}::int)) and ({4})"
                    + " order by times desc, test.suite_id, test.id limit {5}",
                ids(runs),
                DSL.val(projectId),
                DSL.val(stream),
                DSL.val(run),
                Conditions.ofTests(projectId, asked.filter()),
                DSL.val(limit))
            .fetch()) {
      tests.add(lineage.latest(row.get(0, Integer.class)));
    }
    List<Integer> all = List.copyOf(tests);
    return all.size() > asked.tests() ? all.subList(0, asked.tests() + 1) : all;
  }

  private static Field<Integer[]> ids(List<Grid.Run> runs) {
    return Ids.of(runs.stream().map(Grid.Run::id).toList());
  }

  /** What a test did, while it is put together. */
  private static final class Cells {
    private static final String SIGNS = "+FEsn";
    final char[] signs;
    final long[] groups;

    Cells(int runs) {
      signs = new char[runs];
      Arrays.fill(signs, '.');
      groups = new long[runs];
    }

    /** Of several in one run, the worst is told. */
    void add(int run, Outcome outcome, boolean stumbled, @Nullable Long group) {
      char sign = outcome == Outcome.PASSED && stumbled ? 'r' : SIGNS.charAt(outcome.code());
      if (signs[run] == '.' || badness(sign) > badness(signs[run])) {
        signs[run] = sign;
        groups[run] = group == null ? 0 : group;
      }
    }

    private static int badness(char sign) {
      return ".+snrFE".indexOf(sign);
    }

    Grid.Row row(KeptTest test) {
      List<Long> failing = new ArrayList<>();
      for (int run = 0; run < signs.length; run++) {
        if (signs[run] == 'F' || signs[run] == 'E') {
          failing.add(groups[run]);
        }
      }
      return new Grid.Row(test, new String(signs), failing);
    }
  }

  private Map<Integer, Cells> cells(List<Grid.Run> runs, List<Integer> tests, Lineage lineage) {
    Map<Long, Integer> at = new HashMap<>();
    runs.forEach(run -> at.put(run.id(), at.size()));
    Map<Integer, Cells> cells = new HashMap<>();
    for (Record row :
        dsl.resultQuery(
                "select r.run_id, r.test_id, r.outcome, r.stumbled, f.group_id from result r"
                    + " left join failure f on f.run_id = r.run_id and f.place = r.place"
                    + " where r.run_id = any({0}) and r.test_id = any({1}) and not r.superseded"
                    + " and r.kind = 0",
                ids(runs), Ids.of(lineage.withEarlier(tests)))
            .fetch()) {
      cells
          .computeIfAbsent(
              lineage.latest(row.get(1, Integer.class)), test -> new Cells(runs.size()))
          .add(
              Objects.requireNonNull(at.get(row.get(0, Long.class))),
              Outcome.ofCode(row.get(2, Integer.class)),
              row.get(3, Boolean.class),
              row.get(4, Long.class));
    }
    return cells;
  }

  private Map<Long, Title> titles(Set<Long> groups) {
    Map<Long, Title> titles = new HashMap<>();
    dsl.fetch(
            "select id, kind, sentence, template from failure_group where project_id = ?"
                + " and id = any(?)",
            projectId,
            Ids.of(groups))
        .forEach(
            row ->
                titles.put(
                    row.get(0, Long.class),
                    Title.of(
                        KeyKind.ofCode(row.get(1, Integer.class)),
                        row.get(2, String.class),
                        row.get(3, String.class))));
    return titles;
  }
}
