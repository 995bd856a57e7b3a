package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.Ingest;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.ingest.UploadRequest.PartKey;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.Job;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSettings;

/** One key, used night after night: each night is a run of its own, and a red one stays red. */
class NightsTest {
  @RegisterExtension static final TestStore STORE = new TestStore();

  private static final Instant EIGHT = Instant.parse("2026-10-01T20:00:00Z");

  /** Begins a text that is sent packed. */
  private static final String PACKED = "gz:";

  private static final String TAP = "1..1\nok 1 - the ramp is down\n";

  private final Stores stores = STORE.stores();
  private int project;
  private int streams;
  private String stream = "";

  @BeforeEach
  void aStream() {
    String key = "p" + System.nanoTime();
    project = stores.projects().create(key, key, null, EIGHT).id();
    stream = "quay/" + ++streams;
  }

  private record Text(String text) implements SourceFile {
    @Override
    public String name() {
      return text.startsWith("<") ? "f.xml" : "f.tap";
    }

    @Override
    public InputStream open() {
      byte[] plain = text.replace(PACKED, "").getBytes(StandardCharsets.UTF_8);
      return new ByteArrayInputStream(text.startsWith(PACKED) ? packed(plain) : plain);
    }

    private static byte[] packed(byte[] plain) {
      ByteArrayOutputStream packed = new ByteArrayOutputStream();
      try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
        gzip.write(plain);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
      return packed.toByteArray();
    }
  }

  /** What is pushed: at what time, from where, as which attempt. */
  private record Push(
      Instant arrives,
      @Nullable String commit,
      @Nullable String build,
      @Nullable Integer attempt,
      @Nullable Integer expected,
      String text) {
    Push(Instant arrives, String text) {
      this(arrives, null, null, null, null, text);
    }
  }

  private Receipt push(Push push) {
    return new Ingest(stores.ingest(), ReadLimits.DEFAULT, push::arrives)
        .receive(
            new UploadRequest(
                new UploadRequest.Target(
                    project, stream, "nightly", new PartKey(null, Variant.NONE, push.attempt)),
                new Origin(push.commit, "main", push.build),
                Map.of(),
                push.expected,
                null,
                null,
                CsvColumns.NONE,
                false),
            List.of(new Text(push.text)));
  }

  private static String suite(String name, Instant began, String outcome) {
    return "<testsuite name='"
        + name
        + "' timestamp='"
        + began
        + "'><testcase name='boards' time='1'>"
        + (outcome.equals("F") ? "<failure message='late'/>" : "")
        + "</testcase></testsuite>";
  }

  private RunSummary run(int number) {
    return stores.runs().run(project, stream, number).orElseThrow();
  }

