package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.vinecellar.store.TestUploads.suite;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.SuiteNode;

/** What is found of runs, compared with what a plain look at all results would find. */
class RunQueriesTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String STREAM = "fares/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private TestUploads uploads;
  private RunStore runs;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    runs = stores.runs();
  }

  private RunSummary run(int number) {
    return runs.run(uploads.project(), STREAM, number).orElseThrow();
  }

  private List<ResultRow> find(int number, ResultQuery query) {
    return runs.results(uploads.project(), run(number).id(), query);
  }

  private static ResultQuery query(String filter) {
    return new ResultQuery(Resolver.read(filter, Thing.RESULT, NOW), null, Optional.empty(), 500);
  }

  /** Suites of random tests with random outcomes, as one file each. */
  private static String[] random(Random random) {
    String[] files = new String[1 + random.nextInt(3)];
    for (int f = 0; f < files.length; f++) {
      StringBuilder suites = new StringBuilder("<testsuites>");
      for (int s = 0; s < 3; s++) {
        int cases = random.nextInt(12);
        StringBuilder words = new StringBuilder();
        for (int c = 0; c < cases; c++) {
          words.append(c == 0 ? "" : " ").append("test").append(c).append(':');
          words.append("PPPPFES".charAt(random.nextInt(7)));
        }
        // Now and then the set-up fails, and with it everything in the suite.
        suites.append(suite("S" + f + s, random.nextInt(6) == 0 ? ":X" : words.toString()));
      }
      files[f] = suites.append(suite("Last", "one:P")).append("</testsuites>").toString();
    }
    return files;
  }

  @RepeatedTest(12)
  void filtersFindWhatAPlainLookFindsAndPagesTheSameInOrder(RepetitionInfo info) {
    Random random = new Random(info.getCurrentRepetition());
    uploads.send(STREAM, "one", random(random));
    uploads.send(STREAM, "two", random(random));
    List<ResultRow> all = find(2, ResultQuery.first(500));

    for (Outcome outcome : Outcome.values()) {
      same(all, query("outcome eq \"" + outcome.word() + "\""), row -> is(row, outcome));
    }
    same(
        all,
        query("outcome eq \"failed\" or outcome eq \"errored\""),
        row -> row.outcome().isFailing() && row.kind() == ResultKind.TEST);
    same(all, query("setUp eq true"), row -> row.kind() == ResultKind.SETUP);
    for (Change change : Change.values()) {
      if (change != Change.GONE) {
        same(all, query("change eq \"" + change.word() + "\""), row -> row.change() == change);
      }
    }
    same(all, query("text co \"test1\""), row -> row.test().name().contains("test1"));
    same(all, query("text co \"s01\""), row -> row.test().suite().contains("S01"));
    same(
        all,
        query("outcome eq \"failed\" and text co \"WRONG TEST2\""),
        row -> "wrong test2".equals(row.firstLine()));
    assertThat(paged(2, 1 + random.nextInt(7))).isEqualTo(all);
  }

  private static boolean is(ResultRow row, Outcome outcome) {
    return row.kind() == ResultKind.TEST && row.outcome() == outcome;
  }

  private void same(List<ResultRow> all, ResultQuery query, Predicate<ResultRow> wanted) {
    List<ResultRow> plain = all.stream().filter(wanted).toList();
    assertThat(find(2, query)).as("%s", query).isEqualTo(plain);
    long inSuites = plain.stream().filter(row -> !row.test().suite().isEmpty()).count();
    assertThat(
            runs.suites(uploads.project(), run(2).id(), null, query.filter()).stream()
                .mapToInt(suite -> suite.counts().tests() + suite.counts().setUps())
                .sum())
        .as("in suites: %s", query)
        .isEqualTo(inSuites);
  }

  private List<ResultRow> paged(int number, int size) {
    List<ResultRow> rows = new ArrayList<>();
    Optional<ResultCursor> after = Optional.empty();
    while (true) {
      List<ResultRow> page = find(number, new ResultQuery(Criterion.EVERYTHING, null, after, size));
      rows.addAll(page);
      if (page.size() < size) {
        return rows;
      }
      ResultRow last = page.get(size - 1);
      after = Optional.of(new ResultCursor(last.outcome().isFailing(), last.id()));
    }
  }

  @RepeatedTest(8)
  void countsOfRunSuitesAndChangesAgreeWithTheResults(RepetitionInfo info) {
    Random random = new Random(100 + info.getCurrentRepetition());
    uploads.send(STREAM, "one", random(random));
    overruleSome(1, random);
    uploads.send(STREAM, "two", random(random));
    overruleSome(2, random);
    overruleSome(1, random);
    uploads.send(STREAM, "two", random(random));
    uploads.send(STREAM, "two", random(random));
    overruleSome(2, random);
    uploads.send(STREAM, "two", suite("Other", "x:P y:F"));
    TestDatabase.work(stores);
    for (int number = 1; number <= 2; number++) {
      List<ResultRow> all = find(number, ResultQuery.first(500));
      Counts counts = run(number).counts();

      assertThat(counts.setUps())
          .isEqualTo((int) all.stream().filter(row -> row.kind() == ResultKind.SETUP).count());
      assertThat(counts.tests() + counts.setUps()).isEqualTo(all.size());
      for (Outcome outcome : Outcome.values()) {
        long rows = all.stream().filter(row -> is(row, outcome)).count();
        assertThat(of(counts, outcome)).as("%s in #%d", outcome, number).isEqualTo(rows);
      }
      long overruled = all.stream().filter(row -> row.reported() != null).count();
      assertThat(run(number).overruled()).isEqualTo((int) overruled);
      assertThat(find(number, query("overruled eq true"))).hasSize((int) overruled);
      Counts bySuites =
          suites(number, null).stream().map(SuiteNode::counts).reduce(Counts.NONE, Counts::plus);
      assertThat(bySuites).isEqualTo(counts);
      long newFailing = all.stream().filter(row -> row.change() == Change.NEW_FAILING).count();
      assertThat(run(number).changes().newFailing()).isEqualTo(newFailing);
    }
    Set<Long> now =
        find(2, ResultQuery.first(500)).stream()
            .map(row -> now(row.test().id()))
            .collect(Collectors.toSet());
    Set<Long> missing =
        find(1, ResultQuery.first(500)).stream()
            .filter(row -> row.kind() == ResultKind.TEST)
            .map(row -> row.test().id())
            // Some were renamed, as it happens.
            .filter(test -> !now.contains(now(test)))
            .collect(Collectors.toSet());
    List<ResultRow> partByPart = find(2, ResultQuery.first(500));
    ChangeCounts open = run(2).changes();
    stores.ingest().closeSilentRuns(java.time.Duration.ZERO, NOW.plusSeconds(1));
    assertThat(find(2, ResultQuery.first(500)))
        .as("changes told part by part are those of the whole")
        .isEqualTo(partByPart);
    assertThat(run(2).changes().add(Change.GONE, -missing.size())).isEqualTo(open);
    assertThat(run(2).changes().gone()).isEqualTo(missing.size());
    assertThat(runs.gone(uploads.project(), run(2).id(), Criterion.EVERYTHING, 500))
        .extracting(KeptTest::id)
        .containsExactlyInAnyOrderElementsOf(missing);
  }

  private long now(long test) {
    return STORE.number(
        "select coalesce(max(now_test_id), "
            + test
            + ") from earlier_name where test_id = "
            + test);
  }

  private void overruleSome(int number, Random random) {
    long run = run(number).id();
    for (ResultRow row : find(number, ResultQuery.first(500))) {
      if (random.nextInt(8) == 0 && row.kind() == ResultKind.TEST) {
        Outcome wanted = Outcome.values()[random.nextInt(5)];
        boolean back = row.reported() != null && random.nextBoolean();
        if (back || wanted != row.outcome()) {
          stores
              .edits()
              .overrule(
                  uploads.project(),
                  run,
                  row.id(),
                  row.outcome(),
                  back ? null : wanted,
                  "because",
                  new EditStore.Hand("lead", NOW));
        }
      }
    }
  }

  private static int of(Counts counts, Outcome outcome) {
    return switch (outcome) {
      case PASSED -> counts.passed();
      case FAILED -> counts.failed();
      case ERRORED -> counts.errored();
      case SKIPPED -> counts.skipped();
      case NOT_REACHED -> counts.notReached();
    };
  }

  private List<SuiteNode> suites(int number, @Nullable Long parent) {
    return runs.suites(uploads.project(), run(number).id(), parent, Criterion.EVERYTHING);
  }

  @Test
  void suitesAreFoundLevelByLevelWithWhatIsInsideThem() {
    uploads.send(
        STREAM,
        null,
        "<testsuite name='outer'><testcase name='own'/>"
            + suite("inner b", "x:P")
            + suite("inner c", "x:F y:P")
            + suite("inner a", "x:P")
            + "</testsuite>");

    SuiteNode outer = suites(1, null).get(0);
    assertThat(outer.counts()).isEqualTo(new Counts(4, 1, 0, 0, 0, 0));
    assertThat(outer.hasSuites()).isTrue();
    List<SuiteNode> inner = suites(1, outer.id());
    assertThat(inner)
        .as("failing first")
        .extracting(SuiteNode::name)
        .containsExactly("inner c", "inner a", "inner b");
    assertThat(inner).extracting(SuiteNode::hasSuites).containsOnly(false);
    ResultQuery own = new ResultQuery(Criterion.EVERYTHING, outer.id(), Optional.empty(), 10);
    assertThat(find(1, own)).extracting(row -> row.test().name()).containsExactly("own");

    Criterion failed = query("outcome eq \"failed\"").filter();
    SuiteNode still = runs.suites(uploads.project(), run(1).id(), null, failed).get(0);
    assertThat(still)
        .isEqualTo(new SuiteNode(outer.id(), "outer", Counts.NONE.add(Outcome.FAILED, 1), true));
    assertThat(runs.suites(uploads.project(), run(1).id(), outer.id(), failed))
        .extracting(SuiteNode::name)
        .containsExactly("inner c");
    assertThat(runs.suites(uploads.project(), run(1).id(), inner.get(0).id(), failed)).isEmpty();
  }

  @Test
  void resultsOutsideAnySuiteAreFoundToo() {
    uploads.send(
        STREAM, null, "<testsuites><testcase name='loose'/>" + suite("S", "a:P") + "</testsuites>");
    ResultQuery loose =
        new ResultQuery(Criterion.EVERYTHING, ResultQuery.NO_SUITE, Optional.empty(), 10);

    assertThat(find(1, loose)).extracting(row -> row.test().name()).containsExactly("loose");
  }

  @Test
  void aResultKnowsWhatItsTestDidBefore() {
    uploads.send(STREAM, null, suite("S", "a:P b:P"));
    uploads.send(STREAM, null, suite("S", "a:F b:P"));
    uploads.send("other/stream", null, suite("S", "a:E"));
    uploads.send(STREAM, null, suite("S", "b:P"));
    uploads.send(STREAM, null, suite("S", "a:F a:P"));

    ResultRow row = find(4, ResultQuery.first(10)).get(0);
    ResultDetail detail = runs.result(uploads.project(), run(4), row.id()).orElseThrow();
    assertThat(detail.before())
        .as("the newest first, of this stream, without runs that did not have it")
        .extracting(ResultDetail.Earlier::run, ResultDetail.Earlier::outcome)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(2, Outcome.FAILED),
            org.assertj.core.groups.Tuple.tuple(1, Outcome.PASSED));
    assertThat(detail.tries()).hasSize(2);
    assertThat(runs.result(uploads.project(), run(4), new ResultId(9, 9))).isEmpty();
  }

  @Test
  void nothingOfAProjectIsFoundFromAnother() {
    uploads.send(STREAM, null, suite("S", "a:F"));
    long id = run(1).id();
    ResultId result = find(1, ResultQuery.first(1)).get(0).id();
    int other = TestUploads.inNewProject(stores, NOW).project();

    assertThat(runs.run(other, id)).isEmpty();
    assertThat(runs.run(other, STREAM, 1)).isEmpty();
    assertThat(runs.runs(other, RunQuery.newest(STREAM, 10))).isEmpty();
    assertThat(runs.streams(other)).isEmpty();
    assertThat(runs.parts(other, id)).isEmpty();
    assertThat(runs.results(other, id, ResultQuery.first(10))).isEmpty();
    assertThat(runs.suites(other, id, null, Criterion.EVERYTHING)).isEmpty();
    assertThat(runs.gone(other, id, Criterion.EVERYTHING, 10)).isEmpty();
    assertThat(runs.result(other, run(1), result)).isEmpty();
    assertThat(runs.raw(other, id, 1, 0)).isEmpty();
  }

  private List<String> pages(@Nullable String stream) {
    List<String> pages = new ArrayList<>();
    Optional<RunQuery.Cursor> after = Optional.empty();
    List<RunSummary> page;
    do {
      page = runs.runs(uploads.project(), new RunQuery(stream, Criterion.EVERYTHING, after, 3));
      pages.add(page.stream().map(run -> "" + run.number()).collect(Collectors.joining(" ")));
      after = RunQuery.Cursor.decode(RunQuery.Cursor.of(page.get(page.size() - 1)).encode());
    } while (page.size() == 3);
    return pages;
  }

  @Test
  void runsOfAStreamComeNewestFirstInPages() {
    for (int i = 1; i <= 7; i++) {
      uploads.send(STREAM, "b" + i, suite("S", "a:P"));
    }
    uploads.send("fares/change", null, suite("S", "a:P"));

    assertThat(pages(STREAM)).containsExactly("7 6 5", "4 3 2", "1");
    // All streams by start; of those that started at once, the last that came first.
    assertThat(pages(null)).containsExactly("1 7 6", "5 4 3", "2 1");
    assertThat(runs.streams(uploads.project()))
        .extracting(stream -> stream.name())
        .containsExactly("fares/change", STREAM);
  }
}
