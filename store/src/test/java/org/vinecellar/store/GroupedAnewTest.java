package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.code.CodeStore;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;

/** When more is known of the code, all runs are grouped anew, and what was said stays. */
class GroupedAnewTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Hand LEAD = new Hand("lead", NOW);
  private static final String STREAM = "fares/nightly";
  private static final List<String> METHODS = List.of("Fares.rounded", "Quay.free", "Tide.at");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final CodeStore code = stores.code();
  private TestUploads uploads;
  private int project;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
  }

  /** Each test fails in a method of a ledger, called from one of three others; one by itself. */
  private void night(int night, int... callers) {
    StringBuilder xml =
        new StringBuilder(
            String.format(
                "<testsuite name='org.skerrow.FareTest' timestamp='2026-10-%02dT03:00:00Z'>",
                night));
    for (int i = 0; i < callers.length; i++) {
      String method = METHODS.get(callers[i]);
      String file = method.substring(0, method.indexOf('.')) + ".java";
      xml.append(
          String.format(
              "<testcase name='t%d'><error type='java.lang.IllegalStateException' message='n'>"
                  + "java.lang.IllegalStateException: n\n\tat org.skerrow.Ledger.must(Ledger.java:7)"
                  + "\n\tat org.skerrow.%s(%s:%d)\n</error></testcase>",
              i, method, file, night));
    }
    xml.append(
        "<testcase name='own'><error type='java.lang.ArithmeticException' message='m'>"
            + "java.lang.ArithmeticException: m\n\tat org.skerrow.Rate.of(Rate.java:3)\n"
            + "</error></testcase></testsuite>");
    uploads.send(STREAM, null, xml.toString());
    TestDatabase.work(stores);
  }

  private void anew() {
    while (code.groupSomeAnew(NOW) > 0) {
      TestDatabase.work(stores);
    }
  }

  private void said(CodeSettings settings) {
    CodeStore.Kept kept = code.keep(project, settings, code.code(project).version(), LEAD);
    assertThat(kept.behind()).isEqualTo(kept.runs());
    anew();
    assertThat(code.code(project).behind()).isZero();
  }

  private List<FailureLine> lines() {
    return stores.triage().failures(project, new TriageStore.Wanted(STREAM, 1, 999, null, 2_000));
  }

  /** Which results each group has. */
  private Map<Long, String> groups() {
    return lines().stream()
        .collect(
            Collectors.groupingBy(
                line -> Objects.requireNonNull(line.group()),
                TreeMap::new,
                Collectors.mapping(
                    line -> line.run() + line.test().replaceAll(".*#", ""),
                    Collectors.joining(" "))));
  }

  private Map<String, String> categories() {
    return lines().stream()
        .collect(
            Collectors.toMap(
                line -> line.run() + line.test().replaceAll(".*#", ""),
                line -> line.decision() == null ? "-" : line.decision().category(),
                (one, other) -> one,
                TreeMap::new));
  }

  private long group(String result) {
    return groups().entrySet().stream()
        .filter(one -> List.of(one.getValue().split(" ")).contains(result))
        .findFirst()
        .orElseThrow()
        .getKey();
  }

  @Test
  void aGroupThatFallsApartKeepsItsNumberAndWhatWasSaidForMostOfIt() {
    night(1, 0, 0, 1);
    night(2, 0, 1, 0, 2);
    assertThat(groups().values())
        .containsExactlyInAnyOrder("1t0 1t1 1t2 2t0 2t1 2t2 2t3", "1own 2own");
    long ledger = group("1t0");
    TriageStore.Decided unused =
        stores.desk().decide(project, ledger, new DeskStore.Verdict("Test fault", null), LEAD);

    said(new CodeSettings(List.of(), List.of("Ledger")));
    assertThat(groups().values())
        .containsExactlyInAnyOrder("1t0 1t1 2t0 2t2", "1t2 2t1", "2t3", "1own 2own");
    assertThat(group("1t0")).isEqualTo(ledger);
    assertThat(stores.desk().group(project, ledger).orElseThrow().line().sentence())
        .contains("Fares.rounded");
    assertThat(categories())
        .containsEntry("1t0", "Test fault")
        .containsEntry("2t2", "Test fault")
        .containsEntry("1t2", "-")
        .containsEntry("2t3", "-");
    night(3, 0, 1);
    assertThat(group("3t0")).isEqualTo(ledger);
    assertThat(group("3t1")).isEqualTo(group("1t2"));
    assertThat(categories()).containsEntry("3t0", "Test fault").containsEntry("3t1", "-");

    // Taken back, they are one again, under the first number.
    said(CodeSettings.NONE);
    assertThat(groups()).containsEntry(ledger, "1t0 1t1 1t2 2t0 2t1 2t2 2t3 3t0 3t1").hasSize(2);
  }

  /** A run that comes before those of before are grouped anew must not take their place. */
  @Test
  void aRunThatComesMeanwhileFindsTheGroupsOfBefore() {
    night(1, 0, 0, 1);
    night(2, 0, 0, 1);
    long ledger = group("1t0");
    TriageStore.Decided unused =
        stores.desk().decide(project, ledger, new DeskStore.Verdict("Test fault", null), LEAD);
    CodeStore.Kept kept =
        code.keep(project, new CodeSettings(List.of(), List.of("Ledger")), 0, LEAD);
    assertThat(kept.behind()).isEqualTo(2);
    night(3, 1, 0);
    assertThat(group("3t1")).isEqualTo(ledger);
    assertThat(categories()).containsEntry("3t1", "Test fault").containsEntry("3t0", "-");
    assertThat(code.code(project).behind()).isZero();
    assertThat(groups().values())
        .containsExactlyInAnyOrder("1t0 1t1 2t0 2t1 3t1", "1t2 2t2 3t0", "1own 2own 3own");
  }

  @Test
  void whatChangesNothingChangesNothing() {
    for (int night = 1; night < 30; night++) {
      night(night, night % 3, (night / 3) % 3);
    }
    stores.desk().decide(project, group("1t0"), new DeskStore.Verdict("Test fault", null), LEAD);
    stores.desk().join(project, group("1own"), List.of(group("1t0")), LEAD);
    TestDatabase.work(stores);
    Map<Long, String> before = groups();
    Map<String, String> said = categories();
    said(new CodeSettings(List.of("org.skerrow"), List.of("Nothing.is.called.so")));
    assertThat(groups()).isEqualTo(before);
    assertThat(categories()).isEqualTo(said);
    assertThat(STORE.number("select count(*) from failure_group where project_id = " + project))
        .isEqualTo(2);
    // The same again is no change.
    CodeStore.Kept kept = code.code(project);
    assertThat(code.keep(project, kept.settings(), kept.version(), LEAD).version())
        .isEqualTo(kept.version());
  }

  @Test
  void settingsOfTwoPeopleAndTooWideOnesAreRefused() {
    CodeStore.Kept unused =
        code.keep(project, new CodeSettings(List.of("org.a"), List.of()), 0, LEAD);
    assertThatThrownBy(() -> code.keep(project, CodeSettings.NONE, 0, LEAD))
        .isInstanceOfSatisfying(
            CellarException.class,
            e -> assertThat(e.code()).isEqualTo(ProblemCode.EDITED_MEANWHILE));
    for (String wrong : List.of("a", "x".repeat(201))) {
      assertThatThrownBy(
              () -> code.keep(project, new CodeSettings(List.of(), List.of(wrong)), 1, LEAD))
          .isInstanceOfSatisfying(
              CellarException.class,
              e -> assertThat(e.code()).isEqualTo(ProblemCode.INVALID_VALUE));
    }
    assertThat(code.code(project).settings().own()).containsExactly("org.a");
  }
}