  /** Parts of five nights, all at once and in any order, some hours or days after they ran. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void nightsAreKeptApart(long seed) throws Exception {
    Random random = new Random(seed);
    List<Callable<Receipt>> parts = new ArrayList<>();
    for (int night = 0; night < 5; night++) {
      for (int part = 0; part < 4; part++) {
        Instant began = EIGHT.plus(Duration.ofHours(24L * night)).plusSeconds(random.nextInt(9000));
        String text = suite("part " + part, began, night == 2 && part == 1 ? "F" : "P");
        parts.add(() -> push(new Push(EIGHT.plus(Duration.ofDays(6)), text)));
      }
    }
    Collections.shuffle(parts, random);
    for (Future<Receipt> one : STORE.threads().invokeAll(parts)) {
      assertThat(one.get().duplicate()).isFalse();
    }

    List<String> nights = new ArrayList<>();
    for (int number = 1; number <= 5; number++) {
      RunSummary run = run(number);
      nights.add(
          Duration.between(EIGHT, run.times().started()).toDays()
              + ": "
              + run.counts().passed()
              + " passed, "
              + run.counts().failed()
              + " failed");
    }
    assertThat(nights)
        .containsExactlyInAnyOrder(
            "0: 4 passed, 0 failed",
            "1: 4 passed, 0 failed",
            "2: 3 passed, 1 failed",
            "3: 4 passed, 0 failed",
            "4: 4 passed, 0 failed");
    for (Callable<Receipt> part : parts) {
      assertThat(part.call().duplicate()).as("sent again, it changes nothing").isTrue();
    }
  }

  @Test
  void resultsThatTellNoTimeAreOfTheNightInWhichTheyCome() {
    assertThat(push(new Push(EIGHT, TAP)).number()).isEqualTo(1);
    assertThat(push(new Push(EIGHT.plusSeconds(600), TAP)).duplicate()).isTrue();
    Receipt next = push(new Push(EIGHT.plus(Duration.ofDays(1)), TAP));
    assertThat(next.duplicate()).isFalse();
    assertThat(next.number()).isEqualTo(2);
  }

  @Test
  void anotherCommitIsAnotherRunAndThatIsSaid() {
    Instant began = EIGHT.minusSeconds(60);
    Push red = new Push(EIGHT, "a1b2c3d4e5f6", null, null, null, suite("a", began, "F"));
    assertThat(push(red).notice()).isNull();
    Receipt green = push(new Push(EIGHT, "ffff00001111", null, null, null, suite("a", began, "P")));
    assertThat(green.number()).isEqualTo(2);
    assertThat(green.notice())
        .isEqualTo(
            "this begins run #2: run #1 of the same key is of commit a1b2c3d4e5, this of ffff000011");
    assertThat(run(1).counts().failed()).isEqualTo(1);
    assertThat(run(2).changes().fixed()).isEqualTo(1);
    Push late = new Push(EIGHT, "a1b2c3d4e5f6", null, null, null, suite("b", began, "P"));
    assertThat(push(late).number()).as("a part of the first one still finds it").isEqualTo(1);
  }

  @Test
  void aClosedRunTakesNothingButWhatComesSoonOrIsTriedAgain() {
    String build = "https://ci.example/builds/7";
    Push first = new Push(EIGHT, "a1b2c3d", build, 1, 1, suite("a", EIGHT, "P"));
    assertThat(push(first).open()).isFalse();
    Instant soon = EIGHT.plusSeconds(1200);
    push(new Push(soon, "a1b2c3d", build, 1, null, suite("b", EIGHT.plusSeconds(9), "P")));
    assertThat(run(1).open()).as("a part that comes late does not open it").isFalse();
    assertThat(run(1).counts().tests()).isEqualTo(2);

    Instant later = EIGHT.plus(Duration.ofHours(3));
    Push refused = new Push(later, "a1b2c3d", build, 1, null, suite("c", EIGHT, "F"));
    assertThatThrownBy(() -> push(refused))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.RUN_CLOSED))
        .hasMessageContaining("run #1 of this key was closed 3 h ago")
        .hasMessageContaining("--run KEY");
    assertThat(run(1).counts().tests()).isEqualTo(2);
    assertThat(STORE.count("part where project_id = " + project)).isEqualTo(2);

    Receipt again = push(new Push(later, "a1b2c3d", build, 2, null, suite("a", later, "P")));
    assertThat(again.number()).isEqualTo(1);
    assertThat(again.run().retried()).isEqualTo(1);
    assertThat(again.changes().passedOnRetry()).as("it passed each time").isZero();
  }

  @Test
  void theSameFilesAreNewsWhenTheirJobFailedAfterAll() {
    UploadRequest green =
        new UploadRequest(
            new UploadRequest.Target(project, stream, null, PartKey.NONE),
            new Origin("a1b2c3d", "main", "https://ci.example/builds/8"),
            Map.of(),
            null,
            UploadRequest.When.TOLD,
            null,
            CsvColumns.NONE,
            UploadRequest.Allowed.NOTHING,
            null);
    UploadRequest red =
        new UploadRequest(
            green.target(),
            green.origin(),
            Map.of(),
            null,
            UploadRequest.When.TOLD,
            null,
            CsvColumns.NONE,
            UploadRequest.Allowed.NOTHING,
            new Job(Job.Status.FAILED, "make test", 2, null, 5_000L));
    Ingest ingest = new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> EIGHT);
    List<Text> files = List.of(new Text(suite("a", EIGHT, "P")));
    assertThat(ingest.receive(green, files).run().setUps()).isZero();
    Receipt told = ingest.receive(red, files);
    assertThat(told.duplicate()).isFalse();
    assertThat(told.run().setUps()).isEqualTo(1);
    assertThat(ingest.receive(red, files).duplicate()).isTrue();
  }

  private Receipt tonight(String commit, UploadRequest.Allowed allowed, String... files) {
    return new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> EIGHT)
        .receive(
            new UploadRequest(
                new UploadRequest.Target(project, stream, null, PartKey.NONE),
                new Origin(commit, "main", null),
                Map.of(),
                null,
                UploadRequest.When.TOLD,
                null,
                CsvColumns.NONE,
                allowed,
                null),
            Stream.of(files).map(Text::new).toList());
  }

  @Test
  void filesOfAnotherRunAreNoRunOfTheirOwn() {
    UploadRequest.Allowed nothing = UploadRequest.Allowed.NOTHING;
    String old = suite("a", EIGHT, "P");
    assertThat(tonight("c1", nothing, old).number()).isEqualTo(1);
    assertThatThrownBy(() -> tonight("c2", nothing, old))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.SAME_FILES))
        .hasMessageContaining("run #1 of “" + stream + "” has this very file")
        .hasMessageContaining("--again");
    assertThatThrownBy(() -> tonight("c2", nothing, TAP.replace("1..1\nok 1", "1..0 #"), old))
        .as("a file without tests beside it changes nothing")
        .hasMessageContaining("has these very files");
    assertThatThrownBy(() -> tonight("c2", nothing, PACKED + old))
        .as("packed in another way")
        .hasMessageContaining("has this very file");
    assertThat(STORE.count("part where project_id = " + project)).isEqualTo(1);

    // Some of them, or wanted so: kept, and said.
    Receipt some = tonight("c2", nothing, old, suite("b", EIGHT.plusSeconds(1), "P"));
    assertThat(some.number()).isEqualTo(2);
    assertThat(some.files().get(0).problems())
        .containsExactly("the same file came with run #1, times and all");
    assertThat(some.files().get(1).problems()).isEmpty();
    assertThat(tonight("c3", new UploadRequest.Allowed(false, true), old).number()).isEqualTo(3);
    assertThat(tonight("c3", nothing, old).duplicate()).as("sent again").isTrue();

    // Without times, equal nights are normal; another stream is another thing.
    assertThat(tonight("c1", nothing, TAP).number()).isEqualTo(4);
    assertThat(tonight("c2", nothing, TAP).number()).isEqualTo(5);
    stream = "other";
    assertThat(tonight("c2", nothing, old).number()).isEqualTo(1);
  }

  /** A run of a night: its branch, when it was, what came of its one test. */
  private record Night(String branch, int hour, String outcome) {}

