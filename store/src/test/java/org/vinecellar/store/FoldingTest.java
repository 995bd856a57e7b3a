package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.trust.TrustStore.TestLine;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.history.PastResult;
import org.vinecellar.core.trust.renames.FoldingStore;

/** Names that are made up anew in each run are seen, and folded when somebody says so. */
class FoldingTest {
  private static final Instant START = Instant.parse("2026-10-01T02:00:00Z");
  private static final Hand ADA = new Hand("ada", START.plusSeconds(5_000_000));
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads =
      TestUploads.inNewProject(stores, START.plusSeconds(9_000_000));

  /** Of one night: forty guests that no other night had, and tests with names and parameters. */
  private static String night(int at, boolean fails) {
    Random random = new Random(at);
    StringBuilder xml = new StringBuilder("<testsuite name='quay.Sales'>");
    for (int i = 0; i < 40; i++) {
      String guest = Integer.toHexString(random.nextInt()) + "-" + i;
      xml.append("<testcase classname='quay.Sales' name='sells[" + guest + "]' time='0.1'>");
      xml.append(fails && i == 7 ? "<failure message='no berth for it'/>" : "");
      xml.append("</testcase>");
    }
    for (int i = 0; i < 60; i++) {
      xml.append("<testcase classname='quay.Sales' name='counts[" + i + "]' time='0.1'/>");
    }
    // A test that grows.
    for (int i = 0; i < 25 * (at + 1); i++) {
      xml.append("<testcase classname='quay.Sales' name='berth " + i + " is free'/>");
    }
    return xml.append("<system-out>" + at + "</system-out></testsuite>").toString();
  }

  private void send(String stream, int at) {
    var unused =
        uploads.sendAt(
            START.plusSeconds(at * 86_400L),
            stream,
            "at-" + at,
            UploadRequest.PartKey.NONE,
            new Origin("c" + at, "main", null),
            Map.of(),
            night(at, !stream.contains("sound") && (at == 3 || at == 6)));
  }

  private List<FoldingStore.Line> madeUp(String stream) {
    TestDatabase.work(stores);
    return stores.folding().madeUp(uploads.project(), stream);
  }

  private List<TestLine> tests(String stream) {
    TestDatabase.work(stores);
    return stores.trust().tests(uploads.project(), stream, 0, 5_000);
  }

  private static List<TestLine> selling(List<TestLine> tests) {
    return tests.stream().filter(line -> line.test().name().equals("sells")).toList();
  }

  @Test
  void theyAreOneTestWhenSomebodySaysSoAndManyWhenSomebodyTakesThatBack() {
    for (int at = 0; at < 2; at++) {
      send("sales/nightly", at);
    }
    assertThat(madeUp("sales/nightly")).as("too early to say").isEmpty();
    for (int at = 2; at < 8; at++) {
      send("sales/nightly", at);
    }
    List<FoldingStore.Line> seen = madeUp("sales/nightly");
    assertThat(seen).hasSize(1);
    FoldingStore.Line line = seen.get(0);
    assertThat(line.family().name() + line.family().parameters()).isEqualTo("sells[…]");
    assertThat(line.suite()).containsExactly("quay.Sales");
    assertThat(line.run()).isEqualTo(3);
    assertThat(line.cases()).isEqualTo(320);
    assertThat(selling(tests("sales/nightly"))).hasSize(320);

    FoldingStore.Line folded = stores.folding().fold(uploads.project(), line.id(), true, ADA);
    assertThat(folded.saidBy()).isEqualTo("ada");
    send("sales/nightly", 8);
    List<TestLine> selling = selling(tests("sales/nightly"));
    assertThat(selling).hasSize(1);
    TestLine one = selling.get(0);
    assertThat(one.test().id()).isEqualTo(folded.test());
    assertThat(one.estimate().verdict()).isEqualTo(Verdict.FLAKY);
    assertThat(one.estimate().runs()).isEqualTo(9);
    List<PastResult> past =
        stores.trust().history(uploads.project(), one.test().id(), "sales/nightly", null, 100);
    assertThat(past).hasSize(9);
    assertThat(past.stream().filter(PastResult::failed).map(result -> result.run().number()))
        .containsExactly(7, 4);
    assertThat(stores.trust().renames(uploads.project(), "sales/nightly")).isEmpty();
    assertThat(madeUp("sales/nightly").get(0).cases()).isEqualTo(360);

    FoldingStore.Line apart = stores.folding().fold(uploads.project(), line.id(), false, ADA);
    assertThat(apart.test()).isNull();
    assertThat(selling(tests("sales/nightly"))).hasSize(360);
    assertThatThrownBy(() -> stores.folding().fold(uploads.project(), 9_999, true, ADA))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("9999");
  }

  @Test
  void oneThatNeverFailedIsToldByItsRunsAsWell() {
    for (int at = 0; at < 6; at++) {
      send("sales/sound", at);
    }
    fold("sales/sound");
    TestLine one = selling(tests("sales/sound")).get(0);
    assertThat(one.estimate().runs()).isEqualTo(6);
    assertThat(one.estimate().verdict()).isNotEqualTo(Verdict.FLAKY);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3})
  void whateverOrderTheRunsComeInTheSameIsFolded(int seed) {
    String stream = "sales/any-order-" + seed;
    for (int at = 0; at < 9; at++) {
      send("sales/in-order", at);
    }
    fold("sales/in-order");
    Random random = new Random(seed);
    List<Integer> nights = new ArrayList<>(List.of(0, 1, 2, 3, 4, 5, 6, 7, 8));
    Collections.shuffle(nights, random);
    int when = 5 + random.nextInt(4);
    for (int i = 0; i < nights.size(); i++) {
      if (i == when) {
        fold(stream);
      }
      send(stream, nights.get(i));
      if (random.nextBoolean()) {
        TestDatabase.work(stores);
      }
    }
    assertThat(told(stream)).isEqualTo(told("sales/in-order"));
  }

  private void fold(String stream) {
    for (FoldingStore.Line line : madeUp(stream)) {
      var unused = stores.folding().fold(uploads.project(), line.id(), true, ADA);
    }
  }

  private List<String> told(String stream) {
    return tests(stream).stream()
        .map(line -> line.test().name() + line.test().parameters() + " " + line.estimate())
        .sorted()
        .toList();
  }
}
