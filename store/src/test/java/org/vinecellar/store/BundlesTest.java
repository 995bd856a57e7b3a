package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.vinecellar.store.TestUploads.suite;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.bundles.Bundle;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.bundles.BundleZip;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.ingest.UnreadableUploadException;
import org.vinecellar.core.problem.CellarException;

/** Bundles come with their results or not at all; their contents are kept once. */
class BundlesTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Instant LATER = Instant.parse("2100-01-01T00:00:00Z");
  private static final String STREAM = "fares/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private TestUploads uploads;
  private BundleStore bundles;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    bundles = stores.bundles();
  }

  private static byte[] zip(Map<String, String> files) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      for (Map.Entry<String, String> file : new TreeMap<>(files).entrySet()) {
        zip.putNextEntry(new ZipEntry(file.getKey()));
        zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
      }
    }
    return bytes.toByteArray();
  }

  private static NewBundle bundle(Map<String, String> files) throws IOException {
    byte[] zip = zip(files);
    return bundle(() -> new ByteArrayInputStream(zip));
  }

  private static NewBundle bundle(NewBundle.Packed packed) throws IOException {
    BundleZip zip = new BundleZip(new BundleZip.Limits(10 << 20, 100, 200));
    return NewBundle.of("Coverage", "index.html", zip, packed);
  }

  private long runId(int number) {
    return stores.runs().run(uploads.project(), STREAM, number).orElseThrow().id();
  }

  private String content(Bundle bundle, String path) {
    BundleStore.BundleFile file = bundles.file(uploads.project(), bundle.id(), path).orElseThrow();
    return new String(
        bundles.content(uploads.project(), file).read(0, 1000), StandardCharsets.UTF_8);
  }

  private long count(String table) {
    return STORE.count(table + " where project_id = " + uploads.project());
  }

  @Test
  void contentsAreKeptOnceWhoeverHasThem() throws Exception {
    String style = "body {}";
    Map<String, String> first =
        Map.of("index.html", "one", "a.css", style, "b.css", style, "sub/a.html", "same");
    uploads.send(STREAM, "one", bundle(first), suite("S", "a:P"));
    uploads.send(
        STREAM,
        "two",
        bundle(Map.of("index.html", "two", "sub/b.html", "same")),
        suite("S", "a:F"));

    Bundle one = bundles.ofRun(uploads.project(), runId(1)).get(0);
    Bundle two = bundles.ofRun(uploads.project(), runId(2)).get(0);
    assertThat(one.files()).isEqualTo(4);
    assertThat(one.bytes()).isEqualTo(3 + 7 + 7 + 4);
    for (Map.Entry<String, String> file : first.entrySet()) {
      assertThat(content(one, file.getKey())).isEqualTo(file.getValue());
    }
    assertThat(content(two, "sub/b.html")).isEqualTo("same");
    assertThat(count("kept_content")).as("with two raw files").isEqualTo(6);

    // The first goes; what the second uses stays.
    assertThat(bundles.dropOld(0, NOW.plusSeconds(1))).isPositive();
    assertThat(bundles.ofRun(uploads.project(), runId(1))).isEmpty();
    uploads.send(
        STREAM,
        "two",
        bundle(Map.of("index.html", "two", "sub/b.html", "same")),
        suite("S", "b:F"));
    assertThat(stores.ingest().dropUnusedContents(LATER)).isGreaterThanOrEqualTo(2);
    Bundle again = bundles.ofRun(uploads.project(), runId(2)).get(0);
    assertThat(content(again, "sub/b.html")).isEqualTo("same");
    assertThat(count("kept_content")).as("with three raw files").isEqualTo(5);
  }

  @Test
  void resultsThatCannotBeReadBringNoBundle() throws Exception {
    NewBundle bundle = bundle(Map.of("index.html", "one"));
    assertThatThrownBy(() -> uploads.send(STREAM, "one", bundle, "<testsuite><testcase"))
        .isInstanceOf(UnreadableUploadException.class);
    assertThat(count("bundle")).isZero();
    assertThat(stores.runs().streams(uploads.project())).isEmpty();
  }

  @Test
  void aBundleThatCannotBeKeptBringsNoResults() throws Exception {
    byte[] zip = zip(Map.of("index.html", "one"));
    AtomicInteger opened = new AtomicInteger();
    NewBundle bundle =
        bundle(
            () -> {
              if (opened.incrementAndGet() > 1) {
                throw new IOException("the disk is gone");
              }
              return new ByteArrayInputStream(zip);
            });
    assertThatThrownBy(() -> uploads.send(STREAM, "one", bundle, suite("S", "a:P")))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("the bundle could not be kept");
    assertThat(stores.runs().streams(uploads.project())).isEmpty();
    assertThat(count("bundle")).isZero();
  }

  @Test
  void oneWithTheSameTitleIsReplacedAndAnotherRunsIsNot() throws Exception {
    uploads.send(STREAM, "one", bundle(Map.of("index.html", "a")), suite("S", "a:P"));
    uploads.send(STREAM, "two", bundle(Map.of("index.html", "b")), suite("S", "a:P"));
    bundles.add(uploads.project(), STREAM, 1, bundle(Map.of("index.html", "c", "x", "")), NOW);

    List<Bundle> ofOne = bundles.ofRun(uploads.project(), runId(1));
    assertThat(ofOne).hasSize(1);
    assertThat(content(ofOne.get(0), "index.html")).isEqualTo("c");
    assertThat(content(ofOne.get(0), "x")).isEmpty();
    assertThat(content(bundles.ofRun(uploads.project(), runId(2)).get(0), "index.html"))
        .isEqualTo("b");
    assertThat(count("bundle_file")).isEqualTo(3);
  }
}
