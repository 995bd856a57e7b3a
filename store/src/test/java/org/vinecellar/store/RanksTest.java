package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.today.Today;
import org.vinecellar.core.trust.ranks.Rank;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.store.trust.ranks.StreamCounting;

/** Tests are ranked by what the latest runs of a stream told, in whatever order those came. */
class RanksTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Instant LATER = Instant.parse("2999-01-01T00:00:00Z");
  private static final int NIGHTS = 20;
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);

  /**
   * One of twenty nights: a fare test that slows down from the tenth on, one that fails in every
   * third, one that is gone from the sixteenth on, one that comes in the eighteenth.
   */
  private void night(String stream, int night) {
    StringBuilder xml = new StringBuilder("<testsuite name='quay.Fares'>");
    test(xml, "slows", night < 10 ? 0.4 : 0.9, null);
    test(xml, "fails", 0.1, night % 3 == 0 ? "no" : null);
    test(xml, "passes", 2, null);
    if (night < 16) {
      test(xml, "goes", 0.1, null);
    }
    if (night >= 18) {
      test(xml, "comes", 0.1, null);
    }
    // A machine that is at other work makes no test slow; what failed tells of no time.
    test(xml, "hangs", 0.3, null);
    xml.append("<system-out>" + night + "</system-out></testsuite>");
    var unused =
        uploads.sendAt(
            Instant.parse("2026-10-01T00:00:00Z").plusSeconds(night * 86_400L),
            stream,
            null,
            UploadRequest.PartKey.NONE,
            Origin.UNKNOWN,
            Map.of(),
            xml.toString());
  }

  private static void test(StringBuilder xml, String name, double time, @Nullable String failure) {
    xml.append("<testcase name='" + name + "' time='" + time + "'>");
    xml.append(failure == null ? "" : "<failure message='" + failure + "'/>");
    xml.append("</testcase>");
  }

  private List<RankStore.Ranked> ranked(Rank by, @Nullable String stream, Criterion filter) {
    TestDatabase.work(stores);
    return stores
        .ranks()
        .ranked(
            uploads.project(),
            new RankStore.Question(
                by, RankStore.Question.only(stream), filter, LocalDate.parse("2026-11-20"), 0, 50));
  }

  private List<String> names(Rank by, String stream) {
    return ranked(by, stream, Criterion.EVERYTHING).stream().map(one -> one.test().name()).toList();
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2})
  void inWhateverOrder(long seed) {
    String stream = "ranks/order" + seed;
    List<Integer> nights = new ArrayList<>();
    for (int night = 0; night < NIGHTS; night++) {
      nights.add(night);
    }
    Collections.shuffle(nights, new Random(seed));
    for (int night : nights) {
      night(stream, night);
    }
    assertThat(names(Rank.FAILING, stream)).containsExactly("fails");
    assertThat(names(Rank.SLOWING, stream)).containsExactly("slows");
    assertThat(names(Rank.SLOWEST, stream)).startsWith("passes", "slows", "hangs");
    assertThat(names(Rank.STEADY, stream)).startsWith("passes", "slows").doesNotContain("fails");
    assertThat(names(Rank.MISSING, stream)).containsExactly("goes");
    RankStore.Ranked slow = ranked(Rank.SLOWING, stream, Criterion.EVERYTHING).get(0);
    assertThat(slow.millis()).isCloseTo(900, within(0.01));
    assertThat(slow.before()).isCloseTo(400, within(0.01));
    assertThat(startOf(stream, slow.slowerSince())).isEqualTo("2026-10-11T00:00:00Z");
    assertThat(slow.weekly()).isBetween(7.0, 7.5);
    assertThat(slow.weeklyCost()).isBetween(3_400.0, 3_800.0);
    RankStore.Ranked fails = ranked(Rank.FAILING, stream, Criterion.EVERYTHING).get(0);
    assertThat(fails.failed()).isEqualTo(7);
    assertThat(fails.alone()).as("nothing else failed then").isEqualTo(7);
    RankStore.Ranked gone = ranked(Rank.MISSING, stream, Criterion.EVERYTHING).get(0);
    assertThat(gone.missing()).isEqualTo(4);
    assertThat(startOf(stream, gone.last())).isEqualTo("2026-10-16T00:00:00Z");
    assertThat(
            ranked(
                Rank.NEWEST,
                stream,
                Resolver.read("name sw \"co\" or name eq \"goes\"", Thing.TEST, NOW)))
        .extracting(one -> one.test().name())
        .containsExactlyInAnyOrder("comes", "goes");
    assertThat(ranked(Rank.FAILING, "ranks/none", Criterion.EVERYTHING)).isEmpty();
    Today today =
        stores
            .today()
            .today(uploads.project(), "ada", NOW.minusSeconds(86_400), NOW.plusSeconds(60));
    assertThat(today.trust().slower()).extracting(one -> one.test().name()).contains("slows");
    assertThat(today.trust().gone()).extracting(one -> one.test().name()).contains("goes");
    assertThat(stores.today().today(uploads.project(), "ada", LATER, LATER).trust().slower())
        .as("what was told is not told again")
        .isEmpty();
  }

  /** A stream of reviews does not see that a test was renamed; another one of the project does. */
  @Test
  void whatGoesOnUnderAnotherNameIsNotMissing() {
    for (int night = 0; night < 14; night++) {
      for (String stream : List.of("ranks/nightly", "ranks/review")) {
        boolean review = stream.endsWith("review");
        StringBuilder xml = new StringBuilder("<testsuite name='quay.Names'>");
        if (night < 7) {
          test(xml, "goes", 0.3, null);
        }
        test(xml, "passes", 2, null);
        boolean old = night < 7;
        String name = old ? "refusesExpiredSeasonPass" : "refusesAnExpiredSeasonPassAtTheGate";
        test(xml, name, 0.3, null);
        test(xml, "hangs", 1, null);
        var unused =
            uploads.sendAt(
                Instant.parse("2026-10-01T00:00:00Z").plusSeconds(night * 86_400L),
                stream,
                null,
                UploadRequest.PartKey.NONE,
                new Origin("c" + night, review ? "topic-" + night : "main", null),
                Map.of(),
                xml + "<system-out>" + night + stream + "</system-out></testsuite>");
      }
    }
    assertThat(names(Rank.MISSING, "ranks/nightly")).containsExactly("goes");
    assertThat(names(Rank.MISSING, "ranks/review")).containsExactly("goes");
  }

  /** Who became slower is told once, and once more when it is slower still. */
  @Test
  void whatIsSlowerStillIsToldAgain() {
    String told =
        "select to_char(min(slower_at), 'YYYY') from test_figures where slower_at is not null";
    for (int night = 0; night < 40; night++) {
      StringBuilder xml = new StringBuilder("<testsuite name='quay.Still'>");
      test(xml, "slows", night < 10 ? 0.4 : night < 30 ? 0.9 : 2.1, null);
      test(xml, "passes", 2, null);
      test(xml, "hangs", 0.3, null);
      var unused =
          uploads.sendAt(
              Instant.parse("2026-10-01T00:00:00Z").plusSeconds(night * 86_400L),
              "ranks/still",
              null,
              UploadRequest.PartKey.NONE,
              Origin.UNKNOWN,
              Map.of(),
              xml + "<system-out>" + night + "</system-out></testsuite>");
      TestDatabase.work(stores);
      if (night == 19) {
        assertThat(STORE.texts(told)).containsExactly("2100");
        assertThat(
                STORE.texts(
                    "update test_figures set slower_at = '2026-10-20T00:00:00Z'"
                        + " where slower_at is not null returning 'told'"))
            .hasSize(1);
      }
      if (night == 29) {
        assertThat(STORE.texts(told)).containsExactly("2026");
      }
    }
    assertThat(STORE.texts(told)).containsExactly("2100");
  }

  /**
   * A fixture slows all tests of one suite; in another, one test does alone, and is told itself.
   */
  @Test
  void whatSeveralTestsOfASuiteHaveInCommonIsToldOfTheSuite() {
    Random random = new Random(5);
    for (int night = 0; night < NIGHTS; night++) {
      StringBuilder xml = new StringBuilder("<testsuites>");
      for (String suite : List.of("Berths", "Cars", "Decks", "Fares")) {
        xml.append("<testsuite name='quay." + suite + "'>");
        for (int i = 0; i < 8; i++) {
          double slow = suite.equals("Berths") ? 1.8 : suite.equals("Cars") && i == 3 ? 6 : 1;
          double time = 0.3 * (night < 9 ? 1 : slow) * (1 + random.nextDouble() / 20);
          test(xml, suite + i, time, random.nextInt(10) == 0 ? "no" : null);
        }
        // That it has more tests makes no suite slower.
        for (int i = 0; night > 12 && suite.equals("Fares") && i < 8; i++) {
          test(xml, "more" + i, 0.3, null);
        }
        xml.append("<system-out>" + night + "</system-out></testsuite>");
      }
      var unused =
          uploads.sendAt(
              Instant.parse("2026-10-01T00:00:00Z").plusSeconds(night * 86_400L),
              "ranks/suites",
              null,
              UploadRequest.PartKey.NONE,
              Origin.UNKNOWN,
              Map.of(),
              xml.append("</testsuites>").toString());
    }
    TestDatabase.work(stores);
    List<RankStore.SlowSuite> slow =
        stores.ranks().slowSuites(uploads.project(), "ranks/suites", 10);
    assertThat(slow).hasSize(1);
    RankStore.SlowSuite berths = slow.get(0);
    assertThat(berths.suite()).containsExactly("quay.Berths");
    assertThat(berths.tests()).isEqualTo(8);
    assertThat(startOf("ranks/suites", berths.since())).isEqualTo("2026-10-10T00:00:00Z");
    assertThat(berths.millis() / berths.before()).isBetween(1.7, 1.9);
    assertThat(names(Rank.SLOWING, "ranks/suites")).contains("Cars3").hasSize(9);
    assertThat(stores.ranks().slowSuites(uploads.project(), "ranks/none", 10)).isEmpty();
  }

  private String startOf(String stream, @Nullable Integer number) {
    return stores
        .runs()
        .run(uploads.project(), stream, number == null ? 0 : number)
        .orElseThrow()
        .times()
        .started()
        .toString();
  }

  /** Of a stream that does not fit in memory, the tests are counted some at a time. */
  @Test
  void anyNumberAtATime() {
    String stream = "ranks/held";
    for (int night = 0; night < NIGHTS; night++) {
      night(stream, night);
    }
    TestDatabase.work(stores);
    String told =
        "select test_id, ran, failed, alone, last_run_id, missing, gone_at is not null, millis,"
            + " before_millis, slower_run_id from test_figures f join stream s on s.id = f.stream_id"
            + " and s.project_id = f.project_id where s.name = 'ranks/held' order by test_id";
    DSLContext dsl = DSL.using(STORE.database(), SQLDialect.POSTGRES);
    String whole = dsl.fetch(told).format(100);
    long id = STORE.number("select id from stream where name = 'ranks/held'");
    for (int held = 1; held <= 4; held++) {
      dsl.execute("update stream_learning set counted_at = null");
      dsl.execute("update test_figures set ran = 0, millis = 7, before_millis = null");
      // One that no run has is forgotten, wherever it stands between the others.
      dsl.execute(
          "insert into test_figures (project_id, stream_id, test_id, ran, failed, last_run_id,"
              + " missing, weekly) select project_id, stream_id, x, ran, failed, last_run_id,"
              + " missing, weekly from test_figures, unnest(array[0, 999999]) x"
              + " where stream_id = ? on conflict do nothing",
          id);
      StreamCounting.count(dsl, uploads.project(), id, NOW, held);
      assertThat(dsl.fetch(told).format(100)).as("%d at a time", held).isEqualTo(whole);
    }
  }

  /** What is counted later holds nothing up, and is counted then without another run. */
  @Test
  void whatIsNotCountedAtOnceIsCountedSoon() {
    String stream = "ranks/soon";
    StringBuilder many = new StringBuilder("<testsuite name='quay.Many'>");
    for (int i = 0; i < 300; i++) {
      test(many, "t" + i, 0.1, null);
    }
    for (int run = 0; run < 2; run++) {
      var unused =
          uploads.sendAt(
              NOW.plusSeconds(run),
              stream,
              null,
              UploadRequest.PartKey.NONE,
              Origin.UNKNOWN,
              Map.of(),
              many + "<system-out>" + run + "</system-out></testsuite>");
      while (stores.work().doOne(NOW.plusSeconds(60 + run))) {
        assertThat(run).isLessThan(2);
      }
    }
    String ran =
        "select max(ran) from test_figures f join stream s on s.id = f.stream_id"
            + " where s.name = 'ranks/soon'";
    String learned =
        "select count(*) from run_learned l join stream s on s.id = l.stream_id"
            + " where s.name = 'ranks/soon'";
    assertThat(STORE.number(learned)).isEqualTo(2);
    assertThat(STORE.number(ran)).as("for one more run it is not counted anew").isEqualTo(1);
    while (stores.work().doOne(NOW.plusSeconds(700))) {
      assertThat(STORE.number(ran)).isEqualTo(2);
    }
    assertThat(STORE.number(ran)).isEqualTo(2);
  }

  @Test
  void suitesAreSplit() {
    String stream = "ranks/split";
    night(stream, 1);
    TestDatabase.work(stores);
    RankStore.Load load = stores.ranks().loads(uploads.project(), stream).get(0);
    assertThat(load.suite()).isEqualTo("quay.Fares");
    assertThat(load.millis()).isCloseTo(2_900, within(0.01));
    assertThat(load.tests()).isEqualTo(5);
    assertThat(stores.ranks().partsNow(uploads.project(), stream)).hasSize(1);
    assertThat(stores.ranks().loads(uploads.project(), "ranks/none")).isEmpty();
  }
}
