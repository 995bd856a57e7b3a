package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;

/** What was sent under a wrong name is put right, and then all is as if it had come rightly. */
class MovesTest {
  @RegisterExtension static final TestStore STORE = new TestStore();

  private static final Instant NOW = Instant.parse("2026-10-20T20:00:00Z");
  private static final EditStore.Hand HAND = new EditStore.Hand("robin", NOW);

  private final Stores stores = STORE.stores();
  private final MoveStore moves = stores.moves();
  private TestUploads uploads = TestUploads.inNewProject(stores, NOW);

  @BeforeEach
  void aProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  private static String night(int hour, String outcome) {
    return TestUploads.suite("Quay", "boards:P berth:" + outcome)
        .replace(
            "<testsuite ",
            "<testsuite timestamp='" + NOW.minus(Duration.ofHours(900 - hour)) + "' ");
  }

  private List<RunSummary> runs(String stream) {
    return stores.runs().runs(uploads.project(), RunQuery.newest(stream, 100));
  }

  /** What each run is, with which it is compared, and what changed; the newest first. */
  private List<String> told(String stream) {
    List<RunSummary> runs = runs(stream);
    List<String> all = new ArrayList<>();
    for (RunSummary run : runs) {
      Integer before = run.neighbours().previous();
      String with =
          runs.stream()
              .filter(other -> before != null && other.number() == before)
              .map(other -> other.times().started().toString())
              .findFirst()
              .orElse("nothing");
      all.add(run.times().started() + " " + run.counts() + " with " + with + ": " + run.changes());
    }
    return all;
  }

  private List<Instant> strip(String stream) {
    return stores.runs().stream(uploads.project(), stream).orElseThrow().strip().stream()
        .map(RunPoint::startedAt)
        .toList();
  }

  /** Uploads under the right and the wrong name, moves and renames, all at once. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void afterItAllIsAsIfItHadComeRightly(long seed) throws Exception {
    Random random = new Random(seed);
    List<String> nights = new ArrayList<>();
    for (int hour = 0; hour < 60; hour++) {
      nights.add(night(hour, List.of("P", "F", "S").get(random.nextInt(3))));
    }
    nights.forEach(
        night -> assertThat(uploads.send("rightly/nightly", null, night).duplicate()).isFalse());
    TestDatabase.work(stores);

    Receipt unused = uploads.send("quay/nightly", null, nights.get(0));
    unused = uploads.send("quai/nightly", null, nights.get(1));
    List<Callable<Boolean>> all = new ArrayList<>();
    for (String night : nights.subList(2, 60)) {
      String name = List.of("quay/nightly", "quai/nightly").get(random.nextInt(2));
      all.add(() -> uploads.send(name, null, night).number() > 0);
    }
    all.add(
        () -> {
          moves.moveAll(uploads.project(), "quai/nightly", "quay/nightly", HAND);
          return true;
        });
    all.add(
        () -> {
          moves.rename(uploads.project(), "quay/nightly", "quay/" + seed, HAND);
          return true;
        });
    all.add(
        () -> {
          for (RunSummary run : runs("quai/nightly").stream().limit(3).toList()) {
            tryTo(() -> moves.moveRun(uploads.project(), run.id(), "quay/nightly", HAND));
          }
          return true;
        });
    for (int i = 0; i < 4; i++) {
      all.add(
          () -> {
            TestDatabase.work(stores);
            return true;
          });
    }
    Collections.shuffle(all, random);
    // As many at once as have two connections each.
    ExecutorService threads = Executors.newFixedThreadPool(16);
    for (Future<Boolean> one : threads.invokeAll(all)) {
      assertThat(one.get()).isTrue();
    }
    threads.shutdown();
    TestDatabase.work(stores);

    assertThat(told("quay/" + seed)).isEqualTo(told("rightly/nightly"));
    assertThat(told("quai/nightly")).as("under a name of before").hasSize(60);
    assertThat(strip("quay/" + seed)).isEqualTo(strip("rightly/nightly")).hasSize(30);
    assertThat(stores.runs().streams(uploads.project()))
        .extracting(stream -> stream.name() + " " + stream.runCount())
        .containsExactly("quay/" + seed + " 60", "rightly/nightly 60");
    assertThat(moves.namesBefore(uploads.project(), "quay/" + seed))
        .containsExactly("quai/nightly", "quay/nightly");
    assertThat(STORE.count("stream where project_id = " + uploads.project())).isEqualTo(2);
    assertThat(new Recount(STORE.database()).books(uploads.project()).differences()).isEmpty();
  }

  /** What is moved beside by work counts as moved, even when the stream is gone by then. */
  @Test
  void whoMovesAllIsToldOfAllWhoeverDidIt() throws Exception {
    for (int round = 0; round < 30; round++) {
      String from = "from-" + round;
      Receipt unused = uploads.send(from, null, night(2 * round, "P"));
      unused = uploads.send("to-" + round, null, night(2 * round + 1, "P"));
      TestDatabase.work(stores);
      String to = "to-" + round;
      Future<MoveStore.Moved> moved =
          STORE.threads().submit(() -> moves.moveAll(uploads.project(), from, to, HAND));
      while (!moved.isDone()) {
        TestDatabase.work(stores);
      }
      assertThat(moved.get()).isEqualTo(new MoveStore.Moved(to, 1, 0));
    }
  }

