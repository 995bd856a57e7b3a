package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.vinecellar.store.TestUploads.suite;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.live.LivePart;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.SuiteNode;

/**
 * Whatever comes live beside other parts, each test counts once, and it leaves no trace at the end.
 */
class LiveMergeTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Duration MINUTE = Duration.ofMinutes(1);
  private static final String STREAM = "fares/nightly";
  private static final Counts RED = Counts.NONE.add(ResultKind.SETUP, Outcome.ERRORED, 1);
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private TestUploads uploads;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  private RunSummary run() {
    return stores.runs().run(uploads.project(), STREAM, 1).orElseThrow();
  }

  private List<ResultRow> rows() {
    return stores.runs().results(uploads.project(), run().id(), ResultQuery.first(500));
  }

  /** What is told of the run is what its results are. */
  private void consistent() {
    Counts counts = Counts.NONE;
    for (ResultRow row : rows()) {
      counts = counts.add(row.kind(), row.outcome(), 1).addRetried(row.attempts() > 1 ? 1 : 0);
    }
    assertThat(run().counts()).isEqualTo(counts);
    assertThat(rows()).extracting(row -> row.test().id()).doesNotHaveDuplicates();
    assertThat(
            stores.runs().suites(uploads.project(), run().id(), null, Criterion.EVERYTHING).stream()
                .map(SuiteNode::counts)
                .reduce(Counts.NONE, Counts::plus))
        .isEqualTo(counts);
  }

  private Map<String, String> standing() {
    Map<String, String> all = new TreeMap<>();
    rows().forEach(row -> all.put(row.test().name(), row.outcome() + " after " + row.attempts()));
    return all;
  }

  private static String cases(Random random, int from) {
    StringBuilder words = new StringBuilder();
    for (int i = from; i < from + 6; i++) {
      words.append(i == from ? "" : " ").append('t').append(i).append(':');
      words.append("PPFES".charAt(random.nextInt(5)));
    }
    return words.toString();
  }

  private UploadRequest request(@Nullable Integer replaces) {
    return new UploadRequest(
        new UploadRequest.Target(
            uploads.project(), STREAM, "k", UploadRequest.PartKey.named("tests")),
        Origin.UNKNOWN,
        Map.of(),
        null,
        null,
        replaces,
        CsvColumns.NONE,
        false);
  }

  private static List<TestResult> results(String cases) {
    List<TestResult> results = new ArrayList<>();
    for (String one : cases.split(" ")) {
      Outcome outcome =
          switch (one.charAt(one.length() - 1)) {
            case 'F' -> Outcome.FAILED;
            case 'E' -> Outcome.ERRORED;
            case 'S' -> Outcome.SKIPPED;
            default -> Outcome.PASSED;
          };
      results.add(
          TestResult.of(
              TestId.of(SuitePath.ROOT.child("S"), one.substring(0, one.indexOf(':')), null),
              ResultKind.TEST,
              List.of(new Attempt(outcome, 1000, List.of(), null, null)),
              null,
              Map.of(),
              null,
              0));
    }
    return results;
  }

  @RepeatedTest(15)
  void eachTestCountsOnceAllTheWay(RepetitionInfo info) {
    Random random = new Random(info.getCurrentRepetition());
    uploads.send(STREAM, "k", suite("S", cases(random, 0)));
    uploads.send(STREAM, "k", suite("S", cases(random, 3)));
    final Map<String, String> before = standing();

    LivePart live = stores.live().open(request(null), "key:k", NOW);
    String all = "";
    for (int batch = 1; batch <= 3; batch++) {
      String some = cases(random, random.nextInt(12));
      stores.live().append(live, batch, results(some), List.of(), NOW);
      stores.live().append(live, batch, results(some), List.of(), NOW);
      all += (all.isEmpty() ? "" : " ") + some;
      consistent();
    }
    // The whole has other names: what was provisional must be gone without a trace.
    String whole = "u0:P u1:F";
    uploads.sendInPlaceOf(live.partNo(), STREAM, "k", suite("S", whole));
    consistent();
    Map<String, String> after = standing();
    assertThat(after).containsAllEntriesOf(before).hasSize(before.size() + 2);
  }

  @Test
  void aPartWithoutASignIsBrokenOffAndASignMendsIt() {
    LivePart live = stores.live().open(request(null), "key:k", NOW);
    stores.live().append(live, 1, results("t0:P t1:P"), List.of(), NOW.plusSeconds(1));
    final Counts fine = run().counts();

    assertThat(stores.live().breakOffSilent(MINUTE, NOW.plusSeconds(61))).isZero();
    assertThat(run().counts()).isEqualTo(fine);
    assertThat(stores.live().breakOffSilent(MINUTE, NOW.plusSeconds(62))).isOne();
    assertThat(stores.live().breakOffSilent(MINUTE, NOW.plusSeconds(63))).as("once").isZero();
    assertThat(run().counts()).as("no false green").isEqualTo(fine.plus(RED));

    // The answer to the last batch may have been lost as well.
    assertThat(append(live, 1, "t0:P t1:P")).isEqualTo(1);
    assertThat(run().counts()).isEqualTo(fine.plus(RED));
    assertThat(append(live, 2, "t2:P")).isEqualTo(2);
    assertThat(run().counts())
        .isEqualTo(fine.plus(Counts.NONE.add(ResultKind.TEST, Outcome.PASSED, 1)));
    consistent();

    assertThat(append(live, 3, "t3:F")).isEqualTo(3);
    stores.live().breakOff(uploads.project(), run().id(), NOW.plusSeconds(70));
    assertThat(rows()).as("red by itself").hasSize(4);
    consistent();
    uploads.sendInPlaceOf(live.partNo(), STREAM, "k", suite("S", "t0:P t1:P t2:P t3:F t4:P"));
    assertThat(rows()).hasSize(5);
    consistent();
  }

  private int append(LivePart live, int batch, String cases) {
    return stores.live().append(live, batch, results(cases), List.of(), NOW.plusSeconds(65));
  }

  @Test
  void aTestThatComesAgainTakesItsOwnPlace() {
    LivePart live = stores.live().open(request(null), "key:k", NOW);
    assertThat(append(live, 1, "t0:F t1:P t2:F t0:F")).isEqualTo(1);
    assertThat(standing()).hasSize(3);
    consistent();
    assertThat(append(live, 2, "t2:P t3:P t0:P")).isEqualTo(2);
    assertThat(rows())
        .extracting(row -> row.test().name() + " " + row.outcome())
        .containsExactlyInAnyOrder("t0 PASSED", "t1 PASSED", "t2 PASSED", "t3 PASSED");
    consistent();
    uploads.sendInPlaceOf(live.partNo(), STREAM, "k", suite("S", "t0:P t1:P"));
    assertThat(rows()).hasSize(2);
    consistent();
  }
}
