package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.Regrouped;

/** People put groups together and apart, and what comes later follows what they said. */
class RegroupTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Hand LEAD = new Hand("lead", NOW);
  private static final String STREAM = "fares/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final DeskStore desk = stores.desk();
  private TestUploads uploads;
  private int project;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
  }

  private void sent(int night, String... tests) {
    uploads.send(STREAM, null, TriageTest.failing(night, tests));
    TestDatabase.work(stores);
  }

  private List<FailureLine> lines() {
    return stores.triage().failures(project, new TriageStore.Wanted(STREAM, 1, 999, null, 2_000));
  }

  private long group(int run, String test) {
    return lines().stream()
        .filter(line -> line.run() == run && line.test().endsWith("#" + test))
        .map(line -> Objects.requireNonNull(line.group()))
        .findFirst()
        .orElseThrow();
  }

  private long test(long group, String name) {
    return detail(group).tests().stream()
        .filter(one -> one.name().endsWith("#" + name))
        .map(GroupDetail.OfTest::test)
        .findFirst()
        .orElseThrow();
  }

  private GroupDetail detail(long group) {
    return desk.group(project, group).orElseThrow();
  }

  /** Which results are one group, and what explains it: as in {@code 1a 1b Test fault}. */
  private List<String> groups() {
    Map<Long, String> members = new TreeMap<>();
    for (FailureLine line : lines()) {
      String said = line.decision() == null ? "" : "=" + line.decision().category();
      members.merge(
          Objects.requireNonNull(line.group()),
          line.run() + line.test().replaceAll(".*#", "") + said,
          (one, more) -> one + " " + more);
    }
    return List.copyOf(new TreeSet<>(members.values()));
  }

  private void decide(long group, @Nullable String category) {
    TriageStore.Decided unused =
        desk.decide(
            project, group, new DeskStore.Verdict(Objects.requireNonNull(category), null), LEAD);
    TestDatabase.work(stores);
  }

  @Test
  void whatIsJoinedIsOneCauseFromThenOnAndCanBeTakenApart() {
    sent(1, "a:Fares.rounded", "b:Quay.free");
    long fares = group(1, "a");
    long quay = group(1, "b");
    decide(fares, "Product fault");
    decide(quay, "Test fault");
    desk.join(project, quay, List.of(fares), LEAD);
    assertThat(groups()).containsExactly("1a=Test fault 1b=Test fault");
    sent(2, "a:Fares.rounded", "c:Fares.rounded", "b:Quay.free");
    assertThat(groups())
        .containsExactly("1a=Test fault 1b=Test fault 2a=Test fault 2c=Test fault 2b=Test fault");
    // Who still looks at the one that is gone sees the other one, and decides nothing by mistake.
    assertThat(detail(fares).line().id()).isEqualTo(quay);
    assertThatThrownBy(
            () -> desk.decide(project, fares, new DeskStore.Verdict("Test fault", null), LEAD))
        .isInstanceOfSatisfying(
            CellarException.class,
            e -> assertThat(e.code()).isEqualTo(ProblemCode.EDITED_MEANWHILE))
        .hasMessageContaining("joined to group " + quay);
    Regrouped joined = detail(quay).regrouped().get(0);
    assertThat(joined.what()).isEqualTo(Regrouped.What.JOINED);
    assertThat(joined.group()).isEqualTo(fares);
    assertThat(joined.by()).isEqualTo("lead");

    desk.asFound(project, fares, LEAD);
    assertThat(groups()).containsExactly("1a 2a 2c", "1b=Test fault 2b=Test fault");
    assertThat(detail(fares).line().id()).isEqualTo(fares);
    assertThatThrownBy(() -> desk.asFound(project, fares, LEAD))
        .hasMessageContaining("nobody joined group");
  }

  @Test
  void whatExplainedOneOfThemExplainsTheJoinedOne() {
    sent(1, "a:Fares.rounded", "b:Quay.free", "c:Tide.at");
    decide(group(1, "a"), "Product fault");
    desk.join(project, group(1, "b"), List.of(group(1, "a"), group(1, "c")), LEAD);
    assertThat(groups()).containsExactly("1a=Product fault 1b=Product fault 1c=Product fault");
  }

  @Test
  void whatSomeTestsHaveIsTakenOutAndStaysOut() {
    sent(1, "a:Fares.rounded", "b:Fares.rounded", "c:Fares.rounded");
    long fares = group(1, "a");
    decide(fares, "Product fault");
    long parted = desk.part(project, fares, List.of(test(fares, "b")), LEAD);
    assertThat(groups()).containsExactly("1a=Product fault 1c=Product fault", "1b");
    sent(2, "a:Fares.rounded", "b:Fares.rounded");
    assertThat(groups())
        .containsExactly("1a=Product fault 1c=Product fault 2a=Product fault", "1b 2b");
    decide(parted, "Test fault");
    assertThat(groups()).contains("1b=Test fault 2b=Test fault");
    assertThat(detail(parted).regrouped().get(0).what()).isEqualTo(Regrouped.What.PARTED_FROM);
    assertThat(detail(fares).regrouped().get(0).what()).isEqualTo(Regrouped.What.PARTED);

    assertThatThrownBy(() -> desk.part(project, fares, List.of(999_999L), LEAD))
        .hasMessageContaining("not all among them");
    long a = test(fares, "a");
    long c = test(fares, "c");
    assertThatThrownBy(() -> desk.part(project, fares, List.of(a, c), LEAD))
        .hasMessageContaining("all tests of the group");
    assertThatThrownBy(() -> desk.join(project, fares, List.of(parted), LEAD))
        .hasMessageContaining("put it back instead");
    assertThat(groups()).hasSize(2);

    desk.asFound(project, parted, LEAD);
    assertThat(groups()).hasSize(1);
    assertThat(groups().get(0)).doesNotContain("Test fault");
  }

  /** Said before or after the runs came, it comes to the same. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5})
  void whenItWasSaidMakesNoDifference(long seed) {
    Random random = new Random(seed);
    int joinAfter = 1 + random.nextInt(4);
    int partAfter = 1 + random.nextInt(4);
    for (int night = 1; night <= 4; night++) {
      sent(night, "a:Fares.rounded", "b:Fares.rounded", "c:Quay.free", "d:Tide.at");
      if (night == joinAfter) {
        desk.join(project, group(1, "d"), List.of(group(1, "c")), LEAD);
      }
      if (night == partAfter) {
        long fares = group(1, "a");
        long unused = desk.part(project, fares, List.of(test(fares, "b")), LEAD);
      }
    }
    String all =
        groups().stream()
            .map(members -> members.replaceAll("[0-9]", ""))
            .map(members -> List.of(members.split(" ")).stream().sorted().distinct().toList())
            .map(Object::toString)
            .sorted()
            .collect(Collectors.joining());
    assertThat(all).isEqualTo("[a][b][c, d]");
  }
}
