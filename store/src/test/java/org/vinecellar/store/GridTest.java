package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.trust.grid.Grid;
import org.vinecellar.core.trust.grid.GridStore;

/** Each cell of the grid is what that run told of that test. */
class GridTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String STREAM = "grid/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);

  /** As the grid tells it; the fourth is another's first name. */
  private static final Map<String, String> TESTS =
      new TreeMap<>(
          Map.of(
              "broken", "+++++FFF",
              "bad", "++E++++s",
              "flips", "+rF+r+F+",
              "was", "+F+.....",
              "is", "....+++F",
              "passes", "++++++++"));

  private void run(int run) {
    StringBuilder xml = new StringBuilder("<testsuite name='quay.Grid'>");
    TESTS.forEach(
        (test, did) -> {
          String inside =
              switch (did.charAt(run)) {
                case 'F' -> "<failure message='no " + test + "'/>";
                case 'E' -> "<error message='broken " + test + "'/>";
                case 'r' -> "<flakyFailure message='no " + test + "'/>";
                case 's' -> "<skipped/>";
                default -> "";
              };
          if (did.charAt(run) != '.') {
            xml.append("<testcase name='" + test + "'>" + inside + "</testcase>");
          }
        });
    xml.append("<system-out>" + run + "</system-out></testsuite>");
    var unused =
        uploads.sendAt(
            Instant.parse("2026-10-01T00:00:00Z").plusSeconds(run * 86_400L),
            STREAM,
            null,
            UploadRequest.PartKey.NONE,
            new Origin("c" + run, run == 1 ? "topic" : "main", null),
            Map.of(),
            xml.toString());
  }

  private Map<String, String> cells(String filter, @Nullable Integer run, @Nullable String branch) {
    Map<String, String> cells = new TreeMap<>();
    grid(filter, run, branch, 100).rows().forEach(row -> cells.put(row.test().name(), row.cells()));
    return cells;
  }

  private Grid grid(String filter, @Nullable Integer run, @Nullable String branch, int tests) {
    Criterion criterion =
        filter.isEmpty() ? Criterion.EVERYTHING : Resolver.read(filter, Thing.TEST, NOW);
    return stores
        .grid()
        .grid(uploads.project(), new GridStore.Question(STREAM, criterion, run, branch, 100, tests))
        .orElseThrow();
  }

  @Test
  void cellsAreWhatRunsTold() {
    List<Integer> runs = new ArrayList<>(List.of(0, 1, 2, 3, 4, 5, 6, 7));
    Collections.shuffle(runs, new Random(4));
    runs.forEach(this::run);
    TestDatabase.work(stores);
    Map<String, Long> ids = new TreeMap<>();
    stores
        .trust()
        .tests(uploads.project(), STREAM, 0, 100)
        .forEach(line -> ids.put(line.test().name(), line.test().id()));
    stores
        .trust()
        .say(
            uploads.project(),
            STREAM,
            ids.getOrDefault("was", 0L),
            ids.getOrDefault("is", 0L),
            true,
            new Hand("ada", NOW));
    TestDatabase.work(stores);
    Map<String, String> expected = new TreeMap<>(TESTS);
    expected.remove("was");
    expected.put("is", "+F+.+++F");
    assertThat(cells("", null, null)).isEqualTo(expected);
    Grid whole = grid("", null, null, 100);
    assertThat(whole.runs()).extracting(Grid.Run::commit).startsWith("c0", "c1", "c2");
    assertThat(whole.rows().get(0).test().name()).as("what failed most").isEqualTo("broken");
    assertThat(whole.rows().get(whole.rows().size() - 1).test().name()).isEqualTo("passes");
    for (Grid.Row row : whole.rows()) {
      assertThat(row.groups())
          .hasSize((int) row.cells().chars().filter(c -> c == 'F' || c == 'E').count())
          .allSatisfy(group -> assertThat(whole.groups()).containsKey(group));
    }
    assertThat(grid("", null, null, 2).more()).isTrue();
    assertThat(grid("", null, null, 2).rows()).hasSize(2);
    assertThat(cells("name sw \"b\"", null, null)).containsOnlyKeys("bad", "broken");
    assertThat(cells("", null, "topic")).containsEntry("flips", "r").containsEntry("is", "F");
    int last = whole.runs().get(7).number();
    assertThat(cells("", last, null)).containsOnlyKeys("broken", "is");
    int third = whole.runs().get(2).number();
    assertThat(cells("", third, null))
        .containsExactlyInAnyOrderEntriesOf(Map.of("bad", "++E", "flips", "+rF"));
    assertThat(
            stores
                .grid()
                .grid(
                    uploads.project(),
                    new GridStore.Question("grid/none", Criterion.EVERYTHING, null, null, 9, 9)))
        .isEmpty();
    assertThat(
            stores
                .grid()
                .grid(
                    uploads.project(),
                    new GridStore.Question(STREAM, Criterion.EVERYTHING, 99, null, 9, 9)))
        .isEmpty();
  }
}
