package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.ExplainedCell;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.PanelKind;
import org.vinecellar.core.boards.Panels;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunCell;
import org.vinecellar.core.boards.RunPick;
import org.vinecellar.core.boards.RunSum;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.tickets.Entry;

/** What boards sum up is what the bare rows of results come to, taken one by one. */
class BoardFactsTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final int RUNS = 60;
  private static final List<String> STREAMS = List.of("fares/nightly", "kiosk/browser", "deck");
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private static final Random RANDOM = new Random(14);
  private static int project;
  private static final List<Bare> BARE = new ArrayList<>();
  private static @Nullable PanelsAgain again;

  /** A run by its bare rows. */
  private record Bare(
      long id,
      Instant started,
      String stream,
      @Nullable String branch,
      JsonNode labels,
      int[] outcomes,
      int retried,
      int setUps,
      long micros) {
    int failing() {
      return outcomes[1] + outcomes[2];
    }

    @Nullable String by(Dimension dimension) {
      return switch (dimension.way()) {
        case STREAM -> stream;
        case BRANCH -> branch;
        case LABEL -> labels.path(dimension.word().substring("label.".length())).asText(null);
      };
    }
  }

  /**
   * Runs at any time, in parts that come late, some changed by hand, some taken away; and tests
   * that get other names, once or twice.
   */
  @BeforeAll
  static void runs() throws SQLException, JsonProcessingException {
    Stores stores = STORE.stores();
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
    for (int run = 0; run < RUNS; run++) {
      String stream = STREAMS.get(RANDOM.nextInt(STREAMS.size()));
      Instant at = NOW.minus(RANDOM.nextInt(40 * 24 * 60), ChronoUnit.MINUTES);
      Origin origin =
          new Origin("c" + run, List.of("main", "fares/new").get(RANDOM.nextInt(2)), null);
      for (int part = RANDOM.nextInt(2); part >= 0; part--) {
        uploads.sendAt(
            at,
            stream,
            "run-" + run,
            UploadRequest.PartKey.named("part" + part),
            origin,
            labels(run),
            // Some parts have results of the same tests.
            TestUploads.suite("S" + (run % 4 == 1 ? 0 : part), cases(at))
                // One of them, which always passes, takes longer lately.
                .replace(
                    "name='b' time='1'",
                    "name='b' time='"
                        + (at.isBefore(NOW.minus(20, ChronoUnit.DAYS)) ? 2 : 9)
                        + "'"));
      }
    }
    for (RunSummary run :
        stores
            .runs()
            .runs(project, new RunQuery(null, Criterion.EVERYTHING, Optional.empty(), RUNS))) {
      if (run.id() % 4 != 0) {
        // Only of what is whole it is told what it has no more.
        assertThat(stores.ingest().close(project, run.id(), NOW)).isTrue();
      }
      if (RANDOM.nextInt(8) == 0) {
        stores.removal().removeRun(project, run.id(), NOW);
      } else if (RANDOM.nextInt(3) == 0) {
        overrule(stores, run.id());
      }
    }
    TestDatabase.work(stores);
    rename(stores);
    TestDatabase.work(stores);
    for (int i = 0; i < 12; i++) {
      explain(stores, i % 3 == 0 ? "Product fault" : "Test fault");
    }
    TestDatabase.work(stores);
    writeTickets(stores);
    read();
  }

  private static Map<String, String> labels(int run) {
    Map<String, String> labels = new HashMap<>();
    if (run % 3 != 0) {
      labels.put("team", run % 2 == 0 ? "fares" : "moorings");
    }
    if (run % 5 != 0) {
      labels.put("build.os", "o\"" + run % 4);
    }
    return labels;
  }

  /** Somebody says of some tests that they are one, and takes some of that back. */
  private static void rename(Stores stores) {
    EditStore.Hand hand = new EditStore.Hand("nadia", NOW);
    int joined = 0;
    for (String stream : STREAMS) {
      List<Long> tests = STORE.testsOf(stream);
      for (int i = 0; i < 8; i++) {
        long old = tests.get(RANDOM.nextInt(tests.size()));
        long now = tests.get(RANDOM.nextInt(tests.size()));
        try {
          stores.trust().say(project, stream, old, now, i % 4 < 3, hand);
          joined++;
        } catch (CellarException e) {
          assertThat(e).hasMessageContaining("goes on as");
        }
      }
    }
    assertThat(joined).isGreaterThan(8);
  }

  private static String cases(Instant at) {
    StringBuilder cases = new StringBuilder();
    cases.append(
        at.isBefore(NOW.minus(20, ChronoUnit.DAYS))
            ? "refusesExpiredSeasonPass"
            : "refusesAnExpiredSeasonPassAtTheGate");
    cases.append(':').append("PPF".charAt(RANDOM.nextInt(3))).append(' ');
    for (int i = 3 + RANDOM.nextInt(6); i > 0; i--) {
      cases
          .append((char) ('a' + i))
          .append(':')
          .append(i == 1 ? 'P' : "PPPPFESX".charAt(RANDOM.nextInt(8)));
      cases.append(' ');
    }
    return cases.toString().trim();
  }

  /** One failing result alone, or its group. */
  private static void explain(Stores stores, String category) {
    Criterion failing = Resolver.read("outcome eq \"failed\"", Thing.RESULT, NOW);
    List<FoundPage.Found> all =
        stores.runs().find(project, new FindQuery(failing, Optional.empty(), 100)).results();
    FoundPage.Found one = all.get(RANDOM.nextInt(all.size()));
    TriageStore.Decided unused =
        stores
            .triage()
            .decide(
                project,
                one.run().id(),
                one.result().id(),
                new TriageStore.Verdict(category, null, RANDOM.nextBoolean()),
                new EditStore.Hand("lead", NOW));
  }

  /** Some groups have tickets, some the same one, and some somebody who sees to them. */
  private static void writeTickets(Stores stores) {
    EditStore.Hand hand = new EditStore.Hand("lead", NOW);
    int nr = 0;
    for (GroupLine group :
        stores.desk().groups(project, PlainLook.question(Criterion.EVERYTHING, NOW))) {
      nr++;
      if (nr % 2 == 0) {
        String key = "L-" + nr / 4;
        Entry entry = new Entry(key, "about " + nr / 4, "", "open", true, null, null);
        Ticket unused = stores.tickets().link(project, group.id(), key, entry, null, hand);
      }
      if (nr % 3 == 0) {
        stores.desk().assign(project, group.id(), nr % 2 == 0 ? "lead" : "nadia", hand);
      }
    }
  }

  private static void overrule(Stores stores, long run) {
    ResultRow row = stores.runs().results(project, run, ResultQuery.first(1)).get(0);
    Outcome wanted = row.outcome() == Outcome.PASSED ? Outcome.FAILED : Outcome.PASSED;
    try {
      stores
          .edits()
          .overrule(
              project,
              run,
              row.id(),
              row.outcome(),
              wanted,
              "seen",
              new EditStore.Hand("lead", NOW));
    } catch (CellarException e) {
      assertThat(e).hasMessageContaining("set-up");
    }
  }

  private static void read() throws SQLException, JsonProcessingException {
    Map<Long, Bare> runs = new HashMap<>();
    try (Connection connection = STORE.database().getConnection();
        Statement statement = connection.createStatement()) {
      try (ResultSet row =
          statement.executeQuery(
              "select r.id, r.started_at, s.name, r.branch, r.labels from run r join stream s on"
                  + " s.project_id = r.project_id and s.id = r.stream_id where r.project_id = "
                  + project
                  + " and r.number is not null and r.deleted_at is null")) {
        while (row.next()) {
          runs.put(
              row.getLong(1),
              new Bare(
                  row.getLong(1),
                  row.getTimestamp(2).toInstant(),
                  row.getString(3),
                  row.getString(4),
                  new ObjectMapper().readTree(row.getString(5)),
                  new int[5],
                  0,
                  0,
                  0));
        }
      }
      try (ResultSet row =
          statement.executeQuery(
              "select run_id, outcome, attempts, kind, duration_us from result where not superseded")) {
        while (row.next()) {
          runs.computeIfPresent(row.getLong(1), (run, bare) -> with(bare, row));
        }
      }
    }
    BARE.addAll(runs.values());
    again = new PanelsAgain(STORE);
    assertThat(STORE.number("select count(*) from succession where state = 1"))
        .as("renamed without anybody saying so")
        .isPositive();
    assertThat(STORE.number("select count(*) from run_change where change = 7")).isPositive();
    assertThat(BARE).hasSizeBetween(RUNS / 2, RUNS - 1);
  }

  private static Bare with(Bare bare, ResultSet row) {
    try {
      boolean test = row.getInt(4) == 0;
      if (test) {
        bare.outcomes[row.getInt(2)]++;
      }
      return new Bare(
          bare.id,
          bare.started,
          bare.stream,
          bare.branch,
          bare.labels,
          bare.outcomes,
          bare.retried + (test && row.getInt(3) > 1 ? 1 : 0),
          bare.setUps + (test ? 0 : 1),
          bare.micros + Math.max(0, row.getLong(5)));
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Filters, and what they ask said in Java. */
  private static final Map<String, Predicate<Bare>> FILTERS =
      new TreeMap<>(
          Map.of(
              "",
              bare -> true,
              "branch eq \"main\"",
              bare -> "main".equals(bare.branch),
              "label.team eq \"fares\" or not (label[key eq \"build.os\"])",
              bare ->
                  "fares".equals(bare.labels.path("team").asText())
                      || !bare.labels.hasNonNull("build.os"),
              "failed gt 0 and stream ne \"deck\"",
              bare -> bare.outcomes[1] > 0 && !bare.stream.equals("deck")));

  private static final List<List<String>> DIMENSIONS =
      List.of(
          List.of(),
          List.of("stream"),
          List.of("label.team"),
          List.of("branch", "label.build.os"),
          List.of("label.build.os", "stream", "label.team"));

  @Test
  void sumsAreWhatTheResultsComeTo() {
    int seen = 0;
    for (int round = 0; round < 250; round++) {
      Instant from = NOW.minus(RANDOM.nextInt(45 * 24), ChronoUnit.HOURS);
      Period period = new Period(from, from.plus(1 + RANDOM.nextInt(20 * 24), ChronoUnit.HOURS));
      Step step = RANDOM.nextInt(4) == 0 ? null : Step.values()[RANDOM.nextInt(3)];
      List<Dimension> dimensions =
          DIMENSIONS.get(RANDOM.nextInt(DIMENSIONS.size())).stream().map(Dimension::of).toList();
      String filter = List.copyOf(FILTERS.keySet()).get(RANDOM.nextInt(FILTERS.size()));
      List<RunCell> cells =
          STORE
              .stores()
              .boardFacts()
              .cells(project, Resolver.read(filter, Thing.RUN, NOW), period, step, dimensions);
      Map<List<@Nullable Object>, RunSum> told = new HashMap<>();
      for (RunCell cell : cells) {
        List<@Nullable Object> at = new ArrayList<>(cell.by());
        at.add(cell.at());
        assertThat(told.put(at, withoutChanges(cell.sum()))).as("once").isNull();
      }
      assertThat(told)
          .as("“%s” of %s by %s, apart by %s", filter, period, step, dimensions)
          .isEqualTo(oneByOne(period, step, dimensions, FILTERS.get(filter)));
      cells.forEach(cell -> theRunsAreFound(filter, period, step, dimensions, cell));
      seen += cells.size();
    }
    assertThat(seen).isGreaterThan(400);
  }

  /** Whoever follows a number finds as many. */
  private static void theRunsAreFound(
      String filter, Period period, @Nullable Step step, List<Dimension> dimensions, RunCell cell) {
    Period at = step == null ? period : step.within(cell.at(), period);
    String pick = RunPick.of(filter, at, dimensions, cell.by());
    List<RunSummary> found =
        STORE
            .stores()
            .runs()
            .runs(
                project,
                new RunQuery(null, Resolver.read(pick, Thing.RUN, NOW), Optional.empty(), RUNS));
    assertThat(found).as(pick).hasSize((int) cell.sum().runs());
    assertThat(found.stream().mapToLong(run -> run.counts().failing()).sum())
        .as(pick)
        .isEqualTo(cell.sum().failed() + cell.sum().errored());
  }

  /** What changed against the run before is not in its results; LedgerTest counts it. */
  private static RunSum withoutChanges(RunSum s) {
    return new RunSum(
        s.runs(),
        s.passed(),
        s.failed(),
        s.errored(),
        s.skipped(),
        s.notReached(),
        s.retried(),
        0,
        s.testTimeUs(),
        0,
        0,
        0,
        0,
        s.red(),
        0,
        0);
  }

  private static Map<List<@Nullable Object>, RunSum> oneByOne(
      Period period,
      @Nullable Step step,
      List<Dimension> dimensions,
      @Nullable Predicate<Bare> filter) {
    Map<List<@Nullable Object>, RunSum> sums = new HashMap<>();
    for (Bare bare : BARE) {
      if (filter != null && filter.test(bare) && period.has(bare.started)) {
        List<@Nullable Object> at = new ArrayList<>();
        dimensions.forEach(dimension -> at.add(bare.by(dimension)));
        at.add(step == null ? period.from() : step.begin(bare.started));
        int[] o = bare.outcomes;
        int red = bare.failing() + bare.setUps > 0 ? 1 : 0;
        sums.merge(
            at,
            new RunSum(
                1,
                o[0],
                o[1],
                o[2],
                o[3],
                o[4],
                bare.retried,
                0,
                bare.micros,
                0,
                0,
                0,
                0,
                red,
                0,
                0),
            RunSum::plus);
      }
    }
    return sums;
  }

  /** Every count that a panel shows, of any kind, is the length of the list that it leads to. */
  @Test
  void everyNumberLeadsToAsMany() {
    Panels panels =
        new Panels(
            STORE.stores().boardFacts(),
            STORE.stores().failureFacts(),
            STORE.stores().ranks(),
            STORE.stores().runs());
    Map<PanelKind, Integer> followed = new EnumMap<>(PanelKind.class);
    Map<PanelKind, Integer> counted = new EnumMap<>(PanelKind.class);
    long gone = 0;
    for (int round = 0; round < 360; round++) {
      PanelKind kind = PanelKind.values()[round % PanelKind.values().length];
      Panel panel =
          new Panel(
              "",
              "",
              kind,
              new Panel.Spot(0, 0, 6, 4),
              List.copyOf(FILTERS.keySet()).get(RANDOM.nextInt(FILTERS.size())),
              1 + RANDOM.nextInt(30),
              RANDOM.nextBoolean() ? Step.DAY : Step.WEEK,
              DIMENSIONS
                  .get(kind == PanelKind.MATRIX ? 3 : RANDOM.nextInt(DIMENSIONS.size()))
                  .stream()
                  .map(Dimension::of)
                  .toList(),
              RANDOM.nextBoolean() ? 0.9 : null,
              null);
      Panels.Switch board =
          new Panels.Switch(RANDOM.nextBoolean() ? null : "stream ne \"deck\"", null);
      Sheet sheet = panels.sheet(project, panel, board, SavedNames.NONE, NOW);
      if (kind == PanelKind.WORST || kind == PanelKind.CAUSES) {
        assertThat(all(sheet, kind))
            .as("%s of “%s”", kind, panel.filter())
            .isEqualTo(failing(panel, board));
      }
      List<Bare> of = fitting(panel, board);
      isWhatTheRowsSay(kind, sheet, of);
      TreeSet<String> lines =
          Objects.requireNonNull(again)
              .lines(panel, of.stream().map(Bare::id).toList(), Period.ofDays(panel.days(), NOW));
      if (lines != null) {
        assertThat(PanelsAgain.told(panel, sheet))
            .as("%s of “%s”", kind, panel.filter())
            .isEqualTo(lines);
        counted.merge(kind, lines.size(), Integer::sum);
      }
      for (Sheet.Row row : sheet.rows()) {
        assertThat(row.cells()).hasSameSizeAs(sheet.columns());
        for (int i = 0; i < row.cells().size(); i++) {
          Sheet.Link link = row.cells().get(i).link();
          Double number = row.cells().get(i).number();
          boolean counts = sheet.columns().get(i).unit() == Sheet.Unit.COUNT;
          if (link != null
              && number != null
              && RANDOM.nextInt(kind == PanelKind.OUTCOMES ? 8 : 1) == 0) {
            long there = length(link);
            assertThat(there)
                .as("%s %s %s", kind, sheet.columns().get(i).key(), link.filter())
                .isEqualTo(counts ? number.longValue() : Math.max(1, there));
            followed.merge(kind, 1, Integer::sum);
            gone += link.of() == Thing.TEST && kind == PanelKind.GROWTH ? there : 0;
          }
        }
      }
    }
    assertThat(counted).hasSize(11);
    counted.forEach((kind, lines) -> assertThat(lines).as(kind.word()).isGreaterThan(8));
    followed.forEach((kind, times) -> assertThat(times).as(kind.word()).isGreaterThan(20));
    assertThat(gone).as("tests that are gone").isPositive();
    // Of how long tests take nothing is counted.
    assertThat(followed.keySet())
        .isEqualTo(
            EnumSet.complementOf(EnumSet.of(PanelKind.TEXT, PanelKind.SLOWEST, PanelKind.SLOWING)));
  }

  private static String said(Sheet sheet, int row) {
    return Objects.requireNonNull(sheet.rows().get(row).cells().get(0).text());
  }

  /** A sheet against the bare rows of the runs that it is of. */
  private static void isWhatTheRowsSay(PanelKind kind, Sheet sheet, List<Bare> of) {
    switch (kind) {
      case RUNS -> {
        assertThat(sheet.rows()).hasSize(of.size());
        for (Outcome outcome : Outcome.values()) {
          int column = 1 + outcome.ordinal();
          assertThat(sheet.rows().stream().mapToDouble(row -> number(row, column)).sum())
              .isEqualTo(of.stream().mapToInt(bare -> bare.outcomes[outcome.code()]).sum());
        }
      }
      case LENGTHS -> {
        for (int i = 0; i < sheet.rows().size(); i++) {
          Instant from = Instant.parse(said(sheet, i));
          Instant to = i + 1 < sheet.rows().size() ? Instant.parse(said(sheet, i + 1)) : NOW;
          double[] took =
              of.stream()
                  .filter(bare -> !bare.started.isBefore(from) && bare.started.isBefore(to))
                  .mapToDouble(bare -> bare.micros / 1e6)
                  .sorted()
                  .toArray();
          for (int column = 1; column <= 3; column++) {
            Double told = sheet.rows().get(i).cells().get(column).number();
            if (took.length == 0) {
              assertThat(told).isNull();
            } else {
              double place = List.of(0.5, 0.9, 0.95).get(column - 1) * (took.length - 1);
              double low = took[(int) Math.floor(place)];
              double high = took[(int) Math.ceil(place)];
              assertThat(told)
                  .isCloseTo(low + (place - Math.floor(place)) * (high - low), within(1e-6));
            }
          }
        }
      }
      case GROUPS -> {
        assertThat(sheet.rows()).hasSizeLessThan(50);
        assertThat(sheet.rows().stream().mapToDouble(row -> number(row, 1)).sum())
            .isEqualTo(of.stream().mapToInt(bare -> bare.failing() + bare.setUps).sum());
      }
      case MATRIX -> {
        for (Sheet.Row row : sheet.rows()) {
          for (int column = 1; column < sheet.columns().size(); column++) {
            String os = sheet.columns().get(column).values().get(0);
            int[] sums = new int[2];
            of.stream()
                .filter(bare -> Objects.equals(bare.branch, row.cells().get(0).text()))
                .filter(bare -> Objects.equals(bare.labels.path("build.os").asText(null), os))
                .forEach(
                    bare -> {
                      sums[0] += bare.outcomes[0];
                      sums[1] += bare.outcomes[0] + bare.failing();
                    });
            Double told = row.cells().get(column).number();
            assertThat(told).isEqualTo(sums[1] == 0 ? null : (Double) ((double) sums[0] / sums[1]));
          }
        }
      }
      default -> {
        // Others are checked by what they lead to.
      }
    }
  }

  private static double number(Sheet.Row row, int column) {
    return Objects.requireNonNull(row.cells().get(column).number());
  }

  private static List<Bare> fitting(Panel panel, Panels.Switch board) {
    Period period = Period.ofDays(panel.days(), NOW);
    return BARE.stream()
        .filter(Objects.requireNonNull(FILTERS.get(panel.filter())))
        .filter(bare -> board.filter() == null || !bare.stream.equals("deck"))
        .filter(bare -> period.has(bare.started))
        .toList();
  }

  /** Also what changed, of tests that were renamed. */
  @Test
  void everyRunIsWhatItsRowsSay() throws SQLException {
    assertThat(new Recount(STORE.database()).books(project).differences()).isEmpty();
  }

  /** How long it takes until groups are explained, by what stands in the tables. */
  @Test
  void theTimeUntilExplainedIsThatOfTheTables() throws SQLException {
    // In tests everything is found at once, and long after it was explained.
    STORE.number(
        "with g as (update failure_group set made_at = timestamptz '2026-10-12T00:00:00Z' +"
            + " (id * 7919 % 800) * interval '1 hour' returning id, made_at), d as (update decision"
            + " set made_at = g.made_at + (decision.id * 31 % 90) * interval '20 minutes' from g"
            + " where g.id = decision.group_id returning 1) select count(*) from d");
    Period period = Period.ofDays(60, NOW);
    List<Double> took = new ArrayList<>();
    int groups = 0;
    try (Connection connection = STORE.database().getConnection();
        Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                "select g.made_at, (select min(d.made_at) from decision d where d.project_id ="
                    + " g.project_id and d.group_id = g.id and d.undone_at is null) from"
                    + " failure_group g where g.results > 0 and g.project_id = "
                    + project)) {
      while (row.next()) {
        groups++;
        if (row.getTimestamp(2) != null) {
          long millis = row.getTimestamp(2).getTime() - row.getTimestamp(1).getTime();
          took.add(Math.max(0, millis) / 1e3);
        }
      }
    }
    took.sort(null);
    int told = 0;
    int explained = 0;
    double most = 0;
    for (ExplainedCell cell :
        STORE
            .stores()
            .failureFacts()
            .explaining(project, Criterion.EVERYTHING, period, Step.WEEK)) {
      told += cell.groups();
      explained += cell.explained();
      if (cell.median() != null) {
        assertThat(cell.median()).isBetween(took.get(0) - 1, took.get(took.size() - 1) + 1);
        most += Objects.requireNonNull(cell.mean()) * cell.explained();
      }
    }
    assertThat(told).isEqualTo(groups).isGreaterThan(5);
    assertThat(explained).isEqualTo(took.size()).isGreaterThan(2);
    assertThat(most)
        .isCloseTo(
            took.stream().mapToDouble(Double::doubleValue).sum(),
            org.assertj.core.data.Offset.offset(0.01 * explained));
  }

  /** All failing results that a sheet tells of. */
  private static long all(Sheet sheet, PanelKind kind) {
    double all = 0;
    for (Sheet.Row row : sheet.rows()) {
      for (int i = 0; i < row.cells().size(); i++) {
        boolean told =
            sheet.columns().get(i).unit() == Sheet.Unit.COUNT
                && !(kind == PanelKind.WORST && sheet.columns().get(i).key().equals("runs"));
        all += told ? Objects.requireNonNull(row.cells().get(i).number()) : 0;
      }
    }
    return Math.round(all);
  }

  /** The same by the bare rows. */
  private static long failing(Panel panel, Panels.Switch board) {
    return fitting(panel, board).stream().mapToLong(Bare::failing).sum();
  }

  private static long length(Sheet.Link link) {
    Criterion what = Resolver.read(link.filter(), link.of(), NOW);
    return link.of() == Thing.GROUP
        ? STORE.stores().desk().count(project, PlainLook.question(what, NOW))
        : STORE.stores().runs().count(project, link.of(), what).number();
  }

  @Test
  void tooMuchIsRefused() {
    assertThatThrownBy(
            () ->
                STORE
                    .stores()
                    .boardFacts()
                    .cells(
                        project,
                        Criterion.EVERYTHING,
                        Period.ofDays(30, NOW),
                        null,
                        List.of(
                            Dimension.of("stream"),
                            Dimension.of("branch"),
                            Dimension.of("label.a"),
                            Dimension.of("label.b"))))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining("there can be 3");
  }
}