  @Test
  void oneOfTwoGetsAName() throws Exception {
    for (int round = 0; round < 20; round++) {
      String name = "wanted-" + round;
      List<Callable<Boolean>> both = new ArrayList<>();
      for (String stream : List.of("one-" + round, "two-" + round)) {
        Receipt unused = uploads.send(stream, null, night(round, "P"));
        both.add(
            () -> {
              try {
                moves.rename(uploads.project(), stream, name, HAND);
                return true;
              } catch (CellarException e) {
                assertThat(e.code()).isEqualTo(ProblemCode.ALREADY_EXISTS);
                return false;
              }
            });
      }
      int won = 0;
      for (Future<Boolean> one : STORE.threads().invokeAll(both)) {
        won += one.get() ? 1 : 0;
      }
      assertThat(won).isEqualTo(1);
    }
  }

  /** What one of many does may be done by another, or be too late. */
  private static void tryTo(Runnable move) {
    try {
      move.run();
    } catch (CellarException e) {
      assertThat(e.code()).isIn(ProblemCode.INVALID_VALUE, ProblemCode.NOT_FOUND);
    }
  }

  @Test
  void whatIsSentToANameOfBeforeSaysSo() {
    Receipt unused = uploads.send("quai/nightly", null, night(1, "P"));
    moves.rename(uploads.project(), "quai/nightly", "quay/nightly", HAND);
    Receipt next = uploads.send("quai/nightly", null, night(2, "P"));
    assertThat(next.stream()).isEqualTo("quay/nightly");
    assertThat(next.number()).isEqualTo(2);
    assertThat(next.notice()).isEqualTo("“quai/nightly” is called “quay/nightly” now; name it so");
    assertThat(uploads.send("quai/nightly", null, night(2, "P")).duplicate()).isTrue();

    // A name of before can be had again: by a rename, and by letting it go.
    unused = uploads.send("ferry/nightly", null, night(3, "P"));
    moves.rename(uploads.project(), "ferry/nightly", "quai/nightly", HAND);
    assertThat(uploads.send("quai/nightly", null, night(4, "P")).notice()).isNull();
    assertThat(runs("ferry/nightly")).hasSize(2);
    assertThat(moves.forget(uploads.project(), "ferry/nightly")).isTrue();
    assertThat(moves.forget(uploads.project(), "ferry/nightly")).isFalse();
    assertThat(runs("ferry/nightly")).isEmpty();
    assertThat(uploads.send("ferry/nightly", null, night(5, "P")).number()).isEqualTo(1);
    moves.rename(uploads.project(), "quay/nightly", "quay/nightly", HAND);

    // Who is taken away takes its names along.
    moves.rename(uploads.project(), "ferry/nightly", "ferry/x", HAND);
    assertThat(stores.removal().removeStream(uploads.project(), "ferry/x", NOW)).isTrue();
    assertThat(uploads.send("ferry/nightly", null, night(6, "P")).stream())
        .isEqualTo("ferry/nightly");
    TestDatabase.work(stores);
    assertThat(runs("ferry/nightly")).hasSize(1);
  }

  @Test
  void aRunThatMovesKeepsWhoDidIt() {
    Receipt unused = uploads.send("quay/nightly", null, night(1, "P"));
    unused = uploads.send("quai/nightly", null, night(2, "F"));
    long moved = runs("quai/nightly").get(0).id();
    assertThat(moves.moveRun(uploads.project(), moved, "quay/nightly", HAND))
        .isEqualTo(new MoveStore.Place("quay/nightly", 2));
    assertThat(stores.edits().edits(uploads.project(), Subject.run(moved)))
        .singleElement()
        .satisfies(
            edit -> {
              assertThat(edit.by()).isEqualTo("robin");
              assertThat(edit.field()).isEqualTo("stream");
              assertThat(edit.before()).isEqualTo("quai/nightly#1");
              assertThat(edit.after()).isEqualTo("quay/nightly#2");
            });
    assertThat(runs("quay/nightly").get(0).changes().newFailing()).isEqualTo(1);
  }

