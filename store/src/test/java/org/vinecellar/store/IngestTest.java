package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.vinecellar.store.TestUploads.suite;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import java.util.zip.GZIPInputStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.UnreadableUploadException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSettings;
import org.vinecellar.core.runs.StreamSummary;

/** Uploads against a real PostgreSQL. */
class IngestTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private int project;
  private TestUploads uploads;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
  }

  private Receipt send(@Nullable String run, String... texts) {
    return uploads.send("fares/nightly", run, texts);
  }

  private RunSummary run(int number) {
    return stores.runs().run(project, "fares/nightly", number).orElseThrow();
  }

  private List<ResultRow> results(int number) {
    return stores.runs().results(project, run(number).id(), ResultQuery.first(500));
  }

  @Test
  void aRunIsKeptAsItWasSent() {
    Receipt receipt = send(null, suite("S", "a:P b:F c:E d:S"));

    assertThat(receipt.number()).isEqualTo(1);
    assertThat(receipt.open()).isFalse();
    assertThat(run(1).counts()).isEqualTo(new Counts(1, 1, 1, 1, 0, 0)).isEqualTo(receipt.run());
    assertThat(results(1))
        .extracting(row -> row.test().name())
        .as("failing first, then execution order")
        .containsExactly("b", "c", "a", "d");
    assertThat(results(1).get(0).firstLine()).isEqualTo("wrong b");
    assertThat(results(1).get(0).test().suite()).containsExactly("S");
    assertThat(results(1).get(0).durationMicros()).isEqualTo(1_000_000);
  }

  @Test
  void theSameFileAgainChangesNothing() {
    send(null, suite("S", "a:P b:F"));
    Receipt again = send(null, suite("S", "a:P b:F"));

    assertThat(again.duplicate()).isTrue();
    assertThat(again.number()).isEqualTo(1);
    assertThat(again.part()).isEqualTo(new Counts(1, 1, 0, 0, 0, 0));
    assertThat(stores.runs().runs(project, RunQuery.newest("fares/nightly", 10))).hasSize(1);
    assertThat(results(1)).hasSize(2);
  }

  @Test
  void changesAreToldAgainstTheRunBefore() {
    send(null, suite("S", "a:P b:F c:F d:P e:P"));
    Receipt second = send(null, suite("S", "a:F b:F c:P f:P e:P e:P"));

    assertThat(second.changes()).isEqualTo(new ChangeCounts(1, 1, 1, 0, 2, 1, 0));
    assertThat(stores.runs().gone(project, run(2).id(), Criterion.EVERYTHING, 10))
        .extracting(t -> t.name())
        .containsExactly("d");
    assertThat(results(2))
        .extracting(r -> r.test().name() + " " + r.change())
        .contains("a NEW_FAILING");
  }

  @Test
  void aLateResultInAnOlderRunMovesTheChangesOfTheNextToo() {
    send("one", suite("S", "a:P"));
    send("two", suite("S", "b:F a:P"));
    assertThat(run(2).changes().newFailing()).isEqualTo(1);

    send("one", suite("S", "b:F"));
    TestDatabase.work(stores);

    assertThat(run(2).changes()).isEqualTo(new ChangeCounts(0, 1, 0, 0, 0, 0, 0));
  }

  @Test
  void partsOfOneRunThatArriveTogetherLandInOneRun() throws Exception {
    int parts = 12;
    ExecutorService senders = Executors.newFixedThreadPool(6);
    List<Callable<Receipt>> uploads =
        IntStream.range(0, parts)
            .<Callable<Receipt>>mapToObj(
                i ->
                    () ->
                        send("build-7", suite("shared", "s" + i + ":P"), suite("S" + i, "a:P b:F")))
            .toList();
    for (Future<Receipt> receipt : senders.invokeAll(uploads)) {
      assertThat(receipt.get().number()).isEqualTo(1);
    }
    senders.shutdown();

    assertThat(run(1).counts()).isEqualTo(new Counts(2 * parts, parts, 0, 0, 0, 0));
    assertThat(stores.runs().parts(project, run(1).id())).hasSize(parts);
    assertThat(results(1)).hasSize(3 * parts);
    assertThat(stores.runs().suites(project, run(1).id(), null, Criterion.EVERYTHING))
        .filteredOn(suite -> suite.name().equals("shared"))
        .extracting(suite -> suite.counts().passed())
        .containsExactly(parts);
  }

  @Test
  void newNamesThatManyBringAtTheSameMomentAreLearnedOnce() throws Exception {
    StringBuilder cases = new StringBuilder("t0:F");
    for (int i = 1; i < 300; i++) {
      cases.append(" t").append(i).append(":P");
    }
    ExecutorService senders = Executors.newFixedThreadPool(6);
    List<Callable<Receipt>> sent =
        IntStream.range(0, 6)
            .<Callable<Receipt>>mapToObj(
                i ->
                    () ->
                        this.uploads.send(
                            "fares/stream-" + i,
                            null,
                            suite("brand.New", cases.toString()),
                            suite("brand.Other", "x:P")))
            .toList();
    for (Future<Receipt> receipt : senders.invokeAll(sent)) {
      assertThat(receipt.get().run()).isEqualTo(new Counts(300, 1, 0, 0, 0, 0));
    }
    senders.shutdown();

    List<List<Long>> tests =
        IntStream.range(0, 6)
            .mapToObj(i -> stores.runs().run(project, "fares/stream-" + i, 1).orElseThrow().id())
            .map(run -> stores.runs().results(project, run, ResultQuery.first(500)))
            .map(rows -> rows.stream().map(row -> row.test().id()).toList())
            .toList();
    assertThat(tests).containsOnly(tests.get(0));
    assertThat(tests.get(0)).doesNotHaveDuplicates().hasSize(301);
  }

  @Test
  void aTestTriedAgainInALaterPartIsOneTestWithTwoAttempts() {
    send("k", suite("S", "a:P b:F c:F"));
    Receipt later = send("k", suite("S", "b:P c:F a:S"));

    assertThat(later.run()).isEqualTo(new Counts(2, 1, 0, 0, 0, 3));
    assertThat(results(1)).hasSize(3);
    ResultRow b = named(1, "b");
    assertThat(b.outcome()).isEqualTo(Outcome.PASSED);
    ResultDetail detail = stores.runs().result(project, run(1), b.id()).orElseThrow();
    assertThat(detail.tries())
        .extracting(one -> one.attempt().outcome())
        .containsExactly(Outcome.FAILED, Outcome.PASSED);
    assertThat(
            stores.runs().suites(project, run(1).id(), null, Criterion.EVERYTHING).get(0).counts())
        .isEqualTo(new Counts(2, 1, 0, 0, 0, 3));
  }

  @Test
  void aRetryWithinOneUploadIsCountedOnceEverywhere() {
    Receipt receipt = send(null, suite("S", "a:F b:P a:P"));

    assertThat(receipt.run()).isEqualTo(new Counts(2, 0, 0, 0, 0, 1));
    assertThat(
            stores.runs().suites(project, run(1).id(), null, Criterion.EVERYTHING).get(0).counts())
        .isEqualTo(receipt.run());
    assertThat(receipt.changes().passedOnRetry()).isEqualTo(1);
    assertThat(named(1, "a").firstLine()).isEqualTo("wrong a");
  }

  @Test
  void testsBehindAFailedSetUpAreNotReached() {
    send(null, suite("S", "a:P b:P"), suite("T", "c:P"));
    Receipt second = send(null, suite("S", ":X"), suite("T", "c:P"));

    assertThat(second.run()).isEqualTo(new Counts(1, 0, 0, 0, 2, 0, 1));
    assertThat(second.changes().gone()).isZero();
    assertThat(named(2, "a").outcome()).isEqualTo(Outcome.NOT_REACHED);
    assertThat(named(2, "a").firstLine()).isEqualTo("set-up failed: broken");

    Receipt third = send(null, suite("S", "a:P b:P"), suite("T", "c:P"));
    assertThat(third.changes()).isEqualTo(ChangeCounts.NONE);
  }

  @Test
  void aSetUpThatGoesWellInALaterPartIsNoCauseAnyMore() {
    send(null, suite("S", "a:P b:P"), suite("T", "c:P d:P"));
    send("retried", suite("S", ":X"), suite("T", ":X"));
    assertThat(run(2).counts()).isEqualTo(new Counts(0, 0, 0, 0, 4, 0, 2));

    send("retried", suite("S", "a:P b:F"), suite("T", "c:P"));

    assertThat(run(2).counts()).as("d is still waiting").isEqualTo(new Counts(2, 1, 0, 0, 1, 0, 1));
    assertThat(results(2)).extracting(ResultRow::kind).contains(ResultKind.SETUP).hasSize(5);
    assertThat(stores.runs().suites(project, run(2).id(), null, Criterion.EVERYTHING))
        .extracting(suite -> suite.name() + " " + suite.counts().setUps())
        .containsExactly("S 0", "T 1");
    assertThat(stores.runs().suites(project, run(2).id(), null, SET_UPS))
        .extracting(suite -> suite.name() + " " + suite.counts().setUps())
        .containsExactly("T 1");
  }

  @Test
  void whatUploadsLeftBehindThatFailedGoesAway() {
    send("whole", suite("S", "a:P"));
    assertThatThrownBy(() -> send("half", "<testsuite><testcase"))
        .isInstanceOf(UnreadableUploadException.class);
    Instant later = NOW.plusSeconds(10);

    assertThat(stores.ingest().dropReservedRuns(NOW)).as("too young").isZero();
    assertThat(stores.ingest().dropReservedRuns(later)).isPositive();
    assertThat(stores.ingest().dropReservedRuns(later)).isZero();

    send("half", suite("S", "a:F"));
    assertThat(run(1).counts().passed()).isEqualTo(1);
    assertThat(run(2).counts().failed()).isEqualTo(1);
  }

  @Test
  void anUploadWithOneBadFileLeavesNothing() {
    assertThatThrownBy(() -> send(null, suite("S", "a:P"), "<testsuite><testcase"))
        .isInstanceOf(UnreadableUploadException.class)
        .hasMessageStartingWith("f1.xml ends too early at line 1")
        .hasMessageEndingWith("Nothing of the upload was stored.");
    assertThatThrownBy(() -> send(null, suite("S", ""))).isInstanceOf(CellarException.class);

    assertThat(stores.runs().streams(project)).isEmpty();
    send(null, suite("S", "a:P"));
    assertThat(run(1).counts().tests()).as("no number was used up").isEqualTo(1);
  }

  @Test
  void attachmentsGoToTheTestThatNamesThemAndAreKeptOnce() {
    String text = "<html>the quay</html>";
    String named =
        "<testsuite name='S'><testcase name='a'><system-out>[[ATTACHMENT|out/quay.html]]\n"
            + "[[ATTACHMENT|../lost.png]]</system-out></testcase>"
            + "<testcase name='b'><failure/></testcase></testsuite>";
    Map<String, String> beside =
        Map.of("/w/out/quay.html", text, "shots/S.b.txt", text, "notes.txt", "of nobody");
    uploads.send("fares/nightly", named, beside);
    uploads.send("fares/nightly", named.replace("quay.html", "x/quay.html"), beside);

    ResultDetail a = stores.runs().result(project, run(1), named(1, "a").id()).orElseThrow();
    List<KeptAttachment> ofA = a.tries().get(0).attachments();
    assertThat(ofA)
        .extracting(KeptAttachment::name, KeptAttachment::mediaType, KeptAttachment::kept)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple("quay.html", "text/html", true),
            org.assertj.core.groups.Tuple.tuple("lost.png", "application/octet-stream", false));
    ResultDetail b = stores.runs().result(project, run(1), named(1, "b").id()).orElseThrow();
    assertThat(b.tries().get(0).attachments()).hasSize(1);
    assertThat(stores.runs().parts(project, run(1).id()).get(0).attachments())
        .extracting(KeptAttachment::name)
        .containsExactly("notes.txt");
    Content content = stores.runs().content(project, run(1).id(), ofA.get(0).id()).orElseThrow();
    assertThat(new String(content.read(6, 8), StandardCharsets.UTF_8)).isEqualTo("the quay");
    assertThat(content.read(content.size(), 8)).as("behind the end").isEmpty();
    assertThat(count("kept_content where project_id = " + project))
        .as("two contents, however often they came, and two raw files")
        .isEqualTo(4);
    stores.ingest().dropUnusedContents(Instant.now().plusSeconds(60));
    assertThat(count("kept_content where project_id = " + project)).isEqualTo(4);
  }

  @Test
  void aStreamMaySetItsSilenceAndARunCanBeClosedByHand() {
    send("one", suite("S", "a:P"));
    stores
        .runs()
        .setSettings(
            project,
            "fares/nightly",
            new StreamSettings(Duration.ofHours(2), null, null, null),
            Instant.EPOCH);
    stores.ingest().closeSilentRuns(Duration.ZERO, NOW.plusSeconds(3600));
    assertThat(run(1).open()).isTrue();

    long id = stores.ingest().runOf(project, "fares/nightly", "one").orElseThrow();
    assertThat(stores.ingest().close(project, id, NOW)).isTrue();
    assertThat(stores.ingest().close(project, id, NOW)).as("closed already").isFalse();
    assertThat(run(1).times().closedBy()).isEqualTo("hand");

    send("two", suite("S", "a:P"));
    stores.ingest().closeSilentRuns(Duration.ZERO, NOW.plusSeconds(7201));
    assertThat(run(2).times().closedBy()).isEqualTo("silence");
    assertThat(stores.ingest().runOf(project, "fares/nightly", "none")).isEmpty();
  }

  @Test
  void aTestThatWasNotReachedPointsToTheSetUpThatStoppedIt() {
    send(null, suite("S", "a:P b:P"));
    send(
        null,
        "<testsuite name='S'><testcase name=''><error message='no quay'/></testcase>"
            + "</testsuite>");

    ResultDetail a = stores.runs().result(project, run(2), named(2, "a").id()).orElseThrow();
    assertThat(a.row().outcome()).isEqualTo(Outcome.NOT_REACHED);
    assertThat(a.stoppedBy())
        .isNotNull()
        .extracting(ResultRow::firstLine, ResultRow::kind)
        .containsExactly("no quay", ResultKind.SETUP);
  }

  @Test
  void silenceClosesARunAndTellsWhatIsGone() {
    send("one", suite("S", "a:P b:P"));
    send("two", suite("S", "a:P"));
    assertThat(run(2).open()).isTrue();
    assertThat(run(2).changes().gone()).isZero();

    stores.ingest().closeSilentRuns(Duration.ZERO, NOW.plusSeconds(1));

    assertThat(run(2).open()).isFalse();
    assertThat(run(2).changes().gone()).isEqualTo(1);
  }

  @Test
  void aStreamHasItsStripAndItsTrendFromTheFirstRunOn() {
    for (int i = 1; i <= 125; i++) {
      send("build-" + i, suite("S", i % 2 == 0 ? "a:P" : "a:F"));
    }
    StreamSummary stream = stores.runs().stream(project, "fares/nightly").orElseThrow();

    assertThat(stream.runCount()).isEqualTo(125);
    assertThat(stream.latest().number()).isEqualTo(125);
    assertThat(stream.strip())
        .hasSize(30)
        .extracting(RunPoint::number)
        .startsWith(96)
        .endsWith(125);
    assertThat(stream.trend())
        .as("every second, since there are more than 120")
        .hasSize(63)
        .extracting(RunPoint::number)
        .startsWith(1, 3)
        .endsWith(125);
    StreamSummary listed = stores.runs().streams(project).get(0);
    assertThat(listed.trend()).as("nobody looks at it there").isNull();
    assertThat(listed.strip()).isEqualTo(stream.strip());
    assertThat(listed.latest()).isEqualTo(stream.latest());
    assertThat(stores.runs().stream(project, "no/such")).isEmpty();
  }

  @Test
  void filesAreKeptAsTheyCame() throws IOException {
    String text = suite("S", "a:P b:F");
    send(null, text, suite("T", "c:P"));

    Content packed = stores.runs().raw(project, run(1).id(), 1, 0).orElseThrow();
    assertThat(stores.runs().raw(project, run(1).id(), 1, 2)).isEmpty();
    byte[] bytes = packed.read(0, 1 << 20);
    assertThat(bytes).hasSize((int) packed.size());
    try (InputStream raw = new GZIPInputStream(new ByteArrayInputStream(bytes))) {
      assertThat(new String(raw.readAllBytes(), StandardCharsets.UTF_8)).isEqualTo(text);
    }
  }

  @Test
  void pagesGoThroughAllResultsOnceInOrder() {
    StringBuilder cases = new StringBuilder();
    for (int i = 0; i < 57; i++) {
      cases.append(i == 0 ? "" : " ").append("t").append(i).append(i % 7 == 0 ? ":F" : ":P");
    }
    send(null, suite("S", cases.toString()));
    List<ResultRow> all = results(1);
    List<ResultRow> paged = new ArrayList<>();
    var after = java.util.Optional.<org.vinecellar.core.runs.ResultCursor>empty();
    do {
      List<ResultRow> page =
          stores
              .runs()
              .results(
                  project, run(1).id(), new ResultQuery(Criterion.EVERYTHING, null, after, 10));
      paged.addAll(page);
      ResultRow last = page.isEmpty() ? null : page.get(page.size() - 1);
      after =
          last == null
              ? java.util.Optional.empty()
              : java.util.Optional.of(
                  new org.vinecellar.core.runs.ResultCursor(last.outcome().isFailing(), last.id()));
    } while (after.isPresent());

    assertThat(all).hasSize(57);
    assertThat(paged).isEqualTo(all);
  }

  @Test
  void wildcardsInATextFilterAreText() {
    send(null, suite("S", "a_b:P axb:P 100%:P"));
    long run = run(1).id();

    assertThat(stores.runs().results(project, run, text("a_b"))).hasSize(1);
    assertThat(stores.runs().results(project, run, text("%"))).hasSize(1);
    assertThat(stores.runs().results(project, run, text("AXB"))).hasSize(1);
  }

  private static final Criterion SET_UPS = Resolver.read("setUp eq true", Thing.RESULT, NOW);

  private static ResultQuery text(String text) {
    return new ResultQuery(
        Resolver.read("text co \"" + text + "\"", Thing.RESULT, NOW),
        null,
        java.util.Optional.empty(),
        10);
  }

  private static long count(String from) {
    return STORE.count(from);
  }

  private ResultRow named(int number, String name) {
    return results(number).stream()
        .filter(row -> row.test().name().equals(name))
        .findFirst()
        .orElseThrow();
  }
}
