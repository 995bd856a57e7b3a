package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.rules.Rule;
import org.vinecellar.core.triage.rules.RuleDraft;
import org.vinecellar.core.triage.rules.RuleStore;
import org.vinecellar.core.triage.rules.RuleTrial;

/** Rules explain what nobody else did, as they said they would; people go before them. */
class RulesTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Hand LEAD = new Hand("lead", NOW);
  private static final String STREAM = "fares/nightly";
  private static final String[] PLACES = {"Fares.rounded", "Fares.split", "Quay.free", "bare", "P"};
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final RuleStore rules = stores.rules();
  private TestUploads uploads;
  private int project;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
  }

  private void work() {
    TestDatabase.work(stores);
  }

  private void sent(int night, String... tests) {
    uploads.send(STREAM, null, TriageTest.failing(night, tests));
  }

  private static RuleDraft draft(String name, String filter, String pattern, String category) {
    return new RuleDraft(name, filter, pattern, category, null, true);
  }

  private static RuleDraft pattern(String name, String pattern, String category) {
    return draft(name, "", pattern, category);
  }

  private List<FailureLine> lines() {
    return stores.triage().failures(project, new TriageStore.Wanted(STREAM, 1, 999, null, 2_000));
  }

  /** As in {@code Product fault/rule}, by the number of the run and the name of the test. */
  private List<String> said() {
    return lines().stream()
        .map(
            line ->
                line.run()
                    + line.test().replaceAll(".*#", "")
                    + " "
                    + (line.decision() == null
                        ? "-"
                        : line.decision().category() + "/" + line.decision().origin().word()))
        .toList();
  }

  private long group(int run, String test) {
    return Objects.requireNonNull(
        lines().stream()
            .filter(line -> line.run() == run && line.test().endsWith("#" + test))
            .findFirst()
            .orElseThrow()
            .group());
  }

  private long run(int number) {
    return stores
        .runs()
        .runs(project, new RunQuery(STREAM, Criterion.EVERYTHING, java.util.Optional.empty(), 100))
        .stream()
        .filter(one -> one.number() == number)
        .map(RunSummary::id)
        .findFirst()
        .orElseThrow();
  }

  private TriageStore.Decided decide(int run, String test, String category) {
    long id = run(run);
    return stores
        .triage()
        .decide(
            project,
            id,
            stores.triage().failing(project, id, "org.skerrow.FareTest#" + test).orElseThrow(),
            new TriageStore.Verdict(category, null, false),
            LEAD);
  }

  @Test
  void theFirstRuleThatAFailureFitsExplainsItFromNowOn() {
    sent(1, "a:Fares.rounded", "b:Quay.free", "c:bare");
    work();
    Rule wide = rules.add(project, pattern("ours", "org\\.skerrow\\.", "Test fault"), 0, LEAD);
    Rule quay = rules.add(project, pattern("quay", "Quay\\.free", "Test data fault"), 0, LEAD);
    Rule off =
        rules.add(
            project, new RuleDraft("off", "", ".", "Expected change", null, false), 100, LEAD);
    sent(2, "a:Fares.rounded", "b:Quay.free", "c:bare");
    work();
    assertThat(said())
        .containsExactly(
            "1a -", "1b -", "1c -", "2a Test fault/rule", "2b Test fault/rule", "2c -");
    assertThat(Objects.requireNonNull(lines().get(3).decision()).by()).isEqualTo("ours");
    List<Long> ids = new ArrayList<>(rules.rules(project, LEAD).stream().map(Rule::id).toList());
    assertThat(ids).hasSize(8).endsWith(wide.id(), quay.id(), off.id());
    Collections.reverse(ids);
    rules.order(project, ids, LEAD);
    sent(3, "a:Fares.rounded", "b:Quay.free");
    work();
    assertThat(said()).endsWith("3a Test fault/rule", "3b Test data fault/rule");
    Rule now =
        rules.rules(project, LEAD).stream()
            .filter(r -> r.id() == wide.id())
            .findFirst()
            .orElseThrow();
    assertThat(now.explained()).isEqualTo(3);
    assertThat(now.lastAt()).isEqualTo(Instant.parse("2026-10-03T03:00:00Z"));
    assertThat(now.trouble()).isNull();
  }

  @Test
  void peopleGoBeforeRulesAndARuleComesBackWhenTheyTakeItBack() {
    rules.add(project, pattern("ours", "org\\.skerrow\\.", "Test fault"), 0, LEAD);
    sent(1, "a:Fares.rounded", "b:Quay.free");
    sent(2, "a:Fares.rounded", "d:Fares.rounded");
    work();
    assertThat(said()).allMatch(one -> one.endsWith("Test fault/rule"));
    TriageStore.Decided decided = decide(1, "a", "Product fault");
    work();
    assertThat(said())
        .containsExactly(
            "1a Product fault/hand",
            "1b Test fault/rule",
            "2a Product fault/carried",
            "2d Product fault/carried");
    sent(3, "a:Fares.rounded");
    work();
    assertThat(said()).endsWith("3a Product fault/carried");
    stores.triage().undo(project, decided.id(), LEAD);
    work();
    assertThat(said()).hasSize(5).allMatch(one -> one.endsWith("Test fault/rule"));
    // A whole group, too.
    stores
        .desk()
        .decide(project, group(1, "a"), new DeskStore.Verdict("Environment fault", null), LEAD);
    work();
    assertThat(said().stream().filter(one -> one.contains("Environment")).count()).isEqualTo(4);
  }

  @Test
  void aRuleLeavesAGroupAloneThatAPersonTookFromItAndOneThatReturned() {
    rules.add(project, pattern("ours", "org\\.skerrow\\.", "Test fault"), 0, LEAD);
    rules.add(project, pattern("all", "night", "Expected change"), 0, LEAD);
    sent(1, "a:Fares.rounded", "b:Quay.free");
    work();
    long said = Objects.requireNonNull(lines().get(0).decision()).id();
    stores.triage().undo(project, said, LEAD);
    work();
    sent(2, "a:Fares.rounded", "b:Quay.free");
    work();
    // The next rule may say something of it.
    assertThat(said())
        .containsExactly(
            "1a Expected change/rule",
            "1b Test fault/rule",
            "2a Expected change/rule",
            "2b Test fault/rule");
    stores
        .desk()
        .decide(project, group(2, "b"), new DeskStore.Verdict("Product fault", null), LEAD);
    stores.desk().mended(project, group(2, "b"), Instant.parse("2026-10-02T12:00:00Z"), LEAD);
    sent(3, "b:Quay.free");
    work();
    assertThat(said()).endsWith("2b Product fault/hand", "3b -");
  }

  @Test
  void whatARuleSaidIsTakenBackAsAWhole() {
    Rule rule = rules.add(project, pattern("ours", "org\\.skerrow\\.", "Test fault"), 0, LEAD);
    sent(1, "a:Fares.rounded", "b:Quay.free");
    work();
    RuleDraft other = pattern("ours", "org\\.skerrow\\.", "Expected change");
    Rule changed = rules.change(project, rule.id(), rule.version(), other, 100, LEAD);
    sent(2, "a:Fares.rounded");
    work();
    // What was said stays as it was said.
    assertThat(said())
        .containsExactly("1a Test fault/rule", "1b Test fault/rule", "2a Expected change/rule");
    assertThatThrownBy(() -> rules.change(project, rule.id(), rule.version(), other, 0, LEAD))
        .extracting("code")
        .isEqualTo(ProblemCode.EDITED_MEANWHILE);
    assertThat(rules.takeBack(project, rule.id(), LEAD)).isEqualTo(3);
    work();
    assertThat(said()).containsExactly("1a -", "1b -", "2a -");
    // It is off now; switched on again it may explain all of it.
    assertThatThrownBy(() -> rules.change(project, rule.id(), changed.version(), other, 0, LEAD))
        .extracting("code")
        .isEqualTo(ProblemCode.EDITED_MEANWHILE);
    rules.change(project, rule.id(), changed.version() + 1, other, 100, LEAD);
    work();
    assertThat(said()).hasSize(3).allMatch(one -> one.endsWith("Expected change/rule"));
    rules.remove(project, rule.id(), LEAD);
    sent(3, "a:Fares.rounded");
    work();
    assertThat(said()).endsWith("2a Expected change/rule", "3a -");
    assertThatThrownBy(() -> rules.remove(project, rule.id(), LEAD))
        .extracting("code")
        .isEqualTo(ProblemCode.NOT_FOUND);
  }

  @Test
  void whatIsNotWholeOrNotThereIsRefused() {
    List<Rule> all = rules.rules(project, LEAD);
    assertThat(all).hasSize(5).allMatch(rule -> rule.starter() && !rule.said().on());
    assertThatThrownBy(() -> rules.order(project, List.of(all.get(0).id()), LEAD))
        .extracting("code")
        .isEqualTo(ProblemCode.EDITED_MEANWHILE);
    assertThatThrownBy(() -> rules.add(project, pattern("x", "x", "Weather"), 0, LEAD))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("there is no category “Weather”");
    assertThatThrownBy(() -> rules.trial(project, pattern("x", "(", "Test fault"), null, 5, LEAD))
        .hasMessageContaining("cannot be read");
  }

  /** A trial says what then happens, whatever was decided before. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void aTrialSaysWhatTheRuleThenDoes(long seed) {
    Random random = new Random(seed);
    for (int night = 1; night <= 6; night++) {
      sent(night, some(random));
    }
    work();
    List<FailureLine> all = lines();
    for (int i = 0; i < 3; i++) {
      FailureLine one = all.get(random.nextInt(all.size()));
      decide(one.run(), one.test().replaceAll(".*#", ""), "Product fault");
    }
    FailureLine ended = all.get(random.nextInt(all.size()));
    stores
        .desk()
        .decide(
            project,
            Objects.requireNonNull(ended.group()),
            new DeskStore.Verdict("Expected change", null),
            LEAD);
    stores
        .desk()
        .mended(
            project,
            Objects.requireNonNull(ended.group()),
            Instant.parse("2026-10-03T12:00:00Z"),
            LEAD);
    work();
    String[] patterns = {"Fares", "Quay|Tide", "night [1-4]\\b", "."};
    RuleDraft draft =
        draft(
            "some",
            random.nextBoolean() ? "" : "name co \"a\" or firstLine co \"5\"",
            patterns[random.nextInt(patterns.length)],
            "Test fault");
    int runs = 1 + random.nextInt(6);
    List<String> before = said();
    RuleTrial trial = rules.trial(project, draft, null, runs, LEAD);
    assertThat(said()).isEqualTo(before);
    Rule kept = rules.add(project, draft, 100, LEAD);
    work();
    List<FailureLine> after = lines();
    List<Integer> latest =
        after.stream()
            .map(FailureLine::run)
            .distinct()
            .sorted(Collections.reverseOrder())
            .limit(runs)
            .toList();
    assertThat(trial.runs()).isEqualTo(latest.size());
    assertThat(trial.failures())
        .isEqualTo((int) after.stream().filter(one -> latest.contains(one.run())).count());
    assertThat(trial.would())
        .isEqualTo(
            (int)
                after.stream()
                    .filter(one -> latest.contains(one.run()))
                    .filter(one -> one.decision() != null && one.decision().by().equals("some"))
                    .count());
    assertThat(trial.groups().stream().mapToInt(RuleTrial.InGroup::would).sum())
        .isEqualTo(trial.would());
    assertThat(trial.fits())
        .isGreaterThanOrEqualTo(
            trial.would() + trial.said().stream().mapToInt(RuleTrial.Said::results).sum());
    assertThat(trial.stopped()).isNull();
    RuleTrial again = rules.trial(project, draft, kept.id(), runs, LEAD);
    assertThat(again.would()).isZero();
    assertThat(again.fits()).isEqualTo(trial.fits());
    assertThat(
            again.said().stream()
                .filter(RuleTrial.Said::ownRule)
                .mapToInt(RuleTrial.Said::results)
                .sum())
        .isEqualTo(trial.would());
  }

  private static String[] some(Random random) {
    List<String> tests = new ArrayList<>();
    for (char name = 'a'; name < 'f'; name++) {
      if (random.nextInt(3) > 0) {
        tests.add(name + ":" + PLACES[random.nextInt(PLACES.length)]);
      }
    }
    return tests.isEmpty() ? new String[] {"a:Tide.at"} : tests.toArray(String[]::new);
  }

  /** Runs, a decision, a rule and its use on what came before, in any order. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void theOrderInWhichThingsComeMakesNoDifference(long seed) {
    Random random = new Random(seed);
    List<Runnable> steps = new ArrayList<>();
    for (int night = 1; night <= 4; night++) {
      int one = night;
      steps.add(() -> sent(one, "a:Fares.rounded", "b:Fares.rounded", "c:Quay.free", "d:bare"));
    }
    steps.add(
        () -> rules.add(project, pattern("ours", "org\\.skerrow\\.", "Test fault"), 100, LEAD));
    Collections.shuffle(steps, random);
    // Decided as soon as it is there.
    int decided = random.nextInt(5);
    boolean undone = random.nextBoolean();
    TriageStore.Decided made = null;
    for (int i = 0; i < steps.size(); i++) {
      steps.get(i).run();
      if (random.nextBoolean()) {
        work();
      }
      if (made == null && i >= decided) {
        work();
        FailureLine second = lines().stream().filter(this::ofSecondNight).findFirst().orElse(null);
        if (second != null) {
          made = decide(second.run(), "a", "Product fault");
        }
      }
    }
    if (made != null && undone) {
      stores.triage().undo(project, made.id(), LEAD);
    }
    work();
    boolean stands = made != null && !undone;
    String byNight =
        lines().stream()
            .map(
                line ->
                    night(line)
                        + line.test().replaceAll(".*#", "")
                        + (line.decision() == null ? "-" : line.decision().category().charAt(0)))
            .sorted()
            .collect(Collectors.joining(" "));
    assertThat(byNight)
        .isEqualTo(
            stands
                ? "1aT 1bT 1cT 1d- 2aP 2bP 2cT 2d- 3aP 3bP 3cT 3d- 4aP 4bP 4cT 4d-"
                : "1aT 1bT 1cT 1d- 2aT 2bT 2cT 2d- 3aT 3bT 3cT 3d- 4aT 4bT 4cT 4d-");
  }

  private boolean ofSecondNight(FailureLine line) {
    return night(line) == 2;
  }

  /** Runs are numbered as they come; their time tells the night. */
  private int night(FailureLine line) {
    return stores
        .runs()
        .runs(project, new RunQuery(STREAM, Criterion.EVERYTHING, java.util.Optional.empty(), 100))
        .stream()
        .filter(one -> one.number() == line.run())
        .map(one -> one.times().started().atZone(java.time.ZoneOffset.UTC).getDayOfMonth())
        .findFirst()
        .orElseThrow();
  }
}