  /** An address of before leads to the same run, or to none; never to another one. */
  @Test
  void aRunIsFoundUnderWhatItWasCalled() {
    int project = uploads.project();
    Receipt unused = uploads.send("a", null, night(1, "P"));
    unused = uploads.send("a", null, night(2, "F"));
    unused = uploads.send("b", null, night(3, "S"));
    long first = id("a", 1);
    long second = id("a", 2);
    long other = id("b", 1);
    moves.rename(project, "a", "c", HAND);
    assertThat(id("a", 2)).isEqualTo(second);
    MoveStore.Place place = moves.moveRun(project, second, "b", HAND);
    assertThat(place).isEqualTo(new MoveStore.Place("b", 2));
    assertThat(id("c", 2)).isEqualTo(second);
    assertThat(moves.moveAll(project, "b", "c", HAND).left()).isZero();

    assertThat(id("c", 1)).isEqualTo(first);
    assertThat(id("a", 1)).as("renamed").isEqualTo(first);
    assertThat(id("b", 1)).as("moved").isEqualTo(other);
    assertThat(id("b", 2)).as("moved twice").isEqualTo(second);
    assertThat(stores.runs().run(project, "b", 3)).as("there never was one").isEmpty();
    unused = uploads.send("b", null, night(4, "P"));
    assertThat(stores.runs().run(project, "b", 3)).isEmpty();
  }

  private long id(String stream, int number) {
    return stores.runs().run(uploads.project(), stream, number).orElseThrow().id();
  }

  @Test
  void whatCannotBeMovedIsSaid() {
    Receipt unused = uploads.send("quay/nightly", "7", night(1, "P"));
    unused = uploads.send("quay/nightly", null, night(2, "P"));
    unused = uploads.send("quai/nightly", null, night(2, "P"));
    unused = uploads.sendWith("ferry/nightly", null, Map.of(), night(3, "P"));
    long open = runs("quay/nightly").get(1).id();
    long doubled = runs("quai/nightly").get(0).id();
    int project = uploads.project();
    refused(
        () -> moves.moveRun(project, open, "quai/nightly", HAND), ProblemCode.RUN_OPEN, "close");
    refused(
        () -> moves.moveRun(project, doubled, "quay/nightly", HAND),
        ProblemCode.SAME_FILES,
        "run #2 of “quay/nightly” is the very same upload");
    refused(
        () -> moves.moveRun(project, doubled, "quai/nightly", HAND),
        ProblemCode.INVALID_VALUE,
        "already");
    refused(() -> moves.moveRun(project, doubled, "kay", HAND), ProblemCode.NOT_FOUND, "“kay”");
    refused(
        () -> moves.moveRun(project + 1, doubled, "quay/nightly", HAND),
        ProblemCode.NOT_FOUND,
        "no run");
    refused(
        () -> moves.rename(project, "quai/nightly", "ferry/nightly", HAND),
        ProblemCode.ALREADY_EXISTS,
        "move them");
    refused(
        () -> moves.rename(project, "quai/nightly", "a b", HAND), ProblemCode.INVALID_VALUE, "");
    refused(
        () -> moves.rename(project, "quai/nightly", "\u00011", HAND),
        ProblemCode.INVALID_VALUE,
        "");
    refused(() -> moves.rename(project, "kay", "k", HAND), ProblemCode.NOT_FOUND, "“kay”");
    refused(
        () -> moves.moveAll(project, "quai/nightly", "quai/nightly", HAND),
        ProblemCode.INVALID_VALUE,
        "the same stream");
    refused(() -> moves.moveAll(project, "quai/nightly", "kay", HAND), ProblemCode.NOT_FOUND, "");
    assertThat(runs("quay/nightly")).hasSize(2);
    assertThat(runs("quai/nightly")).hasSize(1);

    // All of a stream goes, with what is open: its parts find it by the name of before.
    assertThat(moves.moveAll(project, "quay/nightly", "ferry/nightly", HAND))
        .isEqualTo(new MoveStore.Moved("ferry/nightly", 2, 0));
    assertThat(uploads.send("quay/nightly", "7", night(1, "F").replace("Quay", "Q")).number())
        .isEqualTo(2);
  }

  /** The target is taken away, or moves itself, while runs still come to it. */
  @Test
  void runsFollowTheirTarget() {
    int project = uploads.project();
    for (int hour = 0; hour < 60; hour++) {
      Receipt unused = uploads.send("a", null, night(hour, "P"));
    }
    Receipt unused = uploads.send("b", null, night(70, "P"));
    unused = uploads.send("c", null, night(71, "P"));
    assertThat(moves.moveAll(project, "a", "b", HAND).left()).isEqualTo(10);
    assertThat(moves.moveAll(project, "b", "c", HAND).left()).isEqualTo(1);
    assertThat(uploads.send("a", null, night(72, "P")).stream()).isEqualTo("c");
    TestDatabase.work(stores);
    assertThat(runs("a")).hasSize(63);

    for (int hour = 0; hour < 60; hour++) {
      unused = uploads.send("d", null, night(hour, "F"));
    }
    assertThat(moves.moveAll(project, "d", "c", HAND).left()).isEqualTo(10);
    assertThat(stores.removal().removeStream(project, "c", NOW)).isTrue();
    TestDatabase.work(stores);
    assertThat(STORE.count("run where project_id = " + project)).isZero();
    assertThat(STORE.count("stream where project_id = " + project)).isZero();
  }

  private static void refused(ThrowingCallable call, ProblemCode code, String why) {
    assertThatThrownBy(call)
        .isInstanceOfSatisfying(CellarException.class, e -> assertThat(e.code()).isEqualTo(code))
        .hasMessageContaining(why);
  }
}
