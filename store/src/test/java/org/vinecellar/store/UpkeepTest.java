package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.vinecellar.store.TestUploads.suite;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.access.Invitation;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.bundles.BundleZip;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.ingest.UnreadableUploadException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.StreamSettings;

/** What goes by itself, and what must not. */
class UpkeepTest {
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Duration SILENCE = Duration.ofHours(2);

  private final Stores stores = STORE.stores();
  private TestUploads uploads;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  private boolean open(String stream, int number) {
    return stores.runs().run(uploads.project(), stream, number).orElseThrow().open();
  }

  @Test
  void runsCloseAfterTheSilenceOfTheirStreamAndNoEarlier() {
    uploads.send("quick", "one", suite("S", "a:P"));
    uploads.send("slow", "one", suite("S", "a:P"));
    uploads.send("usual", "one", suite("S", "a:P"));
    uploads.send("closed", null, suite("S", "a:P"));
    settings("quick", Duration.ofMinutes(5));
    settings("slow", Duration.ofHours(9));

    assertThat(close(Duration.ofMinutes(4))).isZero();
    assertThat(close(Duration.ofMinutes(6))).isEqualTo(1);
    assertThat(open("quick", 1)).isFalse();
    assertThat(open("usual", 1)).isTrue();
    assertThat(close(Duration.ofMinutes(121))).isEqualTo(1);
    assertThat(open("usual", 1)).isFalse();
    assertThat(open("slow", 1)).isTrue();
    assertThat(stores.runs().run(uploads.project(), "usual", 1).orElseThrow().times().closedBy())
        .isEqualTo("silence");
    // What comes within the silence puts the end off.
    uploads.through(stores, NOW.plus(Duration.ofHours(8))).send("slow", "one", suite("S", "b:P"));
    assertThat(close(Duration.ofHours(10))).isZero();
    assertThat(close(Duration.ofHours(18))).isEqualTo(1);
  }

  private void settings(String stream, Duration silence) {
    assertThat(
            stores
                .runs()
                .setSettings(
                    uploads.project(),
                    stream,
                    new StreamSettings(silence, null, null, null),
                    Instant.EPOCH))
        .isTrue();
  }

  /** How many of this project's runs close when it is so late. */
  private long close(Duration after) {
    String open = "run where is_open and project_id = " + uploads.project();
    long before = STORE.count(open);
    stores.ingest().closeSilentRuns(SILENCE, NOW.plus(after));
    return before - STORE.count(open);
  }

