package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.NoteText;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.live.LivePart;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.Comparison;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;

/**
 * Whatever happens to runs, in whatever order: what is told of them is what their results come to.
 */
class LedgerTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String STREAM = "fares/nightly";
  private static final int STEPS = 30;
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private TestUploads uploads;
  private Random random = new Random(0);
  private Instant now = NOW;
  private final List<Live> lives = new ArrayList<>();

  /** A part that is coming. */
  private static final class Live {
    final LivePart part;
    final String key;
    int batches;
    int tests;

    Live(LivePart part, String key) {
      this.part = part;
      this.key = key;
    }
  }

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  static List<Integer> seeds() {
    List<Integer> seeds = new ArrayList<>();
    for (int seed = 1; seed <= Integer.getInteger("vine.seeds", 8); seed++) {
      seeds.add(seed);
    }
    return seeds;
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void isWhatTheResultsComeTo(int seed) throws SQLException {
    random = new Random(seed);
    List<String> done = new ArrayList<>();
    for (int step = 0; step < STEPS; step++) {
      now = now.plusSeconds(1);
      done.add(step());
      if (random.nextBoolean()) {
        TestDatabase.work(stores);
        assertThat(new Recount(STORE.database()).books(uploads.project()).differences())
            .as("seed %d: %s", seed, done)
            .isEmpty();
        assertThat(new Recount(STORE.database()).left(uploads.project()))
            .as("left of what was removed, seed %d: %s", seed, done)
            .isZero();
        comparedByHandItIsTheSame(seed, done);
      }
    }
  }

  /** Runs that come in any order, renames, and what follows from both, all at once. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void renamesAndUploadsAtOnce(long seed) throws Exception {
    random = new Random(seed);
    uploads.sendPart(
        STREAM,
        "first",
        UploadRequest.PartKey.NONE,
        Map.of(),
        TestUploads.suite("S", "t0:P t1:F t2:P t3:P t4:F t5:P t6:P t7:P t8:P"));
    TestDatabase.work(stores);
    List<Callable<String>> all = new ArrayList<>();
    for (int i = 0; i < 40; i++) {
      Instant started = NOW.minusSeconds(60 + random.nextInt(100_000));
      String text = TestUploads.suite("S", cases()) + "<!-- " + i + " -->";
      all.add(
          () ->
              uploads
                  .sendAt(
                      started,
                      STREAM,
                      null,
                      UploadRequest.PartKey.NONE,
                      Origin.UNKNOWN,
                      Map.of(),
                      text)
                  .toString());
    }
    List<Long> tests = known();
    for (int i = 0; i < 20; i++) {
      long old = tests.get(random.nextInt(tests.size()));
      long other = tests.get(random.nextInt(tests.size()));
      boolean same = random.nextInt(3) > 0;
      all.add(() -> rename(old, other, same));
    }
    for (int i = 0; i < 8; i++) {
      all.add(
          () -> {
            TestDatabase.work(stores);
            return "work";
          });
    }
    Collections.shuffle(all, random);
    ExecutorService threads = Executors.newFixedThreadPool(8);
    try {
      for (Future<String> one : threads.invokeAll(all)) {
        assertThat(one.get()).isNotEmpty();
      }
    } finally {
      threads.shutdown();
    }
    TestDatabase.work(stores);
    assertThat(new Recount(STORE.database()).books(uploads.project()).differences()).isEmpty();
    assertThat(STORE.number("select sum(renamed) from run where project_id = " + uploads.project()))
        .isPositive();
  }

  private void comparedByHandItIsTheSame(int seed, List<String> done) {
    RunSummary run = someRun();
    if (run == null) {
      return;
    }
    Integer before = run.neighbours().previous();
    if (before != null) {
      long with = stores.runs().run(uploads.project(), STREAM, before).orElseThrow().id();
      Comparison comparison = stores.runs().compare(uploads.project(), run.id(), with, 500);
      assertThat(comparison.counts())
          .as("#%d with #%d, seed %d: %s", run.number(), before, seed, done)
          .isEqualTo(run.changes());
      assertThat(comparison.differences()).hasSize(run.changes().all());
    }
  }

  private String step() {
    return switch (random.nextInt(14)) {
      case 0, 1, 2, 3 -> push();
      case 4 -> begin();
      case 5, 6 -> lives.isEmpty() ? begin() : append(lives.get(random.nextInt(lives.size())));
      case 7 -> lives.isEmpty() ? push() : end(lives.remove(random.nextInt(lives.size())));
      case 8 -> overrule();
      case 9 -> remove();
      case 10 -> note();
      case 11, 12 -> rename();
      default -> close();
    };
  }

  private String key() {
    return "k" + random.nextInt(4);
  }

  private String push() {
    String key = random.nextInt(4) == 0 ? null : key();
    UploadRequest.PartKey part =
        new UploadRequest.PartKey(
            random.nextInt(3) == 0 ? null : name("one", "two"),
            Variant.of(random.nextInt(4) == 0 ? Map.of("jdk", "17") : Map.of()),
            random.nextInt(3) == 0 ? 1 + random.nextInt(3) : null);
    uploads.sendPart(STREAM, key, part, labels(), content().toArray(String[]::new));
    return "push " + part + " to " + key;
  }

  private String begin() {
    String key = key();
    lives.add(new Live(stores.live().open(request(key), "key:" + key, now), key));
    return "begin " + key;
  }

  private String append(Live live) {
    List<TestResult> results = new ArrayList<>();
    for (int i = random.nextInt(6); i > 0; i--) {
      // Of a part that comes live, each test has one result, the last that came.
      boolean again = live.tests > 0 && random.nextInt(4) == 0;
      results.add(result("t" + (again ? random.nextInt(live.tests) : live.tests++)));
    }
    stores.live().append(live.part, live.batches + 1, results, List.of(), now);
    if (stores.live().find(uploads.project(), live.part.runId(), live.part.partNo()).isPresent()) {
      live.batches++;
    }
    return "append to " + live.key;
  }

  private String end(Live live) {
    uploads.sendInPlaceOf(live.part.partNo(), STREAM, live.key, content().toArray(String[]::new));
    return "end " + live.key;
  }

  private TestResult result(String name) {
    Outcome outcome = Outcome.values()[random.nextInt(4)];
    SuitePath suite =
        random.nextBoolean() ? SuitePath.ROOT.child("A").child("B") : SuitePath.ROOT.child("S");
    List<Attempt> attempts = new ArrayList<>();
    for (int i = random.nextInt(3); i >= 0; i--) {
      attempts.add(new Attempt(outcome, random.nextInt(5_000), List.of(), null, null));
    }
    return TestResult.of(
        TestId.of(suite, name, null), ResultKind.TEST, attempts, null, Map.of(), null, 0);
  }

  /** Suites inside each other and beside, tests that others have too, repeated ones, set-ups. */
  private List<String> content() {
    List<String> files = new ArrayList<>();
    for (int i = 1 + random.nextInt(2); i > 0; i--) {
      String inner = TestUploads.suite(name("B", "C"), cases());
      String outer = TestUploads.suite(name("A", "S"), cases());
      files.add(
          random.nextBoolean() ? outer : outer.replace("</testsuite>", inner + "</testsuite>"));
    }
    return files;
  }

  private String name(String one, String other) {
    return random.nextBoolean() ? one : other;
  }

  private String cases() {
    if (random.nextInt(6) == 0) {
      return ":X";
    }
    StringBuilder cases = new StringBuilder();
    for (int i = 1 + random.nextInt(7); i > 0; i--) {
      cases.append(cases.isEmpty() ? "" : " ").append('t').append(random.nextInt(9)).append(':');
      cases.append("PPFES".charAt(random.nextInt(5)));
    }
    return cases.toString();
  }

  private @Nullable RunSummary someRun() {
    List<RunSummary> runs = stores.runs().runs(uploads.project(), RunQuery.newest(STREAM, 50));
    return runs.isEmpty() ? null : runs.get(random.nextInt(runs.size()));
  }

  private Map<String, String> labels() {
    Map<String, String> labels = new HashMap<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      labels.put(name("team", "env"), name("fares", "moorings"));
    }
    return labels;
  }

  private String note() {
    RunSummary run = someRun();
    if (run == null) {
      return push();
    }
    Subject subject = Subject.run(run.id());
    stores
        .edits()
        .write(
            uploads.project(),
            subject,
            stores.edits().note(uploads.project(), subject).orElseThrow().tag(),
            new NoteText(null, labels(), random.nextBoolean() ? List.of("seen") : List.of()),
            hand());
    return "note of #" + run.number();
  }

  /** Somebody says that two names are of one test, or that they are not. */
  private String rename() {
    List<Long> tests = known();
    if (tests.size() < 2) {
      return push();
    }
    long old = tests.get(random.nextInt(tests.size()));
    long now = tests.get(random.nextInt(tests.size()));
    return rename(old, now, random.nextInt(4) > 0);
  }

  /** Tests that the stream has had. */
  private List<Long> known() {
    return STORE
        .texts(
            "select test_id from test_in_stream where project_id = "
                + uploads.project()
                + " order by test_id")
        .stream()
        .map(Long::valueOf)
        .toList();
  }

  private String rename(long old, long now, boolean same) {
    try {
      stores.trust().say(uploads.project(), STREAM, old, now, same, hand());
    } catch (CellarException e) {
      // It is the same test, or goes on as it already.
      assertThat(e).hasMessageContaining("goes on as");
    }
    return old + (same ? " is " : " is not ") + now;
  }

  private EditStore.Hand hand() {
    return new EditStore.Hand("lead", now);
  }

  private String overrule() {
    RunSummary run = someRun();
    if (run == null) {
      return push();
    }
    List<ResultRow> rows =
        stores.runs().results(uploads.project(), run.id(), ResultQuery.first(500));
    for (ResultRow row : rows) {
      if (random.nextInt(4) == 0) {
        Outcome wanted = Outcome.values()[random.nextInt(5)];
        try {
          stores
              .edits()
              .overrule(
                  uploads.project(),
                  run.id(),
                  row.id(),
                  row.outcome(),
                  random.nextInt(3) == 0 ? null : wanted,
                  "because",
                  hand());
        } catch (CellarException e) {
          // Set-ups, what stands so already, and what is provisional: nothing changes.
          continue;
        }
      }
    }
    return "overrule #" + run.number();
  }

  private String remove() {
    RunSummary run = someRun();
    if (run == null) {
      return push();
    }
    if (random.nextInt(8) == 0) {
      assertThat(stores.removal().removeStream(uploads.project(), STREAM, now)).isTrue();
      assertThat(stores.runs().streams(uploads.project())).isEmpty();
      return "remove all";
    }
    assertThat(stores.removal().removeRun(uploads.project(), run.id(), now)).isTrue();
    assertThat(stores.runs().run(uploads.project(), run.id())).isEmpty();
    return "remove #" + run.number();
  }

  private String close() {
    RunSummary run = someRun();
    if (run != null && random.nextInt(3) == 0) {
      stores.live().breakOff(uploads.project(), run.id(), now);
      return "break off #" + run.number();
    }
    if (run != null && random.nextBoolean()) {
      stores.ingest().close(uploads.project(), run.id(), now);
      return "close #" + run.number();
    }
    if (random.nextInt(3) == 0) {
      stores.ingest().closeSilentRuns(Duration.ZERO, now.plusSeconds(1));
      return "close all";
    }
    return push();
  }

  private UploadRequest request(String key) {
    return new UploadRequest(
        new UploadRequest.Target(
            uploads.project(), STREAM, key, UploadRequest.PartKey.named("live")),
        Origin.UNKNOWN,
        Map.of(),
        null,
        null,
        null,
        CsvColumns.NONE,
        false);
  }
}
