package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.ingest.UploadRequest.PartKey;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunSummary;

/** The same test in several variants is several tests under one name. */
class VariantsTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final List<String> BROWSERS = List.of("chromium", "firefox", "webkit");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private TestUploads uploads;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  private record Piece(String browser, String cases) {
    PartKey key() {
      return new PartKey(null, Variant.of(Map.of("browser", browser)), null);
    }
  }

  /** Each test with its variant, and what stands there of it. */
  private Map<String, String> standing(RunSummary run) {
    Map<String, String> all = new TreeMap<>();
    for (ResultRow row : rows(run)) {
      all.put(
          row.test().variant().get("browser") + " " + row.test().name(),
          row.outcome() + " after " + row.attempts() + " " + row.change());
    }
    return all;
  }

  private List<ResultRow> rows(RunSummary run) {
    return stores.runs().results(uploads.project(), run.id(), ResultQuery.first(500));
  }

  private RunSummary run(String stream, int number) {
    return stores.runs().run(uploads.project(), stream, number).orElseThrow();
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void stayApartInWhateverOrderTheyCome(long seed) {
    Random random = new Random(seed);
    for (int night = 1; night <= 4; night++) {
      List<Piece> pieces = new ArrayList<>();
      for (String browser : BROWSERS) {
        if (random.nextInt(4) > 0) {
          pieces.add(new Piece(browser, cases(random)));
        }
      }
      pieces.add(new Piece("any", "a:P"));
      send("one", night, pieces);
      Collections.shuffle(pieces, random);
      send("two", night, pieces);

      RunSummary one = run("one", night);
      RunSummary two = run("two", night);
      assertThat(standing(one)).isEqualTo(standing(two));
      assertThat(one.counts()).isEqualTo(two.counts());
      assertThat(one.changes()).isEqualTo(two.changes());
      assertThat(one.counts().tests())
          .isEqualTo(pieces.stream().mapToInt(piece -> piece.cases.split(" ").length).sum());
      assertThat(one.counts().retried()).isZero();
      for (Piece piece : pieces) {
        for (String one2 : piece.cases.split(" ")) {
          assertThat(standing(one).get(piece.browser + " " + one2.charAt(0)))
              .startsWith((one2.endsWith("F") ? "FAILED" : "PASSED") + " after 1");
        }
      }
    }
  }

  private static String cases(Random random) {
    StringBuilder cases = new StringBuilder("a:P");
    for (String name : List.of("b", "c", "d")) {
      if (random.nextInt(4) > 0) {
        cases.append(' ').append(name).append(random.nextBoolean() ? ":P" : ":F");
      }
    }
    return cases.toString();
  }

  private void send(String stream, int night, List<Piece> pieces) {
    String key = "night-" + night;
    for (Piece piece : pieces) {
      uploads.sendPart(stream, key, piece.key(), Map.of(), TestUploads.suite("Quay", piece.cases));
    }
    assertThat(stores.ingest().close(uploads.project(), run(stream, night).id(), NOW)).isTrue();
  }

  private static String minute(String began, String outcome) {
    return "<testsuite name='Quay' timestamp='2026-11-20T"
        + began
        + "Z'><testcase name='boards' time='60'>"
        + (outcome.equals("F") ? "<failure message='late'/>" : "")
        + "</testcase></testsuite>";
  }

  /** A name that two jobs of a matrix share by mistake hides no failure: they ran at once. */
  @Test
  void partsOfOneNameThatRanAtOnceAreNoTries() {
    List<String> both = List.of(minute("20:00:00", "F"), minute("20:00:05", "P"));
    for (List<String> texts : List.of(both, List.of(both.get(1), both.get(0)))) {
      String stream = "at-once-" + texts.get(0).length();
      for (String text : texts) {
        uploads.sendPart(stream, "k", PartKey.named("e2e"), Map.of(), text);
      }
      assertThat(run(stream, 1).counts())
          .extracting(Counts::failed, Counts::passed, Counts::retried)
          .containsExactly(1, 1, 0);
      uploads.sendPart(stream, "k", PartKey.named("e2e"), Map.of(), minute("20:05:00", "P"));
      assertThat(run(stream, 1).counts())
          .as("what runs after them tries again")
          .extracting(Counts::failed, Counts::passed, Counts::retried)
          .containsExactly(0, 1, 1);
    }
  }

  private record Part(PartKey key, String first, String second) {}

  /** Parts of two names and two variants, and further attempts of them. */
  private static List<Part> parts(Random random) {
    List<Part> parts = new ArrayList<>();
    for (String name : new String[] {"one", "two", null}) {
      for (Map<String, String> words : List.of(Map.<String, String>of(), Map.of("jdk", "17"))) {
        int attempts = random.nextInt(4);
        for (int attempt = 1; attempt <= attempts; attempt++) {
          parts.add(
              new Part(
                  new PartKey(name, Variant.of(words), attempt), cases(random), cases(random)));
        }
      }
    }
    parts.add(new Part(PartKey.NONE, "z:P", "z:P"));
    return parts;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void theSamePartsInAnyOrderAreTheSameRun(long seed) {
    Random random = new Random(seed);
    for (int night = 1; night <= 3; night++) {
      List<Part> parts = parts(random);
      for (String stream : List.of("one", "two", "three")) {
        for (Part part : parts) {
          uploads.sendPart(
              stream,
              "night-" + night,
              part.key,
              Map.of(),
              TestUploads.suite("Quay", part.first),
              TestUploads.suite("Pier", part.second));
        }
        stores.ingest().close(uploads.project(), run(stream, night).id(), NOW);
        Collections.shuffle(parts, random);
      }
      RunSummary one = run("one", night);
      for (String other : List.of("two", "three")) {
        RunSummary shuffled = run(other, night);
        assertThat(all(shuffled)).as("%s", parts).isEqualTo(all(one));
        assertThat(shuffled.counts()).isEqualTo(one.counts());
        assertThat(shuffled.changes()).isEqualTo(one.changes());
      }
      for (Part part : parts) {
        boolean last =
            parts.stream()
                .noneMatch(
                    other ->
                        java.util.Objects.equals(other.key.name(), part.key.name())
                            && other.key.variant().equals(part.key.variant())
                            && other.key.attempt() != null
                            && part.key.attempt() != null
                            && other.key.attempt() > part.key.attempt());
        long failing = Arrays.stream(part.first.split(" ")).filter(c -> c.endsWith("F")).count();
        if (last && failing > 0) {
          assertThat(one.counts().failed()).as("no failure is lost").isPositive();
        }
      }
    }
  }

  /** Every result that stands, with where it came from. */
  private List<String> all(RunSummary run) {
    return rows(run).stream()
        .map(
            row -> {
              ResultDetail detail =
                  stores.runs().result(uploads.project(), run, row.id()).orElseThrow();
              String part = detail.partName().startsWith("part ") ? "" : detail.partName();
              return row.test().suite()
                  + row.test().name()
                  + row.test().variant()
                  + " of "
                  + part
                  + ": "
                  + row.outcome()
                  + " after "
                  + row.attempts()
                  + " "
                  + row.change()
                  + detail.tries().stream().map(one -> one.attempt().outcome()).toList()
                  + " beside "
                  + detail.elsewhere().stream()
                      .map(other -> other.variant() + "" + other.outcome())
                      .sorted()
                      .toList();
            })
        .sorted()
        .toList();
  }

  @Test
  void areShownTogetherWithEachOther() {
    send(
        "one",
        1,
        List.of(
            new Piece("chromium", "a:P b:P"),
            new Piece("webkit", "a:F b:P"),
            new Piece("firefox", "b:P")));
    ResultRow failed =
        rows(run("one", 1)).stream().filter(row -> row.outcome().isFailing()).findFirst().get();
    ResultDetail detail =
        stores.runs().result(uploads.project(), run("one", 1), failed.id()).orElseThrow();
    assertThat(detail.row().test().variant()).containsExactly(Map.entry("browser", "webkit"));
    assertThat(detail.tries()).hasSize(1);
    assertThat(detail.elsewhere())
        .extracting(other -> other.variant() + " " + other.partName() + " " + other.outcome())
        .containsExactly("{browser=chromium} part 1 PASSED");
  }

  @Test
  void equalFilesOfTwoVariantsAreBothKept() {
    send("one", 1, List.of(new Piece("chromium", "a:P b:F"), new Piece("webkit", "a:P b:F")));
    assertThat(run("one", 1).counts().tests()).isEqualTo(4);
    assertThat(run("one", 1).counts().failed()).isEqualTo(2);
    // The same part once more is the same upload.
    assertThat(
            uploads
                .sendPart(
                    "one",
                    "night-1",
                    new Piece("webkit", "").key(),
                    Map.of(),
                    TestUploads.suite("Quay", "a:P b:F"))
                .duplicate())
        .isTrue();
  }
}