  @Test
  void manyRunsThatAreSilentCloseInOneGoOfSeveralInstances() throws Exception {
    for (int i = 0; i < 130; i++) {
      uploads.send("s" + i % 3, "run" + i, suite("S", "a:P"));
    }
    String ofProject = " where project_id = " + uploads.project();
    long before = STORE.number("select sum(version) from run" + ofProject);
    List<Callable<Long>> instances = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      instances.add(() -> close(Duration.ofHours(3)));
    }
    for (Future<Long> one : STORE.threads().invokeAll(instances)) {
      assertThat(one.get()).isNotNegative();
    }
    assertThat(STORE.count("run" + ofProject + " and closed_by = 'silence'")).isEqualTo(130);
    assertThat(STORE.number("select sum(version) from run" + ofProject) - before)
        .as("each once")
        .isEqualTo(130);
  }

  @Test
  void runsToWhichNothingCameGoAndNoOthers() {
    for (int i = 0; i < 3; i++) {
      String stream = "broken" + i;
      assertThatThrownBy(() -> uploads.send(stream, "one", "<testsuite><testcase"))
          .isInstanceOf(UnreadableUploadException.class);
    }
    uploads.send("whole", "one", suite("S", "a:P"));
    assertThatThrownBy(() -> uploads.send("whole", "two", "<testsuite><testcase"))
        .isInstanceOf(UnreadableUploadException.class);
    String ofProject = " where project_id = " + uploads.project();
    assertThat(STORE.count("run" + ofProject)).isEqualTo(5);

    stores.ingest().dropReservedRuns(NOW.minusSeconds(1));
    assertThat(STORE.count("run" + ofProject)).as("an upload may be under way").isEqualTo(5);
    stores.ingest().dropReservedRuns(NOW.plusSeconds(1));
    assertThat(STORE.count("run" + ofProject)).isEqualTo(1);
    assertThat(STORE.count("stream" + ofProject)).isEqualTo(1);
    uploads.send("broken0", "one", suite("S", "a:P"));
    uploads.send("whole", "two", suite("S", "b:P"));
    assertThat(open("broken0", 1)).isTrue();
    assertThat(open("whole", 2)).isTrue();
  }

  @Test
  void aRunThatIsReservedAnewStays() {
    assertThatThrownBy(() -> uploads.send("late", "one", "<testsuite><testcase"))
        .isInstanceOf(UnreadableUploadException.class);
    Instant now = NOW.plus(Duration.ofDays(3));
    assertThatThrownBy(() -> uploads.through(stores, now).send("late", "one", "<testsuite><"))
        .isInstanceOf(UnreadableUploadException.class);

    stores.ingest().dropReservedRuns(NOW.plus(Duration.ofDays(1)));
    assertThat(STORE.count("run where project_id = " + uploads.project())).isEqualTo(1);
  }

  @Test
  void nothingHangsInTheAirWhenUploadsComeWhileRunsAndStreamsAreDropped() throws Exception {
    AtomicBoolean goesOn = new AtomicBoolean(true);
    Future<?> upkeep =
        STORE
            .threads()
            .submit(
                () -> {
                  while (goesOn.get()) {
                    // As if every upload had begun long ago.
                    stores.ingest().dropReservedRuns(NOW.plus(Duration.ofDays(1)));
                    stores.removal().removeStream(uploads.project(), "s1", NOW);
                    TestDatabase.work(stores);
                  }
                });
    List<Callable<Integer>> senders = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      int sender = i;
      senders.add(() -> sent(sender));
    }
    int sent = 0;
    for (Future<Integer> one : STORE.threads().invokeAll(senders)) {
      sent += one.get();
    }
    goesOn.set(false);
    upkeep.get();
    TestDatabase.work(stores);

    assertThat(sent).isPositive();
    assertThat(
            STORE.count("run r where not exists (select 1 from stream s where s.id = r.stream_id)"))
        .as("runs of no stream")
        .isZero();
    for (String table : List.of("part", "part_number", "result_row", "run_suite")) {
      assertThat(
              STORE.count(
                  table + " p where not exists (select 1 from run r where r.id = p.run_id)"))
          .as(table + " of no run")
          .isZero();
    }
  }

  /** How many uploads arrived; the others were told that their run had gone. */
  private int sent(int sender) {
    int sent = 0;
    for (int i = 0; i < 20; i++) {
      try {
        uploads.send("s" + sender % 2, "one" + i % 3, suite("S", "t" + sender + "x" + i + ":P"));
        sent++;
      } catch (CellarException e) {
        assertThat(e.code()).isEqualTo(ProblemCode.NOT_FOUND);
      }
    }
    return sent;
  }

  @Test
  void oldBundlesGoHoweverManyThereAre() throws Exception {
    for (int i = 0; i < 120; i++) {
      uploads.send("old", "run" + i, bundle(), suite("S", "a:P"));
    }
    uploads.send("kept", "one", bundle(), suite("S", "a:P"));
    stores
        .runs()
        .setSettings(
            uploads.project(), "kept", new StreamSettings(null, 100, null, null), Instant.EPOCH);
    String ofProject = " where project_id = " + uploads.project();

    assertThat(stores.bundles().dropOld(30, NOW.plus(Duration.ofDays(29)))).isZero();
    assertThat(stores.bundles().dropOld(30, NOW.plus(Duration.ofDays(31)))).isEqualTo(120);
    assertThat(STORE.count("bundle" + ofProject)).isEqualTo(1);
    assertThat(STORE.count("bundle_file" + ofProject)).isEqualTo(1);
    assertThat(STORE.count("run" + ofProject)).as("results stay").isEqualTo(121);
  }

  private static NewBundle bundle() throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      zip.putNextEntry(new ZipEntry("index.html"));
      zip.write('x');
    }
    BundleZip zip = new BundleZip(new BundleZip.Limits(10 << 20, 100, 200));
    return NewBundle.of(
        "Coverage", "index.html", zip, () -> new ByteArrayInputStream(bytes.toByteArray()));
  }

  @Test
  void whoWasHereAndWhoWasAskedIsForgottenInTime() {
    stores.people().createAccount("ivo", "hash", false, NOW);
    long ivo = stores.people().account("ivo").orElseThrow().id();
    Session brief = new Session(0, ivo, "ivo", false, "csrf", NOW.plusSeconds(60));
    stores.sessions().create("brief", brief, "browser", "127.0.0.1", NOW);
    stores
        .people()
        .invite(
            "secret",
            new Invitation("jo", null, false, List.of(), "ivo", NOW.plusSeconds(60)),
            NOW);
    stores.tries().admit("login:ivo", 5, Duration.ofMinutes(15), NOW);

    forget(NOW.plusSeconds(30));
    assertThat(STORE.count("session")).isEqualTo(1);
    assertThat(STORE.count("invitation")).isEqualTo(1);
    assertThat(STORE.count("sign_in_failure")).isEqualTo(1);
    forget(NOW.plusSeconds(61));
    assertThat(STORE.count("session")).isZero();
    assertThat(STORE.count("invitation")).isZero();
    assertThat(STORE.count("sign_in_failure")).as("tries count for a day").isEqualTo(1);
    forget(NOW.plus(Duration.ofHours(25)));
    assertThat(STORE.count("sign_in_failure")).isZero();
  }

  private void forget(Instant now) {
    stores.sessions().dropExpired(now);
    stores.people().dropExpired(now);
    stores.tries().dropExpired(now);
  }
}
