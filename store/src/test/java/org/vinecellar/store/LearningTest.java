package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.TrustStore.TestLine;
import org.vinecellar.core.trust.flaky.Verdict;

/** What is believed of tests is learned from runs, the same in whatever order they come. */
class LearningTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);

  /**
   * A run.
   *
   * @param at its minute
   * @param tests name, or suite and name with # between, and what came of it: P passed, F failed, R
   *     passed when tried again, O failed for a reason that many have, T passed when tried again
   *     after that, W failed with words that others say too, V passed when tried again after those
   */
  private record Night(
      int at,
      String commit,
      @Nullable String branch,
      String environment,
      Map<String, Character> tests) {
    /** With half of its tests. */
    Night half(boolean first) {
      Map<String, Character> some = new TreeMap<>(tests);
      some.keySet().removeIf(test -> first != (test.hashCode() % 2 == 0));
      return new Night(at, commit, branch, environment, some);
    }

    String xml() {
      StringBuilder xml = new StringBuilder("<testsuite name='quay.Bell'>");
      tests.forEach(
          (test, came) -> {
            String[] names = test.split("#");
            String suite = names.length > 1 ? "classname='quay." + names[0] + "' " : "";
            String name = names[names.length - 1];
            xml.append("<testcase " + suite + "name='" + name + "' time='0.1'>");
            switch (came) {
              case 'F' -> xml.append("<failure message='expected: &lt;1&gt; but was: &lt;2&gt;'/>");
              case 'O' -> xml.append("<error message='Connection to db-quay:5432 refused'/>");
              case 'R' ->
                  xml.append("<flakyFailure message='expected: &lt;1&gt; but was: &lt;2&gt;'/>");
              case 'T' ->
                  xml.append("<flakyFailure message='Connection to db-quay:5432 refused'/>");
              case 'W' -> xml.append("<failure " + words(names[0]) + "</failure>");
              case 'V' -> xml.append("<flakyFailure " + words(names[0]) + "</flakyFailure>");
              default -> {}
            }
            xml.append("</testcase>");
          });
      // What is the same to the letter has been sent before.
      return xml.append("<system-out>minute " + at + "</system-out></testsuite>").toString();
    }
  }

  /** What several say, each with its own number and from its own place. */
  private static String words(String name) {
    String error =
        "java.lang.AssertionError: no ship at berth " + Math.floorMod(name.hashCode(), 97);
    return "type='java.lang.AssertionError' message='no ship'>"
        + error
        + "\n\tat quay.Bell."
        + name
        + "(Bell.java:"
        + Math.floorMod(name.hashCode(), 300)
        + ")";
  }

  private void send(String stream, Night night) {
    send(stream, null, UploadRequest.PartKey.NONE, night);
  }

  private void send(String stream, @Nullable String run, UploadRequest.PartKey part, Night night) {
    var unused =
        uploads.sendAt(
            Instant.parse("2026-10-01T00:00:00Z").plusSeconds(night.at * 60L),
            stream,
            run,
            part,
            new Origin(night.commit, night.branch, null),
            Map.of("env", night.environment),
            night.xml());
  }

  /** All that is believed, with the runs told by their minutes. */
  private Map<String, String> believed(String stream) {
    TestDatabase.work(stores);
    Map<String, String> believed = new TreeMap<>();
    for (TestLine line : stores.trust().tests(uploads.project(), stream, 0, 1_000)) {
      Integer since = line.since();
      String from =
          since == null
              ? "-"
              : stores
                  .runs()
                  .run(uploads.project(), stream, since)
                  .orElseThrow()
                  .times()
                  .started()
                  .toString();
      believed.put(line.test().name(), line.estimate() + " since " + from);
    }
    return believed;
  }

  private Estimate estimate(String stream, String test) {
    return stores.trust().tests(uploads.project(), stream, 0, 20_000).stream()
        .filter(line -> line.test().name().equals(test))
        .findFirst()
        .orElseThrow()
        .estimate();
  }

  private Verdict verdict(String stream, String test) {
    return estimate(stream, test).verdict();
  }

  private double score(String stream, String test) {
    return estimate(stream, test).score();
  }

  /** Sound, flaky, flaky in one environment, broken from a night on, and what an outage hits. */
  private static List<Night> nights(Random random, int count) {
    List<Night> nights = new ArrayList<>();
    int breaks = count / 3 + random.nextInt(count / 3);
    for (int at = 0; at < count; at++) {
      boolean outage = random.nextInt(12) == 0;
      String environment = random.nextInt(3) == 0 ? "pier" : "quay";
      boolean topic = at > 2 && random.nextInt(6) == 0;
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 9; i++) {
        char met = random.nextBoolean() ? 'O' : 'T';
        tests.put("sound" + i, outage && i < 7 ? met : 'P');
      }
      tests.put("byChance", random.nextInt(4) == 0 ? 'F' : 'P');
      tests.put("inTheEnd", random.nextInt(4) == 0 ? 'R' : 'P');
      tests.put("onThePier", environment.equals("pier") && random.nextInt(3) == 0 ? 'F' : 'P');
      tests.put("broken", at >= breaks ? 'F' : 'P');
      tests.put("byTheTopic", topic ? 'F' : 'P');
      tests.put("wordyBroken", at > 3 ? 'W' : 'P');
      tests.put("wordyToo", at > breaks ? 'W' : 'P');
      tests.put("wordy", random.nextInt(5) == 0 ? 'W' : 'P');
      tests.put("wordyInTheEnd", random.nextInt(5) == 0 ? 'V' : 'P');
      if (at > count / 2) {
        tests.put("young", random.nextInt(5) == 0 ? 'F' : 'P');
      }
      nights.add(
          new Night(
              at * 10,
              "c" + (topic ? 100 + at : at / 2),
              topic ? "topic-" + at : "main",
              environment,
              tests));
    }
    return nights;
  }

  @Test
  void testsAreTakenForWhatTheyShow() {
    nights(new Random(3), 60).forEach(night -> send("quay/in-order", night));
    TestDatabase.work(stores);
    assertThat(verdict("quay/in-order", "byChance")).isEqualTo(Verdict.FLAKY);
    assertThat(verdict("quay/in-order", "inTheEnd")).isEqualTo(Verdict.FLAKY);
    assertThat(verdict("quay/in-order", "onThePier")).isEqualTo(Verdict.FLAKY);
    assertThat(verdict("quay/in-order", "broken")).isEqualTo(Verdict.BROKEN);
    assertThat(verdict("quay/in-order", "byTheTopic")).isNotEqualTo(Verdict.FLAKY);
    for (int i = 0; i < 9; i++) {
      assertThat(verdict("quay/in-order", "sound" + i)).isEqualTo(Verdict.STEADY);
    }
  }

  /** Whatever else fails for the same cause: what is red night after night is not called steady. */
  @Test
  void whatFailsWithManyOthersIsBrokenWhenItGoesOnFailing() {
    for (int at = 0; at < 30; at++) {
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 9; i++) {
        tests.put("sound" + i, 'P');
        tests.put("down" + i, at == 10 || at > 26 ? 'O' : 'P');
      }
      tests.put("mended", at > 4 && at < 9 ? 'F' : at > 26 ? 'O' : 'P');
      send("quay/down", new Night(at * 10, "c" + at, "main", "quay", tests));
      if (at == 28) {
        TestDatabase.work(stores);
        assertThat(verdict("quay/down", "down1")).isEqualTo(Verdict.STEADY);
      }
    }
    TestDatabase.work(stores);
    assertThat(verdict("quay/down", "down1")).isEqualTo(Verdict.BROKEN);
    assertThat(verdict("quay/down", "mended")).isEqualTo(Verdict.BROKEN);
    assertThat(verdict("quay/down", "sound1")).isEqualTo(Verdict.STEADY);
  }

  /** An outage that is over when they are tried again is one all the same. */
  @Test
  void whatManyMeetBeforeTheyPassTellsOfNone() {
    for (int at = 0; at < 20; at++) {
      boolean outage = at == 7 || at == 12 || at == 16;
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 30; i++) {
        tests.put("met" + i, outage && i < 6 ? (at == 16 && i < 3 ? 'O' : 'T') : 'P');
      }
      tests.put("byItself", outage ? 'R' : 'P');
      send("quay/over", new Night(at * 10, "c" + at, "main", "quay", tests));
    }
    TestDatabase.work(stores);
    for (int i = 0; i < 6; i++) {
      assertThat(verdict("quay/over", "met" + i)).isEqualTo(Verdict.STEADY);
    }
    assertThat(verdict("quay/over", "byItself")).isEqualTo(Verdict.FLAKY);
  }

  /** Of so many that nobody asks what each says, none tells of its test. */
  @Test
  void aRunInWhichThousandsPassWhenTriedAgainTellsOfNone() {
    for (int at = 0; at < 20; at++) {
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; at == 12 && i < 9_000; i++) {
        tests.put("some" + i, i < 2_100 ? 'R' : 'P');
      }
      tests.put("mended", at == 12 ? 'R' : at > 2 && at < 6 ? 'F' : 'P');
      tests.put("byItself", at == 10 || at == 12 ? 'R' : 'P');
      send("quay/thousands", new Night(at * 10, "c" + at, "main", "quay", tests));
    }
    TestDatabase.work(stores);
    assertThat(verdict("quay/thousands", "some7")).isNotEqualTo(Verdict.FLAKY);
    assertThat(verdict("quay/thousands", "mended")).isNotEqualTo(Verdict.FLAKY);
    assertThat(verdict("quay/thousands", "byItself")).isEqualTo(Verdict.FLAKY);
  }

  /** What a test does in each of its variants is no cause that many tests have. */
  @Test
  void aTestThatStumblesInAllItsVariantsIsStillOne() {
    for (int at = 0; at < 20; at++) {
      boolean stumbles = at == 7 || at == 12;
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 4; i++) {
        tests.put("sound" + i, 'P');
      }
      tests.put("bell", stumbles ? 'T' : 'P');
      for (String browser : List.of("gannet", "heron", "plover", "skua", "tern", "wren")) {
        Variant variant = Variant.of(Map.of("browser", browser));
        send(
            "quay/variants",
            "at-" + at,
            new UploadRequest.PartKey(null, variant, null),
            new Night(at * 10, "c" + at, "main", "quay", tests));
      }
    }
    TestDatabase.work(stores);
    assertThat(stores.trust().tests(uploads.project(), "quay/variants", 0, 1_000))
        .hasSize(30)
        .allSatisfy(
            line ->
                assertThat(line.estimate().verdict())
                    .isEqualTo(line.test().name().equals("bell") ? Verdict.FLAKY : Verdict.STEADY));
  }

  /**
   * Where some have said the same words for long, one more that says them fails by itself; where
   * several say them at once that did not before, it may be one thing that befell them.
   */
  @Test
  void onlyMoreThanUsuallySayTheSameWordsAreASignOfOneCause() {
    for (int at = 0; at < 40; at++) {
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 120; i++) {
        tests.put("sound" + i, 'P');
      }
      for (int i = 0; i < 4; i++) {
        // One of them passes in every fifth run.
        tests.put("long" + i, at > 4 && (i > 0 || at % 5 > 0) ? 'W' : 'P');
        tests.put("together" + i, at == 30 ? 'W' : 'P');
      }
      tests.put("ownWords", at == 21 ? 'F' : 'P');
      tests.put("ownWordsThen", at == 30 ? 'F' : 'P');
      tests.put("sameWords", at == 21 ? 'W' : 'P');
      tests.put("ownWordsFirst", at == 23 ? 'R' : 'P');
      tests.put("sameWordsFirst", at == 23 ? 'V' : 'P');
      send("quay/words", new Night(at * 10, "c" + at, "main", "quay", tests));
    }
    TestDatabase.work(stores);
    double own = score("quay/words", "ownWords");
    assertThat(own).isGreaterThan(0.1);
    assertThat(score("quay/words", "sameWords")).isEqualTo(own);
    double first = score("quay/words", "ownWordsFirst");
    assertThat(first).isGreaterThan(0.4);
    assertThat(score("quay/words", "sameWordsFirst")).isEqualTo(first);
    for (int i = 0; i < 4; i++) {
      assertThat(verdict("quay/words", "long" + i)).isNotEqualTo(Verdict.STEADY);
      assertThat(score("quay/words", "together" + i))
          .isLessThan(score("quay/words", "ownWordsThen") - 0.1);
    }
  }

  /** What fails on a bad night tells of its test when no more fails than usually does beside it. */
  @Test
  void aBadNightTellsOfTestsThatFailAsUsualBesideWhatBefellIt() {
    for (int at = 0; at < 30; at++) {
      boolean bad = at == 15 || at == 20;
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 50; i++) {
        tests.put("met" + i, bad && i < 30 ? (i < 8 ? 'T' : 'O') : 'P');
        // In one of the two many others fail too, each for itself.
        tests.put("follows" + i, at == 20 && i < 5 ? 'F' : 'P');
      }
      tests.put("broken0", at > 2 ? 'F' : 'P');
      tests.put("broken1", at > 2 ? 'F' : 'P');
      // As many fail beside it as ever: this one instead of that.
      tests.put("broken2", at > 2 && at != 15 ? 'F' : 'P');
      tests.put("onlyOnTheFirst", at == 15 ? 'R' : 'P');
      tests.put("onlyOnTheWorst", at == 20 ? 'R' : 'P');
      send("quay/bad", new Night(at * 10, "c" + at, "main", "quay", tests));
    }
    TestDatabase.work(stores);
    assertThat(verdict("quay/bad", "onlyOnTheFirst")).isNotEqualTo(Verdict.STEADY);
    assertThat(verdict("quay/bad", "onlyOnTheWorst")).isEqualTo(Verdict.STEADY);
    for (int i = 0; i < 50; i++) {
      assertThat(verdict("quay/bad", "met" + i)).isEqualTo(Verdict.STEADY);
      assertThat(verdict("quay/bad", "follows" + i)).isEqualTo(Verdict.STEADY);
    }
  }

  private void sendSome(Night night, String part, Random random) {
    send("quay/any-order", "at-" + night.at, UploadRequest.PartKey.named(part), night);
    if (random.nextInt(3) == 0) {
      TestDatabase.work(stores);
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4})
  void whateverOrderRunsComeInTheSameIsBelieved(int seed) {
    List<Night> nights = nights(new Random(seed), 24);
    nights.forEach(night -> send("quay/in-order", night));
    Map<String, String> inOrder = believed("quay/in-order");
    Random random = new Random(seed);
    List<Night> shuffled = new ArrayList<>(nights);
    Collections.shuffle(shuffled, random);
    Night more =
        new Night(random.nextInt(24) * 10 + 5, "c7", "main", "quay", nights.get(5).tests());
    shuffled.add(random.nextInt(24), more);
    List<Night> later = new ArrayList<>();
    for (Night night : shuffled) {
      boolean first = random.nextBoolean();
      boolean whole = night == more || random.nextInt(3) > 0;
      sendSome(whole ? night : night.half(first), "a", random);
      if (!whole) {
        later.add(night.half(!first));
      }
      if (!later.isEmpty() && random.nextInt(4) == 0) {
        sendSome(later.remove(random.nextInt(later.size())), "b", random);
      }
    }
    later.forEach(night -> sendSome(night, "b", random));
    // One too many, which goes again.
    long gone =
        stores
            .runs()
            .run(uploads.project(), "quay/any-order", shuffled.indexOf(more) + 1)
            .orElseThrow()
            .id();
    assertThat(stores.removal().removeRun(uploads.project(), gone, NOW)).isTrue();
    assertThat(believed("quay/any-order")).isEqualTo(inOrder);
    assertThat(since("quay/any-order")).isEqualTo(sinceByResults("quay/any-order"));
  }

  /** However many come between those that are known, before anybody learns of them. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6})
  void whateverManyComeBetweenItIsKnownSinceWhenTestsAreThere(int seed) {
    Random random = new Random(seed);
    String stream = "quay/since-" + seed;
    List<Night> nights = new ArrayList<>();
    for (int at = 0; at < 36; at++) {
      Map<String, Character> tests = new TreeMap<>();
      for (int i = 0; i < 14; i++) {
        if (random.nextInt(3) == 0) {
          tests.put("counts" + i, 'P');
        }
      }
      tests.put("opens", 'P');
      nights.add(new Night(at * 10, "c" + at, at % 5 == 4 ? "topic" : "main", "quay", tests));
    }
    Collections.shuffle(nights, random);
    while (!nights.isEmpty()) {
      for (int some = 1 + random.nextInt(16); some > 0 && !nights.isEmpty(); some--) {
        send(stream, nights.remove(0));
      }
      TestDatabase.work(stores);
      assertThat(since(stream)).isEqualTo(sinceByResults(stream));
    }
  }

  /** Since which run, and since which of the main branch, a stream has each test, as is kept. */
  private List<String> since(String stream) {
    return STORE.texts(
        "select t.name || ' ' || s.first_run_id || ' ' || coalesce(s.main_run_id, 0)"
            + " from test_in_stream s join stream m on m.id = s.stream_id and m.name = '"
            + stream
            + "' and m.project_id = "
            + uploads.project()
            + " join test t on t.project_id = m.project_id and t.id = s.test_id order by 1");
  }

  /** The same, told by the results. */
  private List<String> sinceByResults(String stream) {
    return STORE.texts(
        "select t.name || ' ' || (array_agg(r.id order by r.started_at, r.number))[1] || ' '"
            + " || coalesce((array_agg(r.id order by r.started_at, r.number)"
            + " filter (where r.branch = 'main'))[1], 0)"
            + " from run r join stream m on m.id = r.stream_id and m.name = '"
            + stream
            + "' and m.project_id = "
            + uploads.project()
            + " join result x on x.run_id = r.id join test t on t.project_id = m.project_id"
            + " and t.id = x.test_id where r.number is not null and r.deleted_at is null"
            + " group by t.id, t.name order by 1");
  }

  @ParameterizedTest
  @ValueSource(ints = {5, 6, 7})
  void learnedFromAsEachRunEndsTheSameIsBelievedAsFromAllAtOnce(int seed) {
    List<Night> nights = nights(new Random(seed), 44);
    Night late = new Night(415, "c20", "main", "quay", nights.get(40).tests());
    nights.forEach(night -> send("quay/in-order", night));
    for (Night night : nights) {
      send("quay/one-by-one", night);
      TestDatabase.work(stores);
    }
    assertThat(believed("quay/one-by-one")).isEqualTo(believed("quay/in-order"));
    assertThat(since("quay/one-by-one")).isEqualTo(sinceByResults("quay/one-by-one"));
    // One that comes between the latest: those are learned from again, after what was settled.
    send("quay/in-order", late);
    send("quay/one-by-one", late);
    assertThat(believed("quay/one-by-one")).isEqualTo(believed("quay/in-order"));
  }

  private List<String> renames(String stream) {
    TestDatabase.work(stores);
    return stores.trust().renames(uploads.project(), stream).stream()
        .map(one -> one.old().name() + " > " + one.now().name() + (one.joined() ? "" : " ?"))
        .sorted()
        .toList();
  }

  /** A flaky test is renamed, another one moves away, and one goes for good. */
  private static List<Night> renamed(Random random) {
    List<Night> nights = new ArrayList<>();
    int when = 10 + random.nextInt(5);
    for (int at = 0; at < 24; at++) {
      Map<String, Character> tests = new TreeMap<>();
      for (String name :
          List.of(
              "countsCarsOnDeck", "countsGuestsOnDeck", "ringsBeforeDeparture", "opensTheRamp")) {
        tests.put(name, 'P');
      }
      boolean old = at < when;
      tests.put(
          old ? "refusesExpiredSeasonPass" : "refusesAnExpiredSeasonPassAtTheGate",
          random.nextInt(3) == 0 ? 'F' : 'P');
      tests.put(old ? "warnsOfStrongTide" : "tellsTheCaptainsName", 'P');
      nights.add(new Night(at * 10, "c" + at, "main", "quay", tests));
    }
    return nights;
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3})
  void aRenamedTestKeepsWhatIsKnownOfItInWhateverOrderItsRunsCome(int seed) {
    List<Night> nights = renamed(new Random(seed));
    nights.forEach(night -> send("quay/in-order", night));
    Map<String, String> inOrder = believed("quay/in-order");
    assertThat(renames("quay/in-order"))
        .containsExactly("refusesExpiredSeasonPass > refusesAnExpiredSeasonPassAtTheGate");
    assertThat(inOrder).doesNotContainKey("refusesExpiredSeasonPass");
    assertThat(inOrder.get("refusesAnExpiredSeasonPassAtTheGate"))
        .contains("verdict=FLAKY", "runs=24");
    Random random = new Random(seed);
    Collections.shuffle(nights, random);
    for (Night night : nights) {
      sendSome(night, "a", random);
    }
    assertThat(believed("quay/any-order")).isEqualTo(inOrder);
    assertThat(renames("quay/any-order")).isEqualTo(renames("quay/in-order"));
    // The old name is there again: it was another test.
    Map<String, Character> both = new TreeMap<>(nights.get(0).tests());
    both.put("refusesExpiredSeasonPass", 'P');
    both.put("refusesAnExpiredSeasonPassAtTheGate", 'P');
    send("quay/any-order", new Night(999, "c99", "main", "quay", both));
    assertThat(renames("quay/any-order")).isEmpty();
    assertThat(believed("quay/any-order").get("refusesExpiredSeasonPass")).contains("FLAKY");
    assertThat(believed("quay/any-order").get("refusesAnExpiredSeasonPassAtTheGate"))
        .doesNotContain("runs=25");
  }

  /** A suite that one night did not reach was not taken away in it; a test beside others was. */
  @Test
  void aSuiteThatOneNightDidNotReachIsFoundUnderItsNewName() {
    for (int at = 0; at < 8; at++) {
      String suite = at < 5 ? "Horn" : "Foghorn";
      Map<String, Character> tests = new TreeMap<>();
      for (String name : List.of("countsCarsOnDeck", "ringsBeforeDeparture", "liftsTheGangway")) {
        tests.put("Ramp#" + name, 'P');
      }
      if (at != 4) {
        tests.put(suite + "#blowsTwiceInFog", 'P');
        tests.put(suite + "#isHeardAcrossTheSound", 'P');
      }
      if (at != 4) {
        tests.put(at < 4 ? "Ramp#opensInTime" : "Ramp#opensInTimeAgain", 'P');
      }
      send("quay/unreached", new Night(at * 10, "c" + at, "main", "quay", tests));
    }
    assertThat(renames("quay/unreached"))
        .containsExactly(
            "blowsTwiceInFog > blowsTwiceInFog", "isHeardAcrossTheSound > isHeardAcrossTheSound");
  }

  /** Many say at once which test is which: each goes on as one other, and none in a circle. */
  @Test
  void whateverManySayAtOnceNoTestGoesOnAsTwoOrAsItself() throws Exception {
    Map<String, Character> tests = new TreeMap<>();
    List.of("gannet", "heron", "plover", "skua", "tern").forEach(name -> tests.put(name, 'P'));
    send("quay/said", new Night(0, "c0", "main", "quay", tests));
    TestDatabase.work(stores);
    List<Long> ids =
        stores.trust().tests(uploads.project(), "quay/said", 0, 10).stream()
            .map(line -> line.test().id())
            .toList();
    List<Callable<Boolean>> said = new ArrayList<>();
    for (long old : ids) {
      for (long now : ids) {
        said.add(() -> isTaken(old, now));
      }
    }
    Collections.shuffle(said, new Random(5));
    ExecutorService people = Executors.newFixedThreadPool(8);
    for (Future<Boolean> one : people.invokeAll(said)) {
      assertThat(one.get()).isNotNull();
    }
    people.shutdown();
    TestDatabase.work(stores);
    Map<Long, Long> next = new TreeMap<>();
    for (String pair :
        STORE.texts("select old_test_id || ' ' || new_test_id from succession where state = 3")) {
      String[] both = pair.split(" ");
      assertThat(next.put(Long.valueOf(both[0]), Long.valueOf(both[1]))).as(pair).isNull();
    }
    assertThat(next).hasSize(ids.size() - 1);
    for (long id : ids) {
      Long at = id;
      for (int steps = 0; at != null; steps++) {
        assertThat(steps).as("from " + id).isLessThan(ids.size());
        at = next.get(at);
      }
    }
  }

  private boolean isTaken(long old, long now) {
    try {
      stores.trust().say(uploads.project(), "quay/said", old, now, true, new Hand("ada", NOW));
      return true;
    } catch (CellarException e) {
      return false;
    }
  }
}
