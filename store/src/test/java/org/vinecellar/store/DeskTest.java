package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
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
import org.vinecellar.core.today.Today;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.GroupInRun;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.desk.Regrouped;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.core.triage.desk.Suggestion;
import org.vinecellar.core.triage.rules.Rule;
import org.vinecellar.core.triage.rules.RuleDraft;

/** Failure groups over all runs: their sums hold whatever happens, and whole ones are decided. */
class DeskTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Hand LEAD = new Hand("lead", NOW);
  private static final String STREAM = "fares/nightly";
  private static final String OTHER = "quay/nightly";
  private static final String[] PLACES = {"Fares.rounded", "Fares.split", "Quay.free", "bare", "P"};
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
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

  private void send(String stream, int night, String... tests) {
    uploads.send(stream, "night-" + night, TriageTest.failing(night, tests));
  }

  private void closed(String stream, int night, String... tests) {
    uploads.send(stream, null, TriageTest.failing(night, tests));
  }

  private List<GroupLine> groups(Show show, @Nullable Instant since) {
    return stores
        .desk()
        .groups(
            project,
            new DeskStore.Question(show, since, Criterion.EVERYTHING, "lead", NOW, 0, 100));
  }

  private GroupLine group(String sentence) {
    return groups(Show.ALL, null).stream()
        .filter(one -> one.sentence().contains(sentence))
        .findFirst()
        .orElseThrow();
  }

  private void decide(GroupLine group, String category) {
    TriageStore.Decided unused =
        stores
            .desk()
            .decide(project, group.id(), new DeskStore.Verdict(category, "so it is"), LEAD);
  }

  private List<FailureLine> lines(String stream) {
    return stores.triage().failures(project, new TriageStore.Wanted(stream, 1, 999, null, 2_000));
  }

  private List<String> categories(String stream) {
    return lines(stream).stream()
        .map(line -> line.decision() == null ? "-" : line.decision().category())
        .toList();
  }

  @Test
  void theQueueHasTheWidestAndLatestFirstAndTellsWhatEachCovers() {
    closed(STREAM, 1, "a:Fares.rounded", "b:Fares.rounded", "c:Quay.free");
    closed(STREAM, 2, "d:P", "a:P");
    closed(STREAM, 3, "a:Fares.rounded", "d:P");
    closed(STREAM, 4, "a:Fares.rounded", "d:P");
    closed(OTHER, 4, "e:Fares.rounded", "f:Tide.at", "g:Tide.at");
    work();
    assertThat(groups(Show.UNSORTED, null))
        .extracting(one -> one.sentence().replaceAll(".*`(\\w+\\.\\w+)`.*", "$1"))
        .containsExactly("Fares.rounded", "Tide.at", "Quay.free");
    GroupLine widest = groups(Show.UNSORTED, null).get(0);
    assertThat(widest.results()).isEqualTo(5);
    assertThat(widest.open()).isEqualTo(5);
    assertThat(widest.tests()).isEqualTo(3);
    assertThat(widest.streams()).isEqualTo(2);
    assertThat(widest.runs()).isEqualTo(4);
    assertThat(widest.first().number()).isEqualTo(1);
    assertThat(widest.last().stream()).isEqualTo(OTHER);
    assertThat(widest.test()).isEqualTo("org.skerrow.FareTest#e");

    assertThat(groups(Show.UNSORTED, Instant.parse("2026-10-04T00:00:00Z"))).hasSize(2);
    DeskStore.Sums sums = stores.desk().sums(project, Instant.parse("2026-10-04T00:00:00Z"), "x");
    assertThat(sums.older()).isEqualTo(1);
    assertThat(sums.results()).isEqualTo(4);

    GroupDetail detail = stores.desk().group(project, widest.id()).orElseThrow();
    GroupDetail.OfStream nightly =
        detail.streams().stream().filter(one -> one.stream().equals(STREAM)).findFirst().get();
    assertThat(nightly.since().number()).as("after the night that was without it").isEqualTo(3);
    assertThat(nightly.before()).extracting(one -> one == null ? 0 : one.number()).isEqualTo(2);
    assertThat(nightly.gone()).isFalse();
    assertThat(detail.strip()).extracting(GroupDetail.InRun::results).containsExactly(2, 1, 1, 1);
    assertThat(detail.tests().get(0).name()).isEqualTo("org.skerrow.FareTest#a");
    assertThat(detail.tests().get(0).results()).isEqualTo(3);
    assertThat(detail.shots()).isEmpty();
    assertThat(stores.desk().group(project + 1_000, widest.id())).isEqualTo(Optional.empty());
  }

  @Test
  void aWholeGroupIsExplainedWithWhatItHadAndWhatComes() {
    send(STREAM, 1, "a:bare", "a2:Fares.split");
    send(STREAM, 2, "a:bare", "b:Fares.rounded");
    send(STREAM, 3, "c:Fares.rounded");
    work();
    groups(Show.UNSORTED, null).forEach(one -> decide(one, "Test fault"));
    assertThat(categories(STREAM)).hasSize(5).containsOnly("Test fault");
    assertThat(groups(Show.UNSORTED, null)).isEmpty();
    assertThat(groups(Show.EXPLAINED, null)).hasSize(3);
    send(STREAM, 5, "a:bare", "d:Fares.rounded", "e:bare");
    work();
    assertThat(categories(STREAM)).endsWith("Test fault", "Test fault", "-");

    // Somebody knows better: all of it says so.
    GroupLine rounded = group("Fares.rounded");
    decide(rounded, "Product fault");
    assertThat(categories(STREAM)).filteredOn("Product fault"::equals).hasSize(3);
    assertThat(stores.desk().group(project, rounded.id()).orElseThrow().said())
        .extracting(past -> past.undoneBy())
        .containsExactly(null, "lead");
    long last = stores.desk().group(project, rounded.id()).orElseThrow().said().get(0).said().id();
    stores.triage().undo(project, last, LEAD);
    assertThat(group("Fares.rounded").open()).isEqualTo(3);
    assertThatThrownBy(
            () ->
                stores
                    .desk()
                    .decide(project, 999_999, new DeskStore.Verdict("Test fault", null), LEAD))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.NOT_FOUND));
  }

  @Test
  void whatWasMendedReturnsWithItsPast() {
    send(STREAM, 1, "a:Fares.rounded");
    send(STREAM, 2, "a:Fares.rounded");
    work();
    GroupLine group = group("Fares.rounded");
    Instant mended = Instant.parse("2026-10-02T12:00:00Z");
    assertThatThrownBy(() -> stores.desk().mended(project, group.id(), mended, LEAD))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.NOT_EXPLAINED));
    decide(group, "Product fault");
    stores.desk().mended(project, group.id(), mended, LEAD);
    work();
    assertThat(groups(Show.UNSORTED, null)).isEmpty();
    send(STREAM, 3, "a:Fares.rounded", "b:Fares.rounded");
    work();
    assertThat(categories(STREAM)).containsExactly("Product fault", "Product fault", "-", "-");
    RunSummary third = stores.runs().run(project, STREAM, 3).orElseThrow();
    GroupInRun there = stores.triage().groups(project, third.id(), 9).lines().get(0);
    assertThat(there.returned()).isTrue();
    assertThat(stores.runs().result(project, third, there.first()).orElseThrow().row().cause())
        .isNotNull()
        .satisfies(cause -> assertThat(cause.returned()).isTrue());
    GroupLine returned = groups(Show.RETURNED, null).get(0);
    assertThat(returned.returned()).isTrue();
    assertThat(returned.open()).isEqualTo(2);
    assertThat(returned.ends()).isEqualTo(mended);
    assertThat(returned.endedBy()).isEqualTo(EndedBy.MENDED);
    assertThat(stores.desk().sums(project, null, "x").returned()).isEqualTo(1);
    decide(returned, "Test fault");
    assertThat(categories(STREAM))
        .containsExactly("Product fault", "Product fault", "Test fault", "Test fault");
    assertThat(groups(Show.RETURNED, null)).isEmpty();

    stores.desk().assign(project, group.id(), "lead", LEAD);
    assertThat(groups(Show.MINE, null)).extracting(GroupLine::assigned).containsExactly("lead");
    stores.desk().assign(project, group.id(), null, LEAD);
    assertThat(groups(Show.MINE, null)).isEmpty();
  }

  @Test
  void whatWasDecidedUpToADayAsksAgainAfterIt() {
    send(STREAM, 1, "a:Fares.rounded");
    work();
    Instant until = Instant.parse("2026-10-03T00:00:00Z");
    // Made on the first of the month.
    Hand then = new Hand("lead", Instant.parse("2026-10-01T09:00:00Z"));
    GroupLine group = group("Fares.rounded");
    TriageStore.Decided unused =
        stores
            .desk()
            .decide(
                project, group.id(), new DeskStore.Verdict("Test fault", null, until, false), then);
    send(STREAM, 2, "a:Fares.rounded");
    work();
    assertThat(categories(STREAM)).containsExactly("Test fault", "Test fault");
    assertThat(group("Fares.rounded").endedBy()).isEqualTo(EndedBy.DATE);
    assertThat(group("Fares.rounded").returned()).isFalse();
    send(STREAM, 3, "a:Fares.rounded");
    work();
    assertThat(categories(STREAM)).containsExactly("Test fault", "Test fault", "-");
    assertThat(groups(Show.RETURNED, null)).hasSize(1);
    // Mended before that day: that counts.
    Instant mended = Instant.parse("2026-10-01T12:00:00Z");
    stores.desk().mended(project, group.id(), mended, then);
    assertThat(categories(STREAM)).containsExactly("Test fault", "-", "-");
    assertThat(group("Fares.rounded").endedBy()).isEqualTo(EndedBy.MENDED);
  }

  private void says(int night, String what) {
    uploads.send(
        STREAM,
        null,
        String.format(
            "<testsuite name='QuayTest' timestamp='2026-10-%02dT03:00:00Z'><testcase name='berth'>"
                + "<failure message='harbour master of the inner basin did not confirm the %s'/></testcase></testsuite>",
            night, what));
    work();
  }

  private @Nullable Suggestion suggested(String error) {
    GroupLine line =
        groups(Show.ALL, null).stream()
            .filter(one -> one.template().contains(error))
            .findFirst()
            .orElseThrow();
    return stores.desk().group(project, line.id()).orElseThrow().suggestion();
  }

  @Test
  void whatExplainedALikeGroupIsSuggestedWithHowOftenThatWasRight() {
    says(1, "berth for the ferry");
    assertThat(suggested("berth")).isNull();
    GroupLine berth = groups(Show.ALL, null).get(0);
    decide(berth, "Test data fault");
    says(2, "fuel for the tug");
    assertThat(categories(STREAM)).containsExactly("Test data fault", "-");
    Suggestion first = Objects.requireNonNull(suggested("fuel"));
    assertThat(first.like().id()).isEqualTo(berth.id());
    assertThat(first.strength()).isEqualTo(Suggestion.Strength.FAIR);
    assertThat(first.like().words()).contains("harbour", "confirm").doesNotContain("fuel");
    assertThat(first.of()).isZero();
    long fuel = groups(Show.UNSORTED, null).get(0).id();
    assertThat(stores.triage().suggested(project, List.of(fuel, berth.id(), 999_999L)))
        .containsOnly(Map.entry(fuel, "Test data fault"));
    TriageStore.Decided accepted =
        stores
            .desk()
            .accept(project, fuel, Objects.requireNonNull(first.like().said()).id(), null, LEAD);
    assertThat(categories(STREAM)).containsExactly("Test data fault", "Test data fault");
    GroupDetail.Past past = stores.desk().group(project, fuel).orElseThrow().said().get(0);
    assertThat(past.like()).isEqualTo(berth.id());
    assertThat(past.said().comment()).isEqualTo("so it is");

    says(3, "crew for the barge");
    Suggestion second = Objects.requireNonNull(suggested("crew"));
    assertThat(second.right()).isEqualTo(1);
    assertThat(second.of()).isEqualTo(1);
    GroupLine crew = groups(Show.UNSORTED, null).get(0);
    decide(crew, "Product fault");
    says(4, "light for the buoy");
    Suggestion third = Objects.requireNonNull(suggested("light"));
    assertThat(third.right()).isEqualTo(1);
    assertThat(third.of()).isEqualTo(2);
    // Who takes it back has not said that it was right.
    stores.triage().undo(project, accepted.id(), LEAD);
    assertThat(Objects.requireNonNull(suggested("light")).right()).isZero();
    assertThatThrownBy(() -> stores.desk().accept(project, crew.id(), accepted.id(), null, LEAD))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.NOT_FOUND));
  }

  @Test
  void todayTellsWhatIsNewSinceSomebodyLastLooked() {
    assertThat(stores.today().look(project, "lead", NOW)).as("never before").isNull();
    Instant soon = NOW.plus(Duration.ofHours(1));
    assertThat(stores.today().look(project, "lead", soon)).as("the same look").isNull();
    Instant next = NOW.plus(Duration.ofHours(20));
    assertThat(stores.today().look(project, "lead", next)).isEqualTo(soon);
    assertThat(stores.today().look(project, "other", next)).isNull();

    closed(STREAM, 1, "a:Fares.rounded", "b:P");
    String[] down = new String[12];
    for (int i = 0; i < down.length; i++) {
      down[i] = "t" + i + (i < 10 ? ":Pool.connect" : ":P");
    }
    closed(OTHER, 1, down);
    work();
    Today today = stores.today().today(project, "lead", NOW.minusSeconds(60), NOW);
    assertThat(today.fresh().first()).hasSize(2);
    assertThat(today.fresh().total()).isEqualTo(2);
    Today.OfStream out = today.streams().get(1);
    assertThat(out.stream()).isEqualTo(OTHER);
    assertThat(out.outage())
        .matches(one -> one != null && one.results() == 10 && one.tests() == 12);
    assertThat(out.open()).isEqualTo(10);
    assertThat(out.fresh()).isEqualTo(1);
    assertThat(today.streams().get(0).outage()).as("one test is no outage").isNull();

    decide(group("Pool.connect"), "Environment fault");
    // Work of tests is done in the year 2100.
    Instant far = Instant.parse("2200-01-01T00:00:00Z");
    today = stores.today().today(project, "lead", far, NOW);
    assertThat(today.fresh().total()).as("made before").isZero();
    assertThat(today.streams().get(1).open()).isZero();
    assertThat(today.streams().get(1).outage()).as("an explained outage is one").isNotNull();
    stores.desk().assign(project, group("Fares.rounded").id(), "lead", LEAD);
    Instant night = Instant.parse("2026-10-02T04:00:00Z");
    assertThat(stores.today().today(project, "lead", night, night).mine().total()).isEqualTo(1);
    assertThat(stores.today().today(project, "lead", NOW, NOW).mine().total())
        .as("not seen for a month")
        .isZero();
    assertThat(stores.today().today(project, "other", night, night).mine().first()).isEmpty();
  }

  /** Uploads, decisions and what takes them back, in any order: the sums are those of the rows. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void sumsAreWhatAPlainCountFinds(long seed) {
    Random random = new Random(seed);
    for (int i = 0; i < 60; i++) {
      any(random);
      if (random.nextInt(4) == 0) {
        work();
        assertThat(wrongSums()).as("seed %d, step %d", seed, i).isZero();
      }
    }
    work();
    assertThat(wrongSums()).isZero();
    for (GroupLine line : groups(Show.ALL, null)) {
      assertThat((long) line.tests())
          .isEqualTo(
              STORE.number(
                  "select count(distinct test_id) from failure f join run r on r.id = f.run_id"
                      + " and r.number is not null where f.group_id = "
                      + line.id()));
      assertThat((long) line.streams())
          .isEqualTo(
              STORE.number(
                  "select count(distinct r.stream_id) from failure f join run r on r.id = f.run_id"
                      + " and r.number is not null where f.group_id = "
                      + line.id()));
    }
  }

  private void any(Random random) {
    List<GroupLine> groups = groups(Show.ALL, null);
    GroupLine group = groups.isEmpty() ? null : groups.get(random.nextInt(groups.size()));
    List<RunSummary> runs =
        stores
            .runs()
            .runs(project, new RunQuery(null, Criterion.EVERYTHING, Optional.empty(), 200));
    RunSummary run = runs.isEmpty() ? null : runs.get(random.nextInt(runs.size()));
    int what = random.nextInt(16);
    GroupLine other = groups.isEmpty() ? null : groups.get(random.nextInt(groups.size()));
    if (what < 5 || group == null || other == null || run == null) {
      String[] tests = new String[1 + random.nextInt(4)];
      for (int i = 0; i < tests.length; i++) {
        tests[i] = "t" + random.nextInt(4) + i + ":" + PLACES[random.nextInt(PLACES.length)];
      }
      send(random.nextBoolean() ? STREAM : OTHER, 1 + random.nextInt(12), tests);
      return;
    }
    switch (what) {
      case 5, 6 -> decide(group, random.nextBoolean() ? "Test fault" : "Product fault");
      case 7 ->
          tolerant(
              () ->
                  stores
                      .desk()
                      .mended(
                          project,
                          group.id(),
                          Instant.parse("2026-10-01T12:00:00Z")
                              .plus(Duration.ofDays(random.nextInt(12))),
                          LEAD));
      case 8 ->
          stores
              .desk()
              .group(project, group.id())
              .flatMap(one -> one.said().stream().findFirst())
              .ifPresent(
                  past -> tolerant(() -> stores.triage().undo(project, past.said().id(), LEAD)));
      case 9 ->
          tolerant(
              () ->
                  stores
                      .triage()
                      .decide(
                          project,
                          group.last().run(),
                          group.shown(),
                          new TriageStore.Verdict("Test fault", null, random.nextBoolean()),
                          LEAD));
      case 10 -> tolerant(() -> stores.desk().join(project, group.id(), List.of(other.id()), LEAD));
      case 11 ->
          tolerant(
              () -> {
                List<GroupDetail.OfTest> tests =
                    stores.desk().group(project, group.id()).orElseThrow().tests();
                long unused =
                    stores.desk().part(project, group.id(), List.of(tests.get(0).test()), LEAD);
              });
      case 12 ->
          tolerant(
              () ->
                  stores
                      .desk()
                      .asFound(
                          project,
                          stores
                              .desk()
                              .group(project, group.id())
                              .orElseThrow()
                              .regrouped()
                              .stream()
                              .findFirst()
                              .map(Regrouped::group)
                              .orElse(group.id()),
                          LEAD));
      case 13 -> {
        Rule unused =
            stores
                .rules()
                .add(
                    project,
                    new RuleDraft(
                        "r", "", random.nextBoolean() ? "Quay" : "night", "Test fault", null, true),
                    random.nextInt(5),
                    LEAD);
      }
      case 14 -> {
        boolean unused = stores.removal().removeRun(project, run.id(), NOW);
      }
      default ->
          tolerant(
              () ->
                  stores
                      .moves()
                      .moveRun(
                          project, run.id(), run.stream().equals(STREAM) ? OTHER : STREAM, LEAD));
    }
  }

  private static void tolerant(Runnable what) {
    try {
      what.run();
    } catch (CellarException e) {
      assertThat(e.code()).isNotIn(ProblemCode.INTERNAL, ProblemCode.UNAVAILABLE);
    }
  }

  private long wrongSums() {
    String rows =
        "(select r.project_id, f.group_id, f.run_id, r.stream_id, r.started_at,"
            + " count(*)::int as results, count(*) filter (where f.decision_id is null)::int as open"
            + " from failure f join run r on r.id = f.run_id and r.number is not null"
            + " where r.project_id = "
            + project
            + " group by 1, 2, 3, 4, 5)";
    String kept =
        "(select project_id, group_id, run_id, stream_id, started_at, results, open from group_run"
            + " where project_id = "
            + project
            + ")";
    return STORE.count(
            "((" + rows + " except " + kept + ") union all (" + kept + " except " + rows + ")) x")
        + STORE.count(
            "failure_group g left join (select group_id, sum(results) as results, sum(open) as open,"
                + " count(*) as runs, max(started_at) as last from group_run where project_id = "
                + project
                + " group by 1) s on s.group_id = g.id where g.project_id = "
                + project
                + " and (g.results, g.open, g.runs, g.last_at) is distinct from"
                + " (coalesce(s.results, 0), coalesce(s.open, 0), coalesce(s.runs, 0), s.last)")
        + STORE.count(
            "failure_group g where g.project_id = "
                + project
                + " and g.results > 0 and (g.tests, g.streams) is distinct from"
                + " ((select count(distinct f.test_id)::int from failure f where f.group_id = g.id),"
                + " (select count(distinct r.stream_id)::int from group_run r"
                + " where r.group_id = g.id))");
  }

  /** What is decided, or taken back, in the very moment in which a run is being grouped. */
  @ParameterizedTest
  @ValueSource(strings = {"decide", "undo", "end"})
  void whatIsSaidWhileARunIsGroupedHoldsForItToo(String what) throws Exception {
    closed(STREAM, 1, "a:Fares.rounded");
    work();
    long group = group("Fares.rounded").id();
    if (!what.equals("decide")) {
      decide(group("Fares.rounded"), "Test fault");
      work();
    }
    FailureLine.Said before = group("Fares.rounded").said();
    long said = before == null ? 0 : before.id();
    closed(STREAM, 2, "a:Fares.rounded", "b:Fares.rounded");
    ExecutorService threads = Executors.newFixedThreadPool(2);
    try (Connection holder = STORE.database().getConnection();
        Statement statement = holder.createStatement()) {
      holder.setAutoCommit(false);
      statement.execute("select 1 from failure_group where id = " + group + " for update");
      Future<?> grouping = threads.submit(this::work);
      awaitWaiting(1);
      Future<?> saying =
          threads.submit(
              () -> {
                switch (what) {
                  case "decide" -> decide(group("Fares.rounded"), "Test fault");
                  case "undo" -> stores.triage().undo(project, said, LEAD);
                  default ->
                      stores
                          .desk()
                          .mended(project, group, Instant.parse("2026-10-01T12:00:00Z"), LEAD);
                }
              });
      awaitWaiting(2);
      holder.rollback();
      holder.setAutoCommit(true);
      grouping.get();
      saying.get();
    } finally {
      threads.shutdown();
    }
    work();
    assertThat(categories(STREAM))
        .containsExactlyElementsOf(
            what.equals("decide")
                ? List.of("Test fault", "Test fault", "Test fault")
                : what.equals("undo") ? List.of("-", "-", "-") : List.of("Test fault", "-", "-"));
    assertThat(wrongSums()).isZero();
  }

  /** Until so many statements wait for a lock. */
  private static void awaitWaiting(int statements) throws InterruptedException {
    for (int i = 0; i < 1_000; i++) {
      if (STORE.count(
              "pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'")
          >= statements) {
        return;
      }
      Thread.sleep(20);
    }
    throw new IllegalStateException("nobody waits");
  }

  /** Decisions of many on one group, while its runs come and are grouped. */
  @Test
  void manyAtOnceLeaveSumsThatAreTrue() throws Exception {
    send(STREAM, 1, "a:Fares.rounded", "b:Quay.free");
    work();
    List<Callable<Boolean>> all = new ArrayList<>();
    long fares = group("Fares.rounded").id();
    long quay = group("Quay.free").id();
    for (int i = 2; i < 14; i++) {
      int night = i;
      all.add(
          () -> {
            tolerant(
                () -> {
                  if (night % 2 == 0) {
                    stores.desk().join(project, fares, List.of(quay), LEAD);
                  } else {
                    stores.desk().asFound(project, quay, LEAD);
                  }
                });
            return true;
          });
      all.add(
          () -> {
            send(night % 2 == 0 ? STREAM : OTHER, night, "a:Fares.rounded", "c:Fares.rounded");
            return true;
          });
      all.add(
          () -> {
            decide(group("Fares.rounded"), night % 3 == 0 ? "Test fault" : "Product fault");
            return true;
          });
      all.add(
          () -> {
            work();
            return true;
          });
    }
    Collections.shuffle(all, new Random(7));
    ExecutorService threads = Executors.newFixedThreadPool(8);
    try {
      for (Future<Boolean> one : threads.invokeAll(all)) {
        assertThat(one.get()).isTrue();
      }
    } finally {
      threads.shutdown();
    }
    tolerant(() -> stores.desk().asFound(project, quay, LEAD));
    work();
    assertThat(wrongSums()).isZero();
    decide(group("Fares.rounded"), "Expected change");
    assertThat(categories(STREAM)).filteredOn("Expected change"::equals).hasSize(13);
    assertThat(group("Fares.rounded").open()).isZero();
  }
}
