package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.runs.KeptTest;

/** What its author gave an ID is one test under whatever name. */
class AuthorIdTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);

  /** The runs in their order; each test as suite, name and ID. */
  private static final List<List<String>> RUNS =
      List.of(
          List.of(
              "Fares rounds id1",
              "Fares pays id2",
              "Fares sails[1] id3",
              "Fares sails[2] id3",
              "Fares counts -"),
          List.of(
              "Fares rounds id1",
              "Fares pays id2",
              "Fares sails[1] id3",
              "Fares sails[2] id3",
              "Fares counts -"),
          List.of("Fares pays id2", "Fares counts -"),
          // After a run without it under quite another name, all its cases, and one that is not it.
          List.of(
              "Till halvesGoUp id1",
              "Fares paysByCard id9",
              "Quay boats[1] id3",
              "Quay boats[2] id3",
              "Fares counts -"),
          List.of(
              "Till halvesGoUp id1",
              "Fares paysByCard id9",
              "Quay boats[1] id3",
              "Quay boats[2] id3",
              "Fares counts -"));

  private void send(String stream, int run) {
    StringBuilder xml = new StringBuilder("<testsuite name='all'>");
    for (String test : RUNS.get(run)) {
      String[] words = test.split(" ");
      xml.append("<testcase classname='" + words[0] + "' name='" + words[1] + "'>");
      if (!words[2].equals("-")) {
        xml.append("<properties><property name='test_id' value='" + words[2] + "'/></properties>");
      }
      xml.append("</testcase>");
    }
    var unused =
        uploads.sendAt(
            NOW.minusSeconds((10 - run) * 86_400L),
            stream,
            null,
            UploadRequest.PartKey.NONE,
            Origin.UNKNOWN,
            Map.of(),
            xml.append("<system-out>" + run + "</system-out></testsuite>").toString());
  }

  private static String name(KeptTest test) {
    return test.name() + (test.parameters() == null ? "" : test.parameters());
  }

  /** A run on another browser has another test, though the first one is not in it. */
  @Test
  void anotherVariantIsAnotherTest() {
    for (int run = 0; run < 2; run++) {
      String suite = run % 2 == 0 ? "Fares" : "FaresOfTheKiosk";
      var unused =
          uploads.sendAt(
              NOW.minusSeconds((10 - run) * 86_400L),
              "author/browsers",
              null,
              UploadRequest.PartKey.NONE,
              Origin.UNKNOWN,
              Map.of(),
              "{\"config\":{\"rootDir\":\"/w\"},\"suites\":[{\"title\":\""
                  + suite
                  + "\",\"specs\":[{\"title\":\"rounds\",\"tags\":[\"id:F-1\"],\"tests\":[{"
                  + "\"expectedStatus\":\"passed\",\"projectName\":\""
                  + (run % 2 == 0 ? "gecko" : "blink")
                  + "\",\"results\":[{\"status\":\"passed\",\"duration\":"
                  + (run + 1)
                  + "}]}]}]}],\"errors\":[]}");
      TestDatabase.work(stores);
    }
    assertThat(stores.trust().renames(uploads.project(), "author/browsers")).isEmpty();
    assertThat(stores.trust().tests(uploads.project(), "author/browsers", 0, 10)).hasSize(2);
  }

  @ParameterizedTest
  @ValueSource(longs = {0, 1, 2, 3})
  void isOneTestUnderWhateverName(long seed) {
    String stream = "author/ids" + seed;
    List<Integer> order = new ArrayList<>(List.of(0, 1, 2, 3, 4));
    if (seed > 0) {
      Collections.shuffle(order, new Random(seed));
    }
    for (int run : order) {
      send(stream, run);
      TestDatabase.work(stores);
    }
    assertThat(stores.trust().renames(uploads.project(), stream))
        .filteredOn(one -> one.joined())
        .extracting(one -> name(one.old()) + " > " + name(one.now()) + one.reasons())
        .containsExactlyInAnyOrder(
            "rounds > halvesGoUp[SAME_ID]",
            "sails[1] > boats[1][SAME_ID]",
            "sails[2] > boats[2][SAME_ID]");
  }
}
