package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
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
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.quarantine.Lately;
import org.vinecellar.core.quarantine.Quarantine;
import org.vinecellar.core.quarantine.QuarantineStore;
import org.vinecellar.core.quarantine.Terms;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.trust.TrustStore.TestLine;

/** What is in quarantine fails no gate: from when it is said, up to the last day, and no longer. */
class QuarantineTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final int DAYS = 30;
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);
  private final QuarantineStore quarantines = stores.quarantine();

  /** All of these tests fail. */
  private int run(String stream, Instant at, List<String> failing) {
    StringBuilder xml = new StringBuilder("<testsuite name='quay.Bell'>");
    failing.forEach(
        test -> xml.append("<testcase name='" + test + "'><failure message='no'/></testcase>"));
    xml.append("<testcase name='passes'/><system-out>" + at + "</system-out></testsuite>");
    return uploads
        .sendAt(
            at, stream, null, UploadRequest.PartKey.NONE, Origin.UNKNOWN, Map.of(), xml.toString())
        .number();
  }

  private long id(String stream, String test) {
    TestDatabase.work(stores);
    return stores.trust().tests(uploads.project(), stream, 0, 100).stream()
        .map(TestLine::test)
        .filter(one -> one.name().equals(test))
        .findFirst()
        .orElseThrow()
        .id();
  }

  private QuarantineStore.InRun in(String stream, int number) {
    long run = stores.runs().run(uploads.project(), stream, number).orElseThrow().id();
    return quarantines.in(uploads.project(), run);
  }

  private long filtered(String stream, int number) {
    long run = stores.runs().run(uploads.project(), stream, number).orElseThrow().id();
    return stores
        .runs()
        .results(
            uploads.project(),
            run,
            new ResultQuery(
                Resolver.read("quarantined eq true", Thing.RESULT, NOW),
                null,
                Optional.empty(),
                50))
        .size();
  }

  private static Terms until(LocalDate day) {
    return new Terms("quay team", "flips", null, day);
  }

  private static Instant at(int day, int hour) {
    return Instant.parse("2026-10-01T00:00:00Z").plusSeconds((day * 24L + hour) * 3_600);
  }

  private static LocalDate day(Instant at) {
    return LocalDate.ofInstant(at, ZoneOffset.UTC);
  }

  /** What was said, as anybody would count it. */
  private record Span(String test, @Nullable String stream, Instant from, Instant end) {
    boolean holds(String of, String name, Instant at) {
      return test.equals(name)
          && (stream == null || stream.equals(of))
          && !at.isBefore(from)
          && at.isBefore(end);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void whateverIsSaidWheneverRunsCome(long seed) {
    Random random = new Random(seed);
    List<String> tests = List.of("a", "b", "c");
    List<String> streams = List.of("quarantine/one" + seed, "quarantine/two" + seed);
    Map<String, Long> ids = new HashMap<>();
    streams.forEach(stream -> run(stream, at(0, 0), tests));
    tests.forEach(test -> ids.put(test, id(streams.get(0), test)));
    List<Span> spans = new ArrayList<>();
    for (int day = 1; day < DAYS; day++) {
      Instant now = at(day, random.nextInt(20));
      Hand hand = new Hand("ada", now);
      String test = tests.get(random.nextInt(tests.size()));
      String stream = random.nextBoolean() ? null : streams.get(random.nextInt(2));
      if (random.nextInt(3) > 0) {
        LocalDate last = day(now).plusDays(random.nextInt(6));
        boolean covered =
            spans.stream()
                .anyMatch(
                    one ->
                        one.test.equals(test)
                            && (one.stream == null || one.stream.equals(stream))
                            && one.end.isAfter(now));
        var added =
            quarantines.add(uploads.project(), List.of(ids.get(test)), stream, until(last), hand);
        assertThat(added.added()).isEqualTo(covered ? 0 : 1);
        if (!covered) {
          spans.add(
              new Span(
                  test, stream, now, last.plusDays(1).atStartOfDay().toInstant(ZoneOffset.UTC)));
        }
      } else {
        for (Quarantine one : quarantines.open(uploads.project(), null, 0, 100)) {
          if (one.test().name().equals(test)) {
            quarantines.end(uploads.project(), one.id(), hand);
            spans.replaceAll(
                span ->
                    span.test.equals(test)
                            && span.end.isAfter(now)
                            && Objects.equals(span.stream, one.stream())
                        ? new Span(test, span.stream, span.from, now)
                        : span);
          }
        }
      }
    }
    List<Instant> times = new ArrayList<>();
    for (int day = 1; day < DAYS; day++) {
      times.add(at(day, random.nextInt(24)));
      times.add(at(day, 0));
    }
    // Sent late, and in whatever order.
    Collections.shuffle(times, random);
    for (Instant at : times) {
      String stream = streams.get(random.nextInt(2));
      int number = run(stream, at, tests);
      long expected =
          tests.stream()
              .filter(test -> spans.stream().anyMatch(span -> span.holds(stream, test, at)))
              .count();
      assertThat(in(stream, number).failing())
          .as("%s in %s: %s", stream, at, spans)
          .isEqualTo((int) expected);
      assertThat(filtered(stream, number)).isEqualTo(expected);
    }
  }

  @Test
  void itGoesOnUnderAnotherName() {
    String stream = "quarantine/renamed";
    run(stream, at(1, 1), List.of("old", "other"));
    long old = id(stream, "old");
    quarantines.add(
        uploads.project(), List.of(old), null, until(day(at(20, 0))), new Hand("ada", at(1, 2)));
    int number = run(stream, at(2, 1), List.of("new", "other"));
    long now = id(stream, "new");
    assertThat(in(stream, number).failing()).as("it is another test").isZero();
    stores.trust().say(uploads.project(), stream, old, now, true, new Hand("ada", at(2, 2)));
    TestDatabase.work(stores);
    // It fails as it did under its old name.
    assertThat(in(stream, number)).isEqualTo(new QuarantineStore.InRun(1, 0, List.of(now)));
    assertThat(
            quarantines
                .add(
                    uploads.project(),
                    List.of(now),
                    stream,
                    until(day(at(20, 0))),
                    new Hand("ada", at(2, 3)))
                .already())
        .isOne();
    assertThat(quarantines.names(uploads.project(), stream, day(at(3, 0)), true))
        .extracting(one -> one.test().name())
        .containsExactly("new");
    assertThat(quarantines.names(uploads.project(), stream, day(at(3, 0)), false)).hasSize(2);
    assertThat(quarantines.of(uploads.project(), now)).hasSize(1);
    stores.trust().say(uploads.project(), stream, old, now, false, new Hand("ada", at(2, 4)));
    TestDatabase.work(stores);
    assertThat(in(stream, number).failing()).isZero();
  }

  @Test
  void itGoesOnInTheStreamThatItsStreamBecomes() {
    String from = "quarantine/from";
    String to = "quarantine/to";
    run(from, at(1, 1), List.of("x", "y"));
    run(to, at(1, 3), List.of("x"));
    Hand hand = new Hand("ada", at(1, 4));
    LocalDate last = day(at(20, 0));
    quarantines.add(
        uploads.project(), List.of(id(from, "x"), id(from, "y")), from, until(last), hand);
    quarantines.add(uploads.project(), List.of(id(to, "x")), to, until(last), hand);
    stores.moves().moveAll(uploads.project(), from, to, new Hand("bo", at(2, 0)));
    TestDatabase.work(stores);
    assertThat(quarantines.open(uploads.project(), to, 0, 10))
        .extracting(one -> one.test().name())
        .containsExactlyInAnyOrder("x", "y");
    assertThat(quarantines.ended(uploads.project(), to, 0, 10)).hasSize(1);
    assertThat(in(to, run(to, at(3, 0), List.of("x", "y"))).failing()).isEqualTo(2);
  }

  @Test
  void manyAtOncePutItThereOnce() throws Exception {
    String stream = "quarantine/raced";
    run(stream, at(1, 1), List.of("x", "y", "z"));
    List<Long> ids = new ArrayList<>(List.of(id(stream, "x"), id(stream, "y"), id(stream, "z")));
    List<Callable<QuarantineStore.Added>> all = new ArrayList<>();
    for (int i = 0; i < 16; i++) {
      List<Long> some = new ArrayList<>(ids);
      Collections.shuffle(some, new Random(i));
      all.add(
          () ->
              quarantines.add(
                  uploads.project(),
                  some,
                  stream,
                  until(day(at(9, 0))),
                  new Hand("ada", at(1, 2))));
    }
    ExecutorService threads = Executors.newFixedThreadPool(8);
    int added = 0;
    try {
      for (Future<QuarantineStore.Added> one : threads.invokeAll(all)) {
        added += one.get().added();
      }
    } finally {
      threads.shutdown();
    }
    assertThat(added).isEqualTo(3);
    assertThat(quarantines.open(uploads.project(), stream, 0, 10)).hasSize(3);
  }

  @Test
  void whatItDidSinceIsTold() {
    String stream = "quarantine/since";
    run(stream, at(1, 1), List.of("x"));
    quarantines.add(
        uploads.project(),
        List.of(id(stream, "x")),
        stream,
        until(day(at(20, 0))),
        new Hand("ada", at(1, 2)));
    run(stream, at(2, 1), List.of("x"));
    run(stream, at(3, 1), List.of());
    TestDatabase.work(stores);
    Quarantine one = quarantines.open(uploads.project(), stream, 0, 10).get(0);
    assertThat(one.lately()).isEqualTo(new Lately(1, 1, 0, 1, one.lately().verdict()));
    Hand later = new Hand("bo", at(4, 0));
    Terms other = new Terms("fares", "mended soon", "QY-7", day(at(30, 0)));
    quarantines.change(uploads.project(), one.id(), one.version(), other, later);
    assertThatThrownBy(
            () -> quarantines.change(uploads.project(), one.id(), one.version(), other, later))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("version 2 by now");
    assertThatThrownBy(
            () ->
                quarantines.change(
                    uploads.project(),
                    one.id(),
                    2,
                    new Terms("fares", "late", null, day(at(60, 0))),
                    new Hand("bo", at(31, 0))))
        .hasMessageContaining("put the test there anew");
    quarantines.end(uploads.project(), one.id(), later);
    assertThatThrownBy(() -> quarantines.end(uploads.project(), one.id(), later))
        .hasMessageContaining("nobody has ended");
    assertThatThrownBy(
            () ->
                quarantines.add(
                    uploads.project(), List.of(999_999L), null, until(day(at(9, 0))), later))
        .hasMessageContaining("no such test");
    assertThatThrownBy(
            () ->
                quarantines.add(
                    uploads.project(),
                    List.of(one.test().id()),
                    "quarantine/none",
                    until(day(at(9, 0))),
                    later))
        .hasMessageContaining("no stream");
  }
}
