package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.runs.FindCursor;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;

/** Results over all runs are those that each run's own list has under the same filter. */
class FindTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final int RUNS = 40;
  private static final List<String> STREAMS = List.of("fares/nightly", "kiosk/browser");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private static final Random RANDOM = new Random(41);
  private static int project;

  @BeforeAll
  static void runs() {
    Stores stores = STORE.stores();
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
    for (int run = 0; run < RUNS; run++) {
      StringBuilder cases = new StringBuilder();
      for (int i = 1 + RANDOM.nextInt(6); i > 0; i--) {
        cases.append((char) ('a' + i)).append(':').append("PPPFESX".charAt(RANDOM.nextInt(7)));
        cases.append(' ');
      }
      // Some begin at the same moment.
      uploads.sendAt(
          NOW.minus(RANDOM.nextInt(20), ChronoUnit.HOURS),
          STREAMS.get(RANDOM.nextInt(2)),
          "run-" + run,
          UploadRequest.PartKey.named("part"),
          new Origin("c" + run, RANDOM.nextBoolean() ? "main" : "fares/new", null),
          run % 3 == 0 ? Map.of() : Map.of("team", run % 2 == 0 ? "fares" : "moorings"),
          TestUploads.suite("S" + run % 2, cases.toString().trim()));
    }
    TestDatabase.work(stores);
    for (RunSummary run : all()) {
      if (RANDOM.nextInt(6) == 0) {
        stores.removal().removeRun(project, run.id(), NOW);
      }
    }
  }

  private static List<RunSummary> all() {
    return STORE
        .stores()
        .runs()
        .runs(project, new RunQuery(null, Criterion.EVERYTHING, Optional.empty(), RUNS));
  }

  private static final List<String> ATOMS =
      List.of(
          "outcome eq \"failed\"",
          "outcome eq \"passed\"",
          "outcome eq \"skipped\"",
          "outcome pr",
          "setUp eq true",
          "name sw \"c\"",
          "suite eq \"S1\"",
          "label.team eq \"fares\"",
          "label.team pr",
          "run.branch eq \"main\"",
          "run[stream sw \"kiosk\" and started gt \"2026-11-19T12:00:00Z\"]",
          "run[failed gt 0 or label.team eq \"moorings\"]",
          "run.results[outcome eq \"errored\"]",
          "duration ge 0");

  private static String filter(int depth) {
    return switch (depth == 0 ? 0 : RANDOM.nextInt(5)) {
      case 1, 2 -> "(" + filter(depth - 1) + " and " + filter(depth - 1) + ")";
      case 3 -> "(" + filter(depth - 1) + " or " + filter(depth - 1) + ")";
      case 4 -> "not (" + filter(depth - 1) + ")";
      default -> ATOMS.get(RANDOM.nextInt(ATOMS.size()));
    };
  }

  @Test
  void theyAreThoseOfEachRun() {
    List<RunSummary> runs = all();
    assertThat(runs).hasSizeBetween(RUNS / 2, RUNS - 1);
    int some = 0;
    for (int round = 0; round < 90; round++) {
      String text = round == 0 ? "" : filter(3);
      Criterion filter = Resolver.read(text, Thing.RESULT, NOW);
      List<String> expected = new ArrayList<>();
      for (RunSummary run : runs) {
        STORE
            .stores()
            .runs()
            .results(project, run.id(), new ResultQuery(filter, null, Optional.empty(), 100))
            .forEach(row -> expected.add(run.stream() + "#" + run.number() + " " + row.id()));
      }
      assertThat(found(filter, 1 + RANDOM.nextInt(30))).as(text).isEqualTo(expected);
      assertThat(STORE.stores().runs().count(project, Thing.RESULT, filter))
          .as(text)
          .isEqualTo(new FoundPage.Count(expected.size(), true));
      some += expected.isEmpty() ? 0 : 1;
    }
    assertThat(some).isGreaterThan(45);
  }

  private static List<String> found(Criterion filter, int limit) {
    List<String> found = new ArrayList<>();
    Optional<FindCursor> at = Optional.empty();
    do {
      FoundPage page = STORE.stores().runs().find(project, new FindQuery(filter, at, limit));
      assertThat(page.results()).hasSizeLessThanOrEqualTo(limit);
      page.results()
          .forEach(
              one ->
                  found.add(
                      one.run().stream() + "#" + one.run().number() + " " + one.result().id()));
      at = Optional.ofNullable(page.next()).map(FindCursor::encode).flatMap(FindCursor::decode);
    } while (at.isPresent());
    return found;
  }
}
