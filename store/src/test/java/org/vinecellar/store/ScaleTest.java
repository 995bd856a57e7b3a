package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.SuiteNode;

/** A run of many thousand results in nested suites and several parts: every number adds up. */
class ScaleTest {
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String STREAM = "fares/nightly";
  private static final int PARTS = 3;
  private static final int TESTS = 7_000;

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);
  private final Map<String, Outcome> expected = new HashMap<>();

  /** Suites of two levels; every part has some suites of its own and some that others have, too. */
  private String part(int part, Random random) {
    Map<String, Map<String, StringBuilder>> suites = new TreeMap<>();
    for (int i = 0; i < TESTS; i++) {
      String outer = i % 5 == 0 ? "shared" : "part" + part;
      String inner = "s" + i % 70;
      String name = "t" + part + "-" + i;
      int roll = random.nextInt(100);
      Outcome outcome =
          roll < 2
              ? Outcome.FAILED
              : roll < 3 ? Outcome.ERRORED : roll < 6 ? Outcome.SKIPPED : Outcome.PASSED;
      expected.put(outer + "/" + inner + "/" + name, outcome);
      suites
          .computeIfAbsent(outer, o -> new TreeMap<>())
          .computeIfAbsent(inner, o -> new StringBuilder())
          .append("<testcase name='")
          .append(name)
          .append("'>")
          .append(
              switch (outcome) {
                case FAILED -> "<failure message='m'/>";
                case ERRORED -> "<error message='e'/>";
                case SKIPPED -> "<skipped/>";
                default -> "";
              })
          .append("</testcase>");
    }
    StringBuilder xml = new StringBuilder("<testsuites>");
    suites.forEach(
        (outer, inners) -> {
          xml.append("<testsuite name='").append(outer).append("'>");
          inners.forEach(
              (inner, cases) ->
                  xml.append("<testsuite name='")
                      .append(inner)
                      .append("'>")
                      .append(cases)
                      .append("</testsuite>"));
          xml.append("</testsuite>");
        });
    return xml.append("</testsuites>").toString();
  }

  @Test
  void listsTreesAndCountsAgree() {
    Random random = new Random(11);
    for (int part = 0; part < PARTS; part++) {
      uploads.send(STREAM, "one", part(part, random));
    }
    RunSummary run = stores.runs().run(uploads.project(), STREAM, 1).orElseThrow();
    Map<Outcome, Integer> byOutcome = new HashMap<>();
    expected.values().forEach(outcome -> byOutcome.merge(outcome, 1, Integer::sum));
    same(run.counts(), byOutcome);

    List<ResultRow> listed = all(run, Criterion.EVERYTHING);
    Map<String, Outcome> seen = new HashMap<>();
    for (ResultRow row : listed) {
      String key = String.join("/", row.test().suite()) + "/" + row.test().name();
      assertThat(seen.put(key, row.outcome())).as("%s comes once", key).isNull();
    }
    assertThat(seen).isEqualTo(expected);
    assertThat(listed)
        .as("what is wrong comes first")
        .isSortedAccordingTo(Comparator.comparing(row -> !wrong(row.outcome())));

    Criterion failed = Resolver.read("outcome eq \"failed\"", Thing.RESULT, NOW);
    assertThat(all(run, failed))
        .hasSize(byOutcome.getOrDefault(Outcome.FAILED, 0))
        .allMatch(row -> row.outcome() == Outcome.FAILED);

    for (Criterion filter : List.of(Criterion.EVERYTHING, failed)) {
      List<SuiteNode> outer = stores.runs().suites(uploads.project(), run.id(), null, filter);
      assertThat(outer).extracting(SuiteNode::name).contains("shared", "part0", "part1", "part2");
      int tests = 0;
      for (SuiteNode one : outer) {
        int inside = 0;
        for (SuiteNode inner :
            stores.runs().suites(uploads.project(), run.id(), one.id(), filter)) {
          long wanted =
              expected.entrySet().stream()
                  .filter(e -> e.getKey().startsWith(one.name() + "/" + inner.name() + "/"))
                  .filter(e -> filter == Criterion.EVERYTHING || e.getValue() == Outcome.FAILED)
                  .count();
          assertThat(inner.counts().tests()).isEqualTo((int) wanted);
          inside += inner.counts().tests();
        }
        assertThat(one.counts().tests()).as(one.name()).isEqualTo(inside);
        tests += inside;
      }
      assertThat(tests)
          .isEqualTo(
              filter == Criterion.EVERYTHING
                  ? expected.size()
                  : byOutcome.getOrDefault(Outcome.FAILED, 0));
    }
  }

  private List<ResultRow> all(RunSummary run, Criterion filter) {
    List<ResultRow> all = new ArrayList<>();
    Optional<ResultCursor> from = Optional.empty();
    List<ResultRow> page;
    do {
      page =
          stores
              .runs()
              .results(uploads.project(), run.id(), new ResultQuery(filter, null, from, 900));
      all.addAll(page);
      from = page.isEmpty() ? from : Optional.of(end(page.get(page.size() - 1)));
    } while (page.size() == 900);
    return all;
  }

  private static ResultCursor end(ResultRow last) {
    return new ResultCursor(wrong(last.outcome()), last.id());
  }

  private static boolean wrong(Outcome outcome) {
    return outcome == Outcome.FAILED || outcome == Outcome.ERRORED;
  }

  private static void same(Counts counts, Map<Outcome, Integer> byOutcome) {
    assertThat(counts.passed()).isEqualTo(byOutcome.get(Outcome.PASSED));
    assertThat(counts.failed()).isEqualTo(byOutcome.getOrDefault(Outcome.FAILED, 0));
    assertThat(counts.errored()).isEqualTo(byOutcome.get(Outcome.ERRORED));
    assertThat(counts.skipped()).isEqualTo(byOutcome.get(Outcome.SKIPPED));
    assertThat(counts.tests()).isEqualTo(PARTS * TESTS);
  }
}
