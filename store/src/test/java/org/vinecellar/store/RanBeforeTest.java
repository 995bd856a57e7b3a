package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.trust.TrustStore;

/** A test that fails when another one ran before it is told so, and its neighbours are not. */
class RanBeforeTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final int RUNS = 30;
  private static final String STREAM = "order/shuffled";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);

  private void send(int run, Random random) {
    List<String> order = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      order.add("t" + i);
    }
    order.addAll(List.of("leavesTheGateOpen", "countsTheGuests", "flips"));
    Collections.shuffle(order, random);
    StringBuilder xml = new StringBuilder("<testsuite name='Gate'>");
    boolean isOpen = false;
    for (String test : order) {
      isOpen |= test.equals("leavesTheGateOpen");
      boolean fails =
          test.equals("countsTheGuests") ? isOpen : test.equals("flips") && random.nextInt(4) == 0;
      xml.append("<testcase classname='Gate' name='" + test + "'>");
      xml.append(fails ? "<failure message='one guest too many'/>" : "").append("</testcase>");
    }
    var unused =
        uploads.sendAt(
            NOW.minusSeconds((RUNS - run) * 3_600L),
            STREAM,
            null,
            UploadRequest.PartKey.NONE,
            Origin.UNKNOWN,
            Map.of(),
            xml.append("</testsuite>").toString());
  }

  private Optional<TrustStore.RanBefore> before(String name) {
    long test =
        stores.trust().tests(uploads.project(), STREAM, 0, 100).stream()
            .filter(one -> one.test().name().equals(name))
            .findFirst()
            .orElseThrow()
            .test()
            .id();
    return stores
        .trust()
        .ranBefore(
            uploads.project(), stores.trust().history(uploads.project(), test, STREAM, null, 100));
  }

  @Test
  void whatItFailsBehindIsTold() {
    Random random = new Random(4);
    for (int run = 0; run < RUNS; run++) {
      send(run, random);
    }
    TestDatabase.work(stores);
    TrustStore.RanBefore told = before("countsTheGuests").orElseThrow();
    assertThat(told.other().name()).isEqualTo("leavesTheGateOpen");
    assertThat(told.clue().whenBefore()).isTrue();
    assertThat(told.clue().failedWith()).isEqualTo(told.clue().with());
    assertThat(told.clue().failedWithout()).isZero();
    assertThat(before("flips")).isEmpty();
    assertThat(before("t7")).isEmpty();
  }
}
