package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.Category;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.GroupInRun;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.PgWorkStore;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;
import org.vinecellar.store.work.WorkTask;

/** Failures come into groups, and what is decided of one is carried to its like, in any order. */
class TriageTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final EditStore.Hand LEAD = new EditStore.Hand("lead", NOW);
  private static final String STREAM = "fares/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private TestUploads uploads;
  private int project;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
  }

  /** A file of failing tests, each thrown in a method of the product: {@code a:Fares.rounded}. */
  static String failing(int night, String... tests) {
    StringBuilder xml =
        new StringBuilder(
            String.format(
                "<testsuite name='org.skerrow.FareTest' timestamp='2026-10-%02dT03:00:00Z'>",
                night));
    for (String test : tests) {
      String name = test.substring(0, test.indexOf(':'));
      String place = test.substring(test.indexOf(':') + 1);
      xml.append("<testcase name='" + name + "' time='1'>");
      if (place.equals("bare")) {
        xml.append("<failure message='expected: &lt;" + night + "&gt; but was: &lt;3&gt;'/>");
      } else if (place.equals("silent")) {
        xml.append("<failure/>");
      } else if (!place.equals("P")) {
        String file = place.substring(0, place.indexOf('.')) + ".java:" + (night + 40);
        xml.append(
            "<error type='java.lang.IllegalStateException' message='night "
                + night
                + "'>java.lang.IllegalStateException: night "
                + night
                + "\n\tat org.skerrow."
                + place
                + "("
                + file
                + ")\n</error>");
      }
      xml.append("</testcase>");
    }
    return xml.append("</testsuite>").toString();
  }

  /**
   * A set-up and what it kept from running are one item: the nearest set-up around a test counts.
   */
  @Test
  void aSetUpTellsHowManyTestsItKeptFromRunning() {
    String inner = "<testsuite name='S'>%s<testsuite name='I'>%s</testsuite></testsuite>";
    String tests = "<testcase name='a'/><testcase name='b'/>";
    String noQuay = "<testcase name=''><error message='no quay at the pier'/></testcase>";
    String noTide = "<testcase name=''><error message='tide table missing today'/></testcase>";
    uploads.send("setups", null, String.format(inner, tests, tests + "<testcase name='c'/>"));
    uploads.send("setups", null, String.format(inner, noQuay, noTide));
    work();
    assertThat(kept(2))
        .containsExactlyInAnyOrder("no quay at the pier 2", "tide table missing today 3");
    assertThat(kept(1)).isEmpty();
  }

  private List<String> kept(int run) {
    long id = stores.runs().run(project, "setups", run).orElseThrow().id();
    return stores.triage().groups(project, id, 10).lines().stream()
        .map(line -> line.template().strip() + " " + line.kept())
        .toList();
  }

  /** As from a run in which everything says something else: it ends, and says what it did. */
  @Test
  void moreDifferentErrorsThanCanBeComparedAreGroupedByTheirKeysAndThenNotAtAll() {
    StringBuilder xml = new StringBuilder("<testsuite name='Different'>");
    Random random = new Random(5);
    for (int i = 0; i < 60_500; i++) {
      xml.append("<testcase name='t" + i + "'><failure message='");
      for (int word = 0; word < 4; word++) {
        for (int letter = 0; letter < 7; letter++) {
          xml.append((char) ('a' + random.nextInt(26)));
        }
        xml.append(' ');
      }
      xml.append("'/></testcase>");
    }
    uploads.send("different", null, xml.append("</testsuite>").toString());
    work();
    long run = stores.runs().run(project, "different", 1).orElseThrow().id();
    TriageStore.GroupsInRun groups = stores.triage().groups(project, run, 10);
    assertThat(groups.results()).isEqualTo(60_500);
    assertThat(groups.notCompared()).isEqualTo(40_500);
    assertThat(groups.total()).isBetween(59_000, 60_001);
    assertThat(groups.lines())
        .as("the rest, which no decision is carried over")
        .anySatisfy(
            one -> {
              assertThat(one.template()).contains("than are told apart");
              assertThat(one.results()).isEqualTo(500);
            });
  }

  private void work() {
    TestDatabase.work(stores);
  }

  private List<FailureLine> lines() {
    return stores.triage().failures(project, new TriageStore.Wanted(STREAM, 1, 1_000, null, 2_000));
  }

  private FailureLine line(int run, String test) {
    return lines().stream()
        .filter(one -> one.run() == run && one.test().endsWith("#" + test))
        .findFirst()
        .orElseThrow();
  }

  private TriageStore.Decided decide(int run, String test, String comment, boolean single) {
    long id = stores.runs().run(project, STREAM, run).orElseThrow().id();
    ResultId result =
        stores.triage().failing(project, id, "org.skerrow.FareTest#" + test).orElseThrow();
    return stores
        .triage()
        .decide(
            project, id, result, new TriageStore.Verdict("product FAULT", comment, single), LEAD);
  }

  private @Nullable String said(int run, String test) {
    FailureLine.Said said = line(run, test).decision();
    return said == null ? null : said.origin() + " " + said.comment();
  }

  private TriageStore.GroupsInRun groups(int run, int limit) {
    long id = stores.runs().run(project, STREAM, run).orElseThrow().id();
    return stores.triage().groups(project, id, limit);
  }

  @Test
  void aRunTellsItsGroupsUnsortedOnesFirstAndThenTheWidest() {
    uploads.send(
        STREAM,
        "1",
        failing(1, "a:Fares.rounded", "b:Fares.rounded", "c:Fares.rounded", "d:Quay.free"));
    work();
    uploads.send(
        STREAM,
        "2",
        failing(2, "a:Fares.rounded", "b:Fares.rounded", "d:Quay.free", "e:Tide.at", "f:Tide.at"));
    work();
    assertThat(groups(1, 9).lines()).extracting(GroupInRun::results).containsExactly(3, 1);
    assertThat(groups(1, 9).lines())
        .allSatisfy(one -> assertThat(one.seen()).matches(seen -> seen != null && seen.here()));

    decide(1, "a", "rounds down", false);
    work();
    TriageStore.GroupsInRun second = groups(2, 9);
    assertThat(second.total()).isEqualTo(3);
    assertThat(second.results()).isEqualTo(5);
    assertThat(second.open()).isEqualTo(3);
    assertThat(second.lines())
        .extracting(GroupInRun::sentence, GroupInRun::results, GroupInRun::open)
        .containsExactly(
            tuple("thrown in `Tide.at` as `IllegalStateException`", 2, 2),
            tuple("thrown in `Quay.free` as `IllegalStateException`", 1, 1),
            tuple("thrown in `Fares.rounded` as `IllegalStateException`", 2, 0));
    GroupInRun explained = second.lines().get(2);
    assertThat(explained.said())
        .matches(said -> said != null && said.origin() == DecisionOrigin.CARRIED);
    assertThat(explained.seen()).matches(seen -> seen != null && seen.run() == 1 && !seen.here());
    assertThat(explained.test()).isEqualTo("org.skerrow.FareTest#a");

    TriageStore.GroupsInRun some = groups(2, 1);
    assertThat(some.lines()).hasSize(1);
    assertThat(some.total()).isEqualTo(3);
    long id = stores.runs().run(project, STREAM, 2).orElseThrow().id();
    assertThatThrownBy(() -> stores.triage().groups(project + 1_000, id, 9))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.NOT_FOUND));
  }

  @Test
  void aDecisionIsCarriedWithinItsRunAndToLaterOnesAndIsTakenBackEverywhere() {
    uploads.send(STREAM, "1", failing(1, "a:Fares.rounded", "b:Fares.rounded", "c:Fares.split"));
    uploads.send(STREAM, "2", failing(2, "a:Fares.rounded", "d:Fares.rounded"));
    work();
    assertThat(line(1, "a").group())
        .isEqualTo(line(1, "b").group())
        .isEqualTo(line(2, "d").group());
    assertThat(line(1, "c").group()).isNotEqualTo(line(1, "a").group());
    assertThat(said(1, "a")).isNull();

    TriageStore.Decided decided = decide(1, "a", "rounds down", false);
    assertThat(decided.carried()).isEqualTo(1);
    work();
    uploads.send(STREAM, "3", failing(3, "e:Fares.rounded", "c:Fares.split"));
    work();

    assertThat(said(1, "a")).isEqualTo(DecisionOrigin.HAND + " rounds down");
    for (String carried : List.of("1b", "2a", "2d", "3e")) {
      assertThat(said(carried.charAt(0) - '0', carried.substring(1)))
          .as(carried)
          .isEqualTo(DecisionOrigin.CARRIED + " rounds down");
    }
    assertThat(said(3, "c")).isNull();
    assertThat(line(3, "e").decision())
        .extracting(said -> said == null ? "" : said.category())
        .isEqualTo("Product fault");

    stores.triage().undo(project, decided.id(), LEAD);
    work();
    assertThat(lines()).extracting(FailureLine::decision).containsOnlyNulls();
    assertThatThrownBy(() -> stores.triage().undo(project, decided.id(), LEAD))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.NOT_FOUND));
  }

  /**
   * Which of several it was cannot be known, and nothing is carried to what is merely asked for.
   */
  @Test
  void whatTellsNothingIsInTheGroupOfItsTestIfThatHadButOne() {
    uploads.send(STREAM, "1", failing(1, "a:Fares.rounded", "b:Fares.rounded", "c:Fares.split"));
    uploads.send(STREAM, "2", failing(2, "c:Fares.rounded"));
    work();
    decide(1, "a", "rounds down", false);
    uploads.send(STREAM, "3", failing(3, "a:silent", "c:silent", "new:silent"));
    uploads.send(STREAM, "4", failing(4, "a:silent", "c:silent"));
    work();
    for (int run = 3; run <= 4; run++) {
      assertThat(line(run, "a").group()).isEqualTo(line(1, "a").group());
      assertThat(said(run, "a")).isNull();
      assertThat(line(run, "c").group())
          .isEqualTo(line(3, "c").group())
          .isNotEqualTo(line(1, "c").group())
          .isNotEqualTo(line(2, "c").group());
    }
    assertThat(line(3, "new").group()).isNotEqualTo(line(3, "c").group());
  }

  @Test
  void runsOfBeforeAndOtherTestsOfABareCheckAreLeftAlone() {
    uploads.send(STREAM, "1", failing(1, "a:bare", "b:bare"));
    uploads.send(STREAM, "2", failing(2, "a:bare", "b:bare"));
    uploads.send(STREAM, "3", failing(3, "a:bare", "b:bare"));
    work();
    decide(2, "a", "flips", false);
    work();
    assertThat(said(1, "a")).as("from now on").isNull();
    assertThat(said(2, "b")).as("another test").isNull();
    assertThat(said(3, "a")).isEqualTo(DecisionOrigin.CARRIED + " flips");
    decide(3, "b", "only tonight", true);
    uploads.send(STREAM, "4", failing(4, "b:bare"));
    work();
    assertThat(said(4, "b")).isNull();
  }

  private boolean isDisputed(long group) {
    return stores.desk().group(project, group).orElseThrow().line().disputed();
  }

  @Test
  void twoDecisionsThatDisagreeCarryNothingUntilOneIsTakenBack() {
    uploads.send(STREAM, "1", failing(1, "a:Fares.rounded", "b:Fares.rounded"));
    work();
    assertThat(decide(1, "a", "one", false).disputed()).isFalse();
    TriageStore.Decided other = decide(1, "b", "other", false);
    assertThat(other.disputed()).as("who disagrees is told so at once").isTrue();
    uploads.send(STREAM, "2", failing(2, "c:Fares.rounded"));
    work();
    assertThat(said(2, "c")).isNull();
    assertThat(isDisputed(other.group())).as("people are told why").isTrue();
    stores.triage().undo(project, other.id(), LEAD);
    work();
    assertThat(isDisputed(other.group())).isFalse();
    assertThat(said(2, "c")).isEqualTo(DecisionOrigin.CARRIED + " one");
    assertThat(said(1, "b")).isEqualTo(DecisionOrigin.CARRIED + " one");
    decide(1, "a", "better said", false);
    work();
    assertThat(said(1, "a")).isEqualTo(DecisionOrigin.HAND + " better said");
    assertThat(said(2, "c")).isEqualTo(DecisionOrigin.CARRIED + " better said");
  }

  @Test
  void whatPassesOnALaterAttemptIsNoFailureAnyMore() {
    uploads.send(STREAM, "1", failing(1, "a:Fares.rounded"));
    work();
    decide(1, "a", "one", false);
    long id = stores.runs().run(project, STREAM, 1).orElseThrow().id();
    ResultId result = stores.triage().failing(project, id, "org.skerrow.FareTest#a").orElseThrow();
    stores
        .edits()
        .overrule(
            project,
            id,
            result,
            org.vinecellar.core.results.Outcome.ERRORED,
            org.vinecellar.core.results.Outcome.PASSED,
            "it was the quay",
            LEAD);
    work();
    assertThat(lines()).isEmpty();
    assertThat(stores.triage().failing(project, id, "org.skerrow.FareTest#a")).isEmpty();
    assertThatThrownBy(
            () ->
                stores
                    .triage()
                    .decide(
                        project,
                        id,
                        result,
                        new TriageStore.Verdict("Product fault", null, false),
                        LEAD))
        .hasMessageContaining("not among its failures");
  }

  @Test
  void categoriesAreThereFromTheStartAndWrongOnesAreNamed() {
    assertThat(stores.categories().categories(project))
        .extracting(Category::name)
        .containsExactly(
            "Product fault",
            "Test fault",
            "Environment fault",
            "Test data fault",
            "Expected change");
    uploads.send(STREAM, "1", failing(1, "a:Fares.rounded"));
    work();
    long id = stores.runs().run(project, STREAM, 1).orElseThrow().id();
    ResultId result = stores.triage().failing(project, id, "org.skerrow.FareTest#a").orElseThrow();
    assertThatThrownBy(
            () ->
                stores
                    .triage()
                    .decide(
                        project, id, result, new TriageStore.Verdict("Moon", null, false), LEAD))
        .hasMessage(
            "there is no category “Moon”; there are “Product fault”, “Test fault”,"
                + " “Environment fault”, “Test data fault”, “Expected change”");
  }

  /** Whatever a piece of work does, those behind it are done. */
  @Test
  void workThatCannotBeDoneKeepsNobodyWaiting() {
    Sql sql = new Sql(STORE.database());
    List<Long> done = new ArrayList<>();
    WorkTask wrong =
        (dsl, project, subject, now) -> {
          if (subject == 1) {
            throw new ArithmeticException("a fault of ours");
          }
          throw new StackOverflowError();
        };
    WorkTask right = (dsl, project, subject, now) -> done.add(subject);
    PgWorkStore work =
        new PgWorkStore(sql, Map.of(WorkKind.EXPLAIN_RUN, wrong, WorkKind.CARRY_GROUP, right));
    sql.transaction(
        dsl -> {
          WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, project, 1, NOW);
          WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, project, 2, NOW);
          WorkRows.ask(dsl, WorkKind.CARRY_GROUP, project, 3, NOW);
          return true;
        });
    for (int i = 0; i < 3; i++) {
      assertThat(work.doOne(NOW)).isTrue();
    }
    assertThat(work.doOne(NOW)).as("what failed waits a while").isFalse();
    assertThat(done).containsExactly(3L);
    assertThat(work.waiting(NOW).failed()).isEqualTo(2);
    sql.with(dsl -> dsl.execute("delete from work"));
  }

  /** A service that comes to its end over a piece is started again, and must not do so for ever. */
  @Test
  void workThatEndsTheServiceIsPutOff() {
    Sql sql = new Sql(STORE.database());
    List<Long> done = new ArrayList<>();
    WorkTask deadly =
        (dsl, project, subject, now) -> {
          throw new OutOfMemoryError("as if");
        };
    WorkTask right = (dsl, project, subject, now) -> done.add(subject);
    sql.transaction(
        dsl -> {
          WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, project, 1, NOW);
          WorkRows.ask(dsl, WorkKind.CARRY_GROUP, project, 2, NOW);
          return true;
        });
    for (int process = 0; process < 3; process++) {
      PgWorkStore work = new PgWorkStore(sql, Map.of(WorkKind.EXPLAIN_RUN, deadly));
      for (int again = 0; again < 2; again++) {
        assertThatThrownBy(() -> work.doOne(NOW)).isInstanceOf(OutOfMemoryError.class);
      }
    }
    PgWorkStore last =
        new PgWorkStore(sql, Map.of(WorkKind.EXPLAIN_RUN, deadly, WorkKind.CARRY_GROUP, right));
    assertThat(last.doOne(NOW)).as("put off").isTrue();
    assertThat(last.doOne(NOW)).isTrue();
    assertThat(last.doOne(NOW)).isFalse();
    assertThat(done).containsExactly(2L);
    assertThat(last.waiting(NOW).lastError()).contains("the service ended 3 times");
    assertThatThrownBy(() -> last.doOne(NOW.plusSeconds(3_700)))
        .as("an hour later it is tried again")
        .isInstanceOf(OutOfMemoryError.class);
    sql.with(dsl -> dsl.execute("delete from work"));
  }

  /** Who only comes too late, while another process does it, did not end over it. */
  @Test
  void whatManyProcessesWantToBeginIsNotTakenForDeadly() throws Exception {
    Sql sql = new Sql(STORE.database());
    sql.with(dsl -> dsl.execute("delete from work") + dsl.execute("delete from work_begun"));
    AtomicInteger done = new AtomicInteger();
    WorkTask slow =
        (dsl, project, subject, now) -> {
          done.incrementAndGet();
          LockSupport.parkNanos(2_000_000);
        };
    List<Callable<Object>> processes = new ArrayList<>();
    for (int process = 0; process < 6; process++) {
      PgWorkStore work = new PgWorkStore(sql, Map.of(WorkKind.EXPLAIN_RUN, slow));
      processes.add(
          () -> {
            for (int i = 0; i < 60; i++) {
              long subject = i % 3;
              sql.transaction(
                  dsl -> {
                    WorkRows.ask(dsl, WorkKind.EXPLAIN_RUN, project, subject, NOW);
                    return true;
                  });
              boolean unused = work.doOne(NOW);
            }
            return work.doOne(NOW);
          });
    }
    for (Future<Object> one : STORE.threads().invokeAll(processes)) {
      Object unused = one.get();
    }
    PgWorkStore last = new PgWorkStore(sql, Map.of(WorkKind.EXPLAIN_RUN, slow));
    for (int i = 0; i < 400 && last.doOne(NOW); i++) {
      done.incrementAndGet();
    }
    assertThat(last.waiting(NOW).lastError()).isNull();
    assertThat(STORE.count("work")).isZero();
    assertThat(STORE.count("work_begun")).isZero();
    assertThat(done.get()).isPositive();
  }

  /** Parts of runs, all at once and in any order: the groups are as if all had come one by one. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void groupsAreTheSameInAnyOrder(long seed) throws Exception {
    List<Callable<Object>> parts = new ArrayList<>();
    for (int night = 1; night <= 4; night++) {
      for (int part = 0; part < 3; part++) {
        String[] tests = {
          "a" + part + ":Fares.rounded",
          "b" + part + ":Fares.split",
          "c" + part + ":bare",
          "d" + part + ":Tide.height"
        };
        String text = failing(night, tests);
        String run = "n" + night;
        parts.add(() -> uploads.send(STREAM, run, text));
      }
    }
    Collections.shuffle(parts, new Random(seed));
    ExecutorService pool = Executors.newFixedThreadPool(5);
    try {
      Future<?> working =
          pool.submit(
              () -> {
                for (int i = 0; i < 20; i++) {
                  work();
                }
              });
      for (Future<Object> one : pool.invokeAll(parts)) {
        one.get();
      }
      working.get();
    } finally {
      pool.shutdown();
    }
    work();
    Map<Long, Set<String>> groups = new TreeMap<>();
    lines()
        .forEach(
            one ->
                groups
                    .computeIfAbsent(one.group(), k -> new TreeSet<>())
                    .add(one.test().substring(one.test().indexOf('#') + 1)));
    assertThat(groups.values())
        .containsExactlyInAnyOrder(
            Set.of("a0", "a1", "a2"),
            Set.of("b0", "b1", "b2"),
            Set.of("d0", "d1", "d2"),
            Set.of("c0"),
            Set.of("c1"),
            Set.of("c2"));
    assertThat(lines()).hasSize(48);
    for (int night = 1; night <= 4; night++) {
      assertThat(stores.runs().run(project, STREAM, night).orElseThrow().explained()).isTrue();
    }
  }
}