  private Receipt night(Night night, Instant arrives) {
    Instant began = EIGHT.plus(Duration.ofHours(night.hour));
    return new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> arrives)
        .receive(
            new UploadRequest(
                new UploadRequest.Target(project, stream, null, PartKey.NONE),
                new Origin("c" + night.hour, night.branch, null),
                Map.of(),
                null,
                null,
                null,
                CsvColumns.NONE,
                false),
            List.of(new Text(suite("Quay", began, night.outcome))));
  }

  /** What a run is compared with, and what changed, told by the hour at which they were. */
  private List<String> compared() {
    List<String> all = new ArrayList<>();
    List<RunSummary> runs = stores.runs().runs(project, RunQuery.newest(stream, 50));
    for (RunSummary run : runs) {
      Integer before = run.neighbours().previous();
      String with = before == null ? "nothing" : Integer.toString(hour(run(before)));
      all.add(hour(run) + " with " + with + ": " + run.changes());
    }
    return all;
  }

  private static int hour(RunSummary run) {
    return (int) Duration.between(EIGHT, run.times().started()).toHours();
  }

  /** Late, back-dated, imported, on branches: the same nights in any order give the same story. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5})
  void runsAreComparedInTheOrderInWhichTheyHappened(long seed) {
    Random random = new Random(seed);
    List<Night> nights = new ArrayList<>();
    for (int hour = 1; hour <= 14; hour++) {
      String branch = List.of("main", "main", "fares", "ramps").get(random.nextInt(4));
      nights.add(new Night(branch, hour, random.nextBoolean() ? "P" : "F"));
    }
    Instant later = EIGHT.plus(Duration.ofDays(2));
    nights.forEach(night -> night(night, later));
    TestDatabase.work(stores);
    List<String> inOrder = compared();
    stream = "quay/shuffled-" + seed;
    Collections.shuffle(nights, random);
    nights.forEach(night -> night(night, later));
    TestDatabase.work(stores);

    assertThat(compared()).isEqualTo(inOrder);
    assertThat(inOrder.get(0)).as("the newest first").startsWith("14 with ");

    // Somebody says in the middle of it that the main branch is another one.
    stream = "quay/named-" + seed;
    nights.subList(0, 7).forEach(night -> night(night, later));
    StreamSettings ramps = new StreamSettings(null, null, null, "ramps");
    assertThat(stores.runs().setSettings(project, stream, ramps, later)).isTrue();
    nights.subList(7, 14).forEach(night -> night(night, later));
    TestDatabase.work(stores);
    List<String> named = compared();

    nights.sort(Comparator.comparingInt(Night::hour));
    for (int i = 0; i < nights.size(); i++) {
      int hour = nights.get(i).hour;
      assertThat(inOrder.get(13 - i)).startsWith(hour + " with " + before(nights, i, "main") + ":");
      assertThat(named.get(13 - i)).startsWith(hour + " with " + before(nights, i, "ramps") + ":");
    }
  }

  @Test
  void whatThePipelineTellsOfItsMainBranchHoldsUntilSomebodySetsIt() {
    for (String told : List.of("develop", "other")) {
      Receipt unused =
          new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> EIGHT)
              .receive(
                  new UploadRequest(
                      new UploadRequest.Target(project, stream, told, PartKey.NONE),
                      new Origin("c1", "topic", null, told),
                      Map.of(),
                      null,
                      null,
                      null,
                      CsvColumns.NONE,
                      false),
                  List.of(new Text(TAP)));
      assertThat(stores.runs().settings(project, stream).orElseThrow().mainBranch())
          .isEqualTo("develop");
    }
  }

  /** What the sender says of the time wins over files, and moves all of them alike. */
  @Test
  void timesAreMovedToWhereTheSenderSaysTheyWere() {
    Instant march = Instant.parse("2024-03-01T06:00:00Z");
    Instant made = EIGHT.minus(Duration.ofHours(30));
    Map<String, UploadRequest.When> sent = new LinkedHashMap<>();
    sent.put("moved", new UploadRequest.When(march, null));
    sent.put("waited", new UploadRequest.When(null, made));
    sent.forEach(
        (key, when) -> {
          for (String text : List.of(suite("a", EIGHT, "PP"), TAP)) {
            UploadRequest request =
                new UploadRequest(
                    new UploadRequest.Target(project, stream + "/" + key, null, PartKey.NONE),
                    new Origin("c" + text.length(), "main", null),
                    Map.of(),
                    null,
                    when,
                    null,
                    CsvColumns.NONE,
                    new UploadRequest.Allowed(false, true),
                    null);
            Receipt unused =
                new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> EIGHT.plusSeconds(600))
                    .receive(request, List.of(new Text(text)));
          }
        });
    assertThat(started("moved")).containsExactly(march, march);
    assertThat(started("waited")).as("files tell it, or they do not").containsExactly(EIGHT, made);
    Instant begun =
        stores
            .runs()
            .parts(project, stores.runs().run(project, stream + "/moved", 1).orElseThrow().id())
            .get(0)
            .times()
            .started();
    assertThat(begun).isEqualTo(march);
  }

  private List<Instant> started(String key) {
    return stores.runs().runs(project, RunQuery.newest(stream + "/" + key, 9)).stream()
        .map(run -> run.times().started())
        .toList();
  }

  /** By looking at all of them. */
  private static String before(List<Night> nights, int of, String main) {
    for (String branch : List.of(nights.get(of).branch, main)) {
      for (int i = of - 1; i >= 0; i--) {
        if (nights.get(i).branch.equals(branch)) {
          return Integer.toString(nights.get(i).hour);
        }
      }
    }
    return "nothing";
  }
}
