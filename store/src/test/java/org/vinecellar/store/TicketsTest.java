package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Random;
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
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.Ticket.Mismatch;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.triage.tickets.TicketStore.Errand;
import org.vinecellar.core.triage.tickets.TrackerSettings;

/** Tickets of failure groups: what they say, what waits for the tracker, what ends with them. */
class TicketsTest {
  /** When runs come. When people and trackers say something is told in each test. */
  private static final Instant SENT = Instant.parse("2026-11-20T04:00:00Z");

  private static final Instant NOW = Instant.parse("2026-10-03T12:00:00Z");
  private static final String STREAM = "fares/nightly";
  private static final TrackerSettings SETTINGS =
      new TrackerSettings(
          "Log",
          "http://log.example/find?q={text}",
          "http://log.example/entries/{key}",
          "http://log.example/look/{key}",
          "http://log.example/entries",
          "{\"title\": \"{title}\", \"text\": \"{text}\"}",
          "",
          "",
          "Authorization: Bearer {secret}",
          new TrackerSettings.Where("", "", "/key", "/title", "/text", "/state", ""),
          List.of("done"));
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TicketStore tickets = stores.tickets();
  private TestUploads uploads;
  private int project;
  private Instant now;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, SENT);
    project = uploads.project();
    now = NOW;
    TicketStore.Kept unused = tickets.keep(project, SETTINGS, "s3", 0, hand());
  }

  private Hand hand() {
    return new Hand("lead", now);
  }

  private void night(int night, String... tests) {
    uploads.send(STREAM, null, TriageTest.failing(night, tests));
    TestDatabase.work(stores);
  }

  private GroupLine group(String sentence) {
    return groups(Show.ALL).stream()
        .filter(one -> one.sentence().contains(sentence))
        .findFirst()
        .orElseThrow();
  }

  private List<GroupLine> groups(Show show) {
    return stores
        .desk()
        .groups(
            project, new DeskStore.Question(show, null, Criterion.EVERYTHING, "lead", now, 0, 100));
  }

  private static Entry entry(String key, boolean open) {
    return new Entry(key, "Fares of " + key, "", open ? "to do" : "done", open, null, null);
  }

  private List<String> categories() {
    List<FailureLine> lines =
        stores.triage().failures(project, new TriageStore.Wanted(STREAM, 1, 999, null, 2_000));
    return lines.stream()
        .map(line -> line.decision() == null ? "-" : line.decision().category())
        .toList();
  }

  @Test
  void aTicketIsToldWhereverItsGroupIs() {
    night(1, "a:Fares.rounded", "b:Quay.free");
    GroupLine fares = group("Fares.rounded");
    Ticket linked = tickets.link(project, fares.id(), "L-1", entry("L-1", true), null, hand());
    assertThat(linked.link()).isEqualTo("http://log.example/look/L-1");
    assertThat(linked.waits()).isFalse();
    assertThat(tickets.link(project, fares.id(), "L-1", null, "again", hand()).id())
        .as("linked once")
        .isEqualTo(linked.id());
    assertThat(group("Fares.rounded").tickets()).extracting(Ticket::key).containsExactly("L-1");
    assertThat(group("Quay.free").tickets()).isEmpty();
    List<FailureLine> lines =
        stores.triage().failures(project, new TriageStore.Wanted(STREAM, 1, 9, null, 9));
    assertThat(lines).extracting(line -> line.tickets().size()).containsExactlyInAnyOrder(1, 0);

    // Of groups that were put together, and for as long as they are.
    long quay = group("Quay.free").id();
    tickets.link(project, quay, "L-2", null, null, hand());
    stores.desk().join(project, fares.id(), List.of(quay), hand());
    TestDatabase.work(stores);
    assertThat(tickets.ofGroup(project, quay))
        .extracting(Ticket::key)
        .containsExactlyInAnyOrder("L-1", "L-2");
    tickets.unlink(project, fares.id(), linked.id(), hand());
    stores.desk().asFound(project, quay, hand());
    assertThat(tickets.ofGroup(project, quay)).extracting(Ticket::key).containsExactly("L-2");
    assertThat(tickets.ofGroup(project, fares.id())).isEmpty();
    assertThatThrownBy(() -> tickets.link(project, 999_999, "L-1", null, null, hand()))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.NOT_FOUND));
  }

  @Test
  void whatDoesNotFitWhatIsSeenIsCalledOut() {
    night(1, "a:Fares.rounded");
    night(2, "a:Fares.rounded");
    long fares = group("Fares.rounded").id();
    long ticket = tickets.link(project, fares, "L-1", entry("L-1", true), null, hand()).id();
    assertThat(mismatch()).isNull();
    tickets.seen(project, ticket, entry("L-1", false), now);
    assertThat(mismatch()).as("closed after the last failure").isNull();
    night(4, "a:Fares.rounded");
    assertThat(mismatch()).isEqualTo(Mismatch.STILL_FAILS);
    assertThat(groups(Show.TICKETS)).hasSize(1);
    tickets.seen(project, ticket, entry("L-1", true), now);
    assertThat(mismatch()).isNull();
    assertThat(groups(Show.TICKETS)).isEmpty();
    for (int night = 5; night < 30; night += 6) {
      assertThat(mismatch()).isNull();
      night(night, "a:P");
    }
    assertThat(mismatch()).as("five runs, more than 10 days").isEqualTo(Mismatch.NOT_SEEN);
    tickets.lost(project, ticket, now);
    assertThat(mismatch()).isEqualTo(Mismatch.LOST);
    tickets.seen(project, ticket, entry("L-1", true), now);
    night(30, "a:Fares.rounded");
    assertThat(mismatch()).isNull();
  }

  private @Nullable Mismatch mismatch() {
    return group("Fares.rounded").tickets().get(0).mismatch();
  }

  @Test
  void whatHoldsUntilTheTicketIsClosedAsksAgainThen() {
    night(1, "a:Fares.rounded");
    long fares = group("Fares.rounded").id();
    DeskStore.Verdict untilClosed = new DeskStore.Verdict("Product fault", null, null, true);
    assertThatThrownBy(() -> stores.desk().decide(project, fares, untilClosed, hand()))
        .hasMessageContaining("no ticket of group " + fares + " is open");
    long first = tickets.link(project, fares, "L-1", null, null, hand()).id();
    long second = tickets.link(project, fares, "L-2", entry("L-2", true), null, hand()).id();
    TriageStore.Decided unused = stores.desk().decide(project, fares, untilClosed, hand());
    assertThat(group("Fares.rounded").untilClosed()).isTrue();
    tickets.seen(project, first, entry("L-1", false), now);
    TestDatabase.work(stores);
    night(4, "a:Fares.rounded");
    assertThat(categories()).as("one is open").containsExactly("Product fault", "Product fault");
    now = Instant.parse("2026-10-04T12:00:00Z");
    tickets.seen(project, second, entry("L-2", false), now);
    TestDatabase.work(stores);
    assertThat(group("Fares.rounded").endedBy()).isEqualTo(EndedBy.TICKET);
    assertThat(categories()).containsExactly("Product fault", "Product fault");
    night(5, "a:Fares.rounded");
    assertThat(categories()).containsExactly("Product fault", "Product fault", "-");
    assertThat(group("Fares.rounded").returned()).isTrue();
  }

  @Test
  void whatWaitsForTheTrackerIsTakenOnceAndTriedAgainLater() {
    night(1, "a:Fares.rounded");
    long fares = group("Fares.rounded").id();
    Ticket left = tickets.leave(project, fares, "Rounding", "text vine-1", "vine-1", hand());
    assertThat(left.waits()).isTrue();
    Errand errand = tickets.take(project, left.id(), now).orElseThrow();
    assertThat(errand.tries()).isZero();
    tickets.ask(project, fares, left.id(), hand());
    assertThat(tickets.take(project, left.id(), now)).as("somebody has it").isEmpty();
    assertThat(mine()).isEmpty();
    tickets.failed(project, left.id(), "away", errand.tries(), now);
    assertThat(tickets.tracker(project).orElseThrow().trouble()).isEqualTo("away");
    assertThat(mine()).isEmpty();
    now = now.plus(Duration.ofMinutes(1));
    assertThat(mine()).extracting(Errand::tries).containsExactly(1);

    // It was made under the key of one that is known: they are one.
    tickets.link(project, fares, "L-7", entry("L-7", true), null, hand());
    tickets.seen(project, left.id(), entry("L-7", true), now);
    assertThat(tickets.ofGroup(project, fares)).extracting(Ticket::key).containsExactly("L-7");
    assertThat(tickets.tracker(project).orElseThrow().trouble()).isNull();

    long ticket = tickets.ofGroup(project, fares).get(0).id();
    tickets.say(project, fares, ticket, "it fails still", hand());
    tickets.say(project, fares, ticket, "and again", hand());
    Errand told = tickets.take(project, ticket, now).orElseThrow();
    assertThat(told.unsaid()).isEqualTo("it fails still\n\nand again");
    String first = Objects.requireNonNull(told.unsaid());
    tickets.say(project, fares, ticket, "meanwhile ⛴", hand());
    tickets.seen(project, ticket, entry("L-7", true), now);
    tickets.told(project, ticket, first, now);
    assertThat(mine()).extracting(Errand::unsaid).containsExactly("meanwhile ⛴");
    tickets.seen(project, ticket, entry("L-7", true), now);
    tickets.told(project, ticket, "meanwhile ⛴", now);
    assertThat(mine()).isEmpty();
    tickets.untold(project, ticket, Objects.requireNonNull(told.unsaid()));
    now = now.plus(Duration.ofHours(1));
    assertThat(mine()).extracting(Errand::unsaid).containsExactly("it fails still\n\nand again");

    // Nobody asks for what nobody needs.
    tickets.unlink(project, fares, ticket, hand());
    now = now.plus(Duration.ofHours(5));
    assertThat(mine()).isEmpty();
  }

  private List<Errand> mine() {
    return tickets.due(now, 100).stream().filter(one -> one.projectId() == project).toList();
  }

  @Test
  void theSecretGoesToNobodyElseAndTicketsOfAnotherTrackerAreLost() {
    night(1, "a:Fares.rounded");
    long fares = group("Fares.rounded").id();
    tickets.link(project, fares, "L-1", entry("L-1", true), null, hand());
    assertThatThrownBy(() -> tickets.keep(project, SETTINGS, null, 0, hand()))
        .isInstanceOfSatisfying(
            CellarException.class,
            e -> assertThat(e.code()).isEqualTo(ProblemCode.EDITED_MEANWHILE));
    assertThat(tickets.keep(project, SETTINGS, null, 1, hand()).secret()).isEqualTo("s3");
    assertThat(tickets.ofGroup(project, fares).get(0).mismatch()).isNull();
    TrackerSettings elsewhere =
        new TrackerSettings(
            "Log",
            "http://log.example:81/find?q={text}",
            "http://log.example:81/entries/{key}",
            "",
            "",
            "",
            "",
            "",
            SETTINGS.header(),
            SETTINGS.where(),
            SETTINGS.closed());
    assertThatThrownBy(() -> tickets.keep(project, elsewhere, null, 2, hand()))
        .hasMessageContaining("the one before was for another host");
    assertThat(tickets.keep(project, elsewhere, "s4", 2, hand()).secret()).isEqualTo("s4");
    assertThat(tickets.ofGroup(project, fares).get(0).mismatch()).isEqualTo(Mismatch.LOST);
    tickets.forget(project, hand());
    assertThat(tickets.tracker(project)).isEmpty();
    assertThat(tickets.ofGroup(project, fares)).hasSize(1);
    now = now.plus(Duration.ofDays(1));
    assertThat(mine()).isEmpty();
  }

  /** In any order: no decision goes on until tickets are closed that are closed. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void nothingHoldsUntilWhatIsOverWhateverComesFirst(long seed) {
    Random random = new Random(seed);
    night(1, "a:Fares.rounded", "b:Quay.free");
    List<Long> groups = List.of(group("Fares.rounded").id(), group("Quay.free").id());
    for (int i = 0; i < 60; i++) {
      now = now.plusSeconds(60);
      step(random, groups.get(random.nextInt(2)), groups);
      TestDatabase.work(stores);
      for (GroupLine line : groups(Show.ALL)) {
        boolean goesOn = line.untilClosed() && line.ends() == null;
        boolean allClosed =
            !line.tickets().isEmpty()
                && line.tickets().stream()
                    .allMatch(
                        one -> Boolean.FALSE.equals(one.open()) && one.mismatch() != Mismatch.LOST);
        assertThat(goesOn && allClosed).as("seed %d, step %d: %s", seed, i, line).isFalse();
      }
    }
  }

  private void step(Random random, long group, List<Long> groups) {
    try {
      List<Ticket> linked = tickets.ofGroup(project, group);
      Ticket one = linked.isEmpty() ? null : linked.get(random.nextInt(linked.size()));
      String key = "L-" + random.nextInt(4);
      switch (random.nextInt(8)) {
        case 0, 1 ->
            tickets.link(
                project,
                group,
                key,
                random.nextBoolean() ? entry(key, random.nextBoolean()) : null,
                null,
                hand());
        case 2, 3 -> {
          if (one != null) {
            String seen = Objects.requireNonNull(one.key());
            tickets.seen(project, one.id(), entry(seen, random.nextBoolean()), now);
          }
        }
        case 4 -> {
          if (one != null) {
            tickets.lost(project, one.id(), now);
          }
        }
        case 5 -> {
          if (one != null) {
            tickets.unlink(project, group, one.id(), hand());
          }
        }
        case 6 ->
            stores
                .desk()
                .decide(
                    project,
                    group,
                    new DeskStore.Verdict("Test fault", null, null, random.nextInt(4) > 0),
                    hand());
        default -> {
          if (random.nextBoolean()) {
            stores.desk().join(project, groups.get(0), List.of(groups.get(1)), hand());
          } else {
            stores.desk().asFound(project, groups.get(1), hand());
          }
        }
      }
    } catch (CellarException e) {
      assertThat(e.code()).isNotIn(ProblemCode.INTERNAL, ProblemCode.UNAVAILABLE);
    }
  }
}
