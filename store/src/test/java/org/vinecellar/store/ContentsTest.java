package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.vinecellar.store.TestUploads.suite;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.Future;
import java.util.zip.GZIPInputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.bundles.Bundle;
import org.vinecellar.core.bundles.BundleZip;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.ingest.UnreadableUploadException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.core.runs.Part;
import org.vinecellar.core.runs.RunSummary;

/**
 * Whatever comes, fails, is replaced or goes: each content is there once as long as it is named.
 */
class ContentsTest {
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Instant LATER = Instant.parse("2100-01-01T00:00:00Z");
  private static final String STREAM = "fares/nightly";
  private static final String[] WORDS = {"quay", "berth", "", "gangway", "x".repeat(700_000)};

  private final Stores stores = STORE.stores();
  private TestUploads uploads;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  /** What a run must show. */
  private record Expected(Map<String, String> files, Map<String, String> bundle, String raw) {}

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4})
  void areKeptOnceAndAsLongAsTheyAreNamed(int seed) throws Exception {
    Random random = new Random(seed);
    Map<Integer, Expected> expected = new TreeMap<>();
    int number = 0;
    for (int step = 0; step < 25; step++) {
      Map<String, String> files = some(random, "f");
      Map<String, String> bundle = some(random, "b");
      bundle.put("index.html", "start");
      // Few different ones, so that raw files are equal, too.
      String raw = suite("S", "a" + random.nextInt(3) + ":P");
      switch (random.nextInt(6)) {
        case 0, 1 -> {
          uploads.send(STREAM, "run" + ++number, raw, files);
          expected.put(number, new Expected(files, Map.of(), raw));
        }
        case 2 -> {
          uploads.send(STREAM, "run" + ++number, bundle(bundle), raw);
          expected.put(number, new Expected(Map.of(), bundle, raw));
        }
        case 3 ->
            assertThatThrownBy(
                    () -> uploads.send(STREAM, null, bundle(bundle), "<testsuite><testcase"))
                .isInstanceOf(UnreadableUploadException.class);
        case 4 -> {
          if (!expected.isEmpty()) {
            int run = new ArrayList<>(expected.keySet()).get(random.nextInt(expected.size()));
            stores.bundles().add(uploads.project(), STREAM, run, bundle(bundle), NOW);
            expected.computeIfPresent(
                run, (n, before) -> new Expected(before.files(), bundle, before.raw()));
          }
        }
        default -> {
          if (!expected.isEmpty()) {
            int run = new ArrayList<>(expected.keySet()).get(random.nextInt(expected.size()));
            stores.removal().removeRun(uploads.project(), run(run).id(), NOW);
            TestDatabase.work(stores);
            expected.remove(run);
          }
        }
      }
      if (random.nextInt(3) == 0) {
        stores.ingest().dropUnusedContents(LATER);
        assertThat(kept()).as("what is kept is named").isEqualTo(named());
      }
      assertThat(named()).as("what is named is kept").isLessThanOrEqualTo(kept());
    }
    for (Map.Entry<Integer, Expected> run : expected.entrySet()) {
      check(run(run.getKey()), run.getValue());
    }
    stores.ingest().dropUnusedContents(LATER);
    for (int run : expected.keySet()) {
      stores.removal().removeRun(uploads.project(), run(run).id(), NOW);
    }
    TestDatabase.work(stores);
    stores.ingest().dropUnusedContents(LATER);
    assertThat(kept()).isZero();
    assertThat(STORE.count("blob_chunk where project_id = " + uploads.project())).isZero();
  }

  @Test
  void uploadsOfTheSameContentsAtOnceAllHaveThem() throws Exception {
    Map<String, String> files = new HashMap<>();
    for (int i = 0; i < 40; i++) {
      files.put("f" + i, "content " + i);
    }
    List<Callable<Integer>> senders = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      String run = "run" + i;
      senders.add(
          () -> {
            uploads.send(STREAM, run, suite("S", "a:P"), files);
            return stores.ingest().dropUnusedContents(NOW);
          });
    }
    for (Future<Integer> sent : STORE.threads().invokeAll(senders)) {
      assertThat(sent.get()).isZero();
    }
    assertThat(kept()).isEqualTo(41);
    for (int run = 1; run <= 8; run++) {
      check(run(run), new Expected(files, Map.of(), suite("S", "a:P")));
    }
  }

  @Test
  void aBundleOfARunThatIsGoneIsRefused() {
    assertThatThrownBy(
            () ->
                stores
                    .bundles()
                    .add(uploads.project(), STREAM, 7, bundle(Map.of("index.html", "x")), NOW))
        .isInstanceOf(CellarException.class)
        .hasMessage("the stream fares/nightly has no run 7 to keep the bundle with");
  }

  private static Map<String, String> some(Random random, String prefix) {
    Map<String, String> some = new TreeMap<>();
    for (int i = random.nextInt(4); i > 0; i--) {
      some.put(prefix + i, WORDS[random.nextInt(WORDS.length)]);
    }
    return some;
  }

  private static NewBundle bundle(Map<String, String> files) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      for (Map.Entry<String, String> file : files.entrySet()) {
        zip.putNextEntry(new ZipEntry(file.getKey()));
        zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
      }
    }
    BundleZip zip = new BundleZip(new BundleZip.Limits(10 << 20, 100, 200));
    return NewBundle.of(
        "Coverage", "index.html", zip, () -> new ByteArrayInputStream(bytes.toByteArray()));
  }

  private RunSummary run(int number) {
    return stores.runs().run(uploads.project(), STREAM, number).orElseThrow();
  }

  private void check(RunSummary run, Expected expected) throws IOException {
    int project = uploads.project();
    Part part = stores.runs().parts(project, run.id()).get(0);
    Map<String, String> files = new TreeMap<>();
    for (KeptAttachment one : part.attachments()) {
      Content content = stores.runs().content(project, run.id(), one.id()).orElseThrow();
      files.put(one.name(), new String(all(content), StandardCharsets.UTF_8));
    }
    assertThat(files).isEqualTo(expected.files());
    Map<String, String> bundled = new TreeMap<>();
    for (Bundle bundle : stores.bundles().ofRun(project, run.id())) {
      for (String path : expected.bundle().keySet()) {
        var file = stores.bundles().file(project, bundle.id(), path).orElseThrow();
        bundled.put(
            path, new String(all(stores.bundles().content(project, file)), StandardCharsets.UTF_8));
      }
    }
    assertThat(bundled).isEqualTo(expected.bundle());
    Content raw = stores.runs().raw(project, run.id(), part.number(), 0).orElseThrow();
    assertThat(new GZIPInputStream(new ByteArrayInputStream(all(raw))).readAllBytes())
        .asString(StandardCharsets.UTF_8)
        .isEqualTo(expected.raw());
  }

  private static byte[] all(Content content) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    for (byte[] piece = content.read(0, 100_000);
        piece.length > 0;
        piece = content.read(bytes.size(), 100_000)) {
      bytes.writeBytes(piece);
    }
    return bytes.toByteArray();
  }

  private long kept() {
    long contents = STORE.count("kept_content where project_id = " + uploads.project());
    long blobs =
        STORE.number(
            "select count(distinct blob_id) from blob_chunk where project_id = "
                + uploads.project());
    assertThat(blobs).isEqualTo(contents);
    return contents;
  }

  private long named() {
    String all =
        "select a.blob_id from attachment a join run r on r.id = a.run_id"
            + " where r.project_id = ? and a.blob_id is not null"
            + " union select blob_id from bundle_file where project_id = ?"
            + " union select blob_id from part_file where project_id = ?";
    return STORE.count("(" + all.replace("?", "" + uploads.project()) + ") n");
  }
}
