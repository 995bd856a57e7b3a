package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.Lengths;
import org.vinecellar.core.boards.MendedCell;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.RunCell;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.reports.Report;
import org.vinecellar.core.reports.ReportFacts;
import org.vinecellar.core.reports.ReportKind;
import org.vinecellar.core.reports.Reports;
import org.vinecellar.core.reports.TestTold;
import org.vinecellar.core.reports.TypeTold;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.triage.decisions.TriageStore;

/** What reports tell is what the bare rows say, taken one by one. */
class ReportFactsTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final List<String> STREAMS = List.of("fares/nightly", "kiosk/browser", "deck");
  private static final List<String> TYPES =
      List.of("java.lang.AssertionError", "TimeoutError", "TIMEOUTERROR", "we \"quote\"", "");

  @RegisterExtension private static final TestStore STORE = new TestStore();
  private static final Random RANDOM = new Random(15);
  private static final List<Bare> BARE = new ArrayList<>();
  private static int project;

  /** A result by its bare rows, whether it stands or not. */
  private record Bare(
      long run,
      Instant started,
      String stream,
      @Nullable String team,
      int place,
      String part,
      long test,
      long now,
      int outcome,
      boolean superseded,
      int attempts,
      @Nullable Long micros,
      Set<String> types,
      long earlierMicros) {
    boolean stands() {
      return !superseded;
    }

    boolean fails() {
      return outcome == Outcome.FAILED.code() || outcome == Outcome.ERRORED.code();
    }
  }

  @BeforeAll
  static void runs() throws SQLException {
    Stores stores = STORE.stores();
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    project = uploads.project();
    for (int run = 0; run < 45; run++) {
      Map<String, String> labels = run % 4 == 0 ? Map.of() : Map.of("team", "team " + run % 3);
      Instant at = NOW.minus(RANDOM.nextInt(30 * 24 * 60), ChronoUnit.MINUTES);
      for (int attempt = 1; attempt <= 1 + RANDOM.nextInt(2); attempt++) {
        uploads.sendAt(
            at,
            STREAMS.get(run % 3),
            "run-" + run,
            new UploadRequest.PartKey("browser", Variant.NONE, attempt),
            new Origin("c" + run, "main", null),
            labels,
            cases());
      }
    }
    TestDatabase.work(stores);
    rename(stores);
    TestDatabase.work(stores);
    for (int i = 0; i < 10; i++) {
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
                  new TriageStore.Verdict(
                      i % 3 == 0 ? "Product fault" : "Test fault", null, RANDOM.nextBoolean()),
                  new EditStore.Hand("lead", NOW.minus(i, ChronoUnit.DAYS)));
    }
    TestDatabase.work(stores);
    read();
  }

  /** In two of the streams some tests are said to go on as others. */
  private static void rename(Stores stores) {
    for (String stream : STREAMS.subList(0, 2)) {
      List<Long> tests = STORE.testsOf(stream);
      for (int i = 0; i + 3 < tests.size(); i += 2) {
        EditStore.Hand hand = new EditStore.Hand("lead", NOW);
        stores.trust().say(project, stream, tests.get(i), tests.get(i + 3), true, hand);
      }
    }
  }

  /** Some fail at first and pass then, some fail in several ways at once. */
  private static String cases() {
    StringBuilder xml = new StringBuilder("<testsuite name='S'>");
    for (int i = 2 + RANDOM.nextInt(7); i > 0; i--) {
      String head = "<testcase name='t" + i + "' time='0." + (1 + RANDOM.nextInt(900)) + "'>";
      xml.append(head);
      switch (RANDOM.nextInt(7)) {
        case 0 -> xml.append(failure("failure"));
        case 1 -> xml.append(failure("error"));
        case 2 -> xml.append("<skipped type='TIMEOUTERROR' message='not now'/>");
        case 3 -> xml.append(failure("flakyFailure")).append(failure("flakyError"));
        case 4 -> xml.append(failure("failure")).append(failure("rerunFailure"));
        default -> xml.append("");
      }
      xml.append("</testcase>");
    }
    return xml.append("</testsuite>").toString();
  }

  private static String failure(String element) {
    String type = TYPES.get(RANDOM.nextInt(TYPES.size())).replace("\"", "&quot;");
    return "<" + element + " type=\"" + type + "\" time='0.25' message='no'>at a</" + element + ">";
  }

  private static void read() throws SQLException {
    Map<List<Long>, Set<String>> types = new HashMap<>();
    Map<List<Long>, Map<Integer, Long>> tries = new HashMap<>();
    Map<Long, Map<Long, Long>> names = new HashMap<>();
    try (Connection connection = STORE.database().getConnection();
        Statement statement = connection.createStatement()) {
      for (String stream : STORE.texts("select id from stream")) {
        long id = Long.parseLong(stream);
        names.put(id, Recount.nowNames(statement, id));
      }
      try (ResultSet row =
          statement.executeQuery(
              "select run_id, place, attempt_no, duration_us, failure_type,"
                  + " array(select f #>> '{}' from jsonb_path_query(more_failures, '$[*].type') f)"
                  + " from attempt")) {
        while (row.next()) {
          List<Long> of = List.of(row.getLong(1), row.getLong(2));
          Set<String> all = types.computeIfAbsent(of, key -> new HashSet<>());
          for (String type : (String[]) row.getArray(6).getArray()) {
            add(all, type);
          }
          add(all, row.getString(5));
          tries.computeIfAbsent(of, key -> new TreeMap<>()).put(row.getInt(3), row.getLong(4));
        }
      }
      try (ResultSet row =
          statement.executeQuery(
              "select r.run_id, u.started_at, s.name, u.labels ->> 'team', r.place, p.name,"
                  + " r.test_id, r.outcome, r.superseded, r.attempts, r.duration_us, s.id"
                  + " from result r join run u on u.id = r.run_id"
                  + " join stream s on s.id = u.stream_id"
                  + " join part p on p.run_id = r.run_id and p.part_no = r.part_no"
                  + " where r.kind = 0")) {
        while (row.next()) {
          List<Long> of = List.of(row.getLong(1), row.getLong(5));
          long micros = row.getLong(11);
          Long told = row.wasNull() ? null : (Long) micros;
          int attempts = row.getInt(10);
          long earlier =
              tries.getOrDefault(of, Map.of()).entrySet().stream()
                  .filter(one -> one.getKey() < attempts - 1)
                  .mapToLong(Map.Entry::getValue)
                  .sum();
          BARE.add(
              new Bare(
                  row.getLong(1),
                  row.getTimestamp(2).toInstant(),
                  row.getString(3),
                  row.getString(4),
                  row.getInt(5),
                  row.getString(6),
                  row.getLong(7),
                  names
                      .getOrDefault(row.getLong(12), Map.of())
                      .getOrDefault(row.getLong(7), row.getLong(7)),
                  row.getInt(8),
                  row.getBoolean(9),
                  attempts,
                  told,
                  types.getOrDefault(of, Set.of()),
                  earlier));
        }
      }
    }
    assertThat(BARE.stream().filter(bare -> bare.superseded)).hasSizeGreaterThan(20);
    assertThat(BARE.stream().filter(bare -> bare.stands() && bare.attempts > 1))
        .hasSizeGreaterThan(20);
    assertThat(BARE.stream().filter(bare -> bare.test != bare.now)).hasSizeGreaterThan(20);
  }

  private static void add(Set<String> types, @Nullable String type) {
    if (type != null && !type.isEmpty()) {
      types.add(type.toLowerCase(Locale.ROOT));
    }
  }

  /** Filters, and what they ask said in Java. */
  private static boolean fits(String filter, Bare bare) {
    return switch (filter) {
      case "stream ne \"deck\"" -> !bare.stream.equals("deck");
      case "label.team eq \"team 1\"" -> "team 1".equals(bare.team);
      default -> true;
    };
  }

  private static final List<String> FILTERS =
      List.of("", "stream ne \"deck\"", "label.team eq \"team 1\"");

  private static Period period() {
    Instant from = NOW.minus(RANDOM.nextInt(30 * 24), ChronoUnit.HOURS);
    return new Period(from, from.plus(1 + RANDOM.nextInt(20 * 24), ChronoUnit.HOURS));
  }

  private static List<Bare> standing(String filter, Period period) {
    return BARE.stream()
        .filter(bare -> bare.stands() && period.has(bare.started) && fits(filter, bare))
        .toList();
  }

  /** Types of its own tries, and of those of other parts that it took the place of. */
  private static Set<String> threw(Bare of) {
    if (of.outcome == Outcome.SKIPPED.code()) {
      return Set.of();
    }
    Set<String> types = new HashSet<>(of.types);
    BARE.stream()
        .filter(bare -> bare.superseded && bare.run == of.run && bare.test == of.test)
        .filter(bare -> bare.part.equals(of.part) && bare.attempts > 0)
        .forEach(bare -> types.addAll(bare.types));
    return types;
  }

  @Test
  void testsAndWhatTheyThrewAreWhatTheRowsSay() {
    ReportFacts facts = STORE.stores().reportFacts();
    int seen = 0;
    for (int round = 0; round < 60; round++) {
      String filter = FILTERS.get(round % FILTERS.size());
      Criterion runs = Resolver.read(filter, Thing.RUN, NOW);
      Period period = period();
      Map<Long, List<Bare>> of = new HashMap<>();
      standing(filter, period)
          .forEach(bare -> of.computeIfAbsent(bare.now, test -> new ArrayList<>()).add(bare));
      List<TestTold> told = facts.tests(project, runs, period, 100);
      assertThat(told).as("“%s” of %s", filter, period).hasSameSizeAs(of.keySet());
      for (TestTold one : told) {
        List<Bare> its = Objects.requireNonNull(of.get(one.test().id()));
        for (Outcome outcome : Outcome.values()) {
          assertThat(one.of(outcome))
              .isEqualTo(its.stream().filter(bare -> bare.outcome == outcome.code()).count());
        }
        assertThat(one.retried()).isEqualTo(its.stream().filter(b -> b.attempts > 1).count());
        assertThat(one.timeUs())
            .isEqualTo(its.stream().mapToLong(b -> b.micros == null ? 0 : b.micros).sum());
        isAsLong(
            one.length(),
            its.stream()
                .filter(bare -> bare.fails() || bare.outcome == Outcome.PASSED.code())
                .map(Bare::micros)
                .filter(Objects::nonNull)
                .mapToDouble(Long::doubleValue)
                .toArray());
        seen++;
      }
      Map<List<Object>, Long> types = new HashMap<>();
      of.values()
          .forEach(
              its ->
                  its.forEach(
                      bare ->
                          threw(bare)
                              .forEach(t -> types.merge(List.of(bare.now, t), 1L, Long::sum))));
      Map<List<Object>, Long> said = new HashMap<>();
      for (TypeTold one : facts.types(project, runs, period, List.copyOf(of.keySet()), 10_000)) {
        long test = Objects.requireNonNull(one.test()).id();
        said.put(List.of(test, one.type().toLowerCase(Locale.ROOT)), one.results());
      }
      assertThat(said).isEqualTo(types);
      assertThat(facts.untyped(project, runs, period))
          .isEqualTo(
              standing(filter, period).stream()
                  .filter(bare -> bare.fails() && threw(bare).isEmpty())
                  .count());
    }
    assertThat(seen).isGreaterThan(200);
  }

  private static void isAsLong(@Nullable Lengths told, double[] micros) {
    if (micros.length == 0) {
      assertThat(told).isNull();
      return;
    }
    Arrays.sort(micros);
    Lengths lengths = Objects.requireNonNull(told);
    assertThat(lengths.median()).isCloseTo(quantile(micros, 0.5), within(0.01));
    assertThat(lengths.p90()).isCloseTo(quantile(micros, 0.9), within(0.01));
    assertThat(lengths.p95()).isCloseTo(quantile(micros, 0.95), within(0.01));
  }

  private static double quantile(double[] sorted, double share) {
    double at = share * (sorted.length - 1);
    int below = (int) Math.floor(at);
    int above = Math.min(sorted.length - 1, below + 1);
    return sorted[below] + (at - below) * (sorted[above] - sorted[below]);
  }

  @Test
  void timeIsThatOfTheRows() {
    for (int round = 0; round < 60; round++) {
      String filter = FILTERS.get(round % FILTERS.size());
      Period period = period();
      boolean apart = round % 2 == 0;
      Map<List<@Nullable String>, List<Bare>> of = new HashMap<>();
      BARE.stream()
          .filter(bare -> period.has(bare.started) && fits(filter, bare))
          .forEach(
              bare ->
                  of.computeIfAbsent(
                          apart ? Arrays.asList(bare.team) : List.of(), by -> new ArrayList<>())
                      .add(bare));
      List<RunCell> cells =
          STORE
              .stores()
              .boardFacts()
              .cells(
                  project,
                  Resolver.read(filter, Thing.RUN, NOW),
                  period,
                  null,
                  apart ? List.of(Dimension.of("label.team")) : List.of());
      assertThat(cells).hasSameSizeAs(of.keySet());
      for (RunCell cell : cells) {
        List<Bare> its = Objects.requireNonNull(of.get(cell.by()));
        assertThat(cell.sum().failingUs())
            .isEqualTo(
                its.stream()
                    .filter(bare -> bare.stands() && bare.fails())
                    .mapToLong(bare -> bare.micros == null ? 0 : bare.micros)
                    .sum());
        assertThat(cell.sum().againUs())
            .isEqualTo(
                its.stream()
                    .mapToLong(
                        bare ->
                            bare.stands()
                                ? bare.earlierMicros
                                : bare.micros == null ? 0 : bare.micros)
                    .sum());
      }
    }
  }

  /** Every count of every report is the length of the list that it leads to. */
  @Test
  void everyNumberLeadsToAsMany() {
    Reports reports =
        new Reports(
            STORE.stores().boardFacts(),
            STORE.stores().failureFacts(),
            STORE.stores().reportFacts());
    Map<String, Integer> followed = new TreeMap<>();
    List<String> by = List.of("label.team", "stream", "branch");
    for (int round = 0; round < 24; round++) {
      ReportKind kind = ReportKind.values()[round % ReportKind.values().length];
      Reports.Asked asked =
          new Reports.Asked(
              kind,
              period(),
              FILTERS.get(RANDOM.nextInt(FILTERS.size())),
              List.of(Dimension.of(by.get(RANDOM.nextInt(by.size())))));
      for (Report.Table table : reports.report(project, asked, SavedNames.NONE, NOW).tables()) {
        Sheet sheet = table.sheet();
        for (Sheet.Row row : sheet.rows()) {
          assertThat(row.cells()).hasSameSizeAs(sheet.columns());
          for (int i = 0; i < row.cells().size(); i++) {
            Sheet.Link link = row.cells().get(i).link();
            Double number = row.cells().get(i).number();
            boolean counts = sheet.columns().get(i).unit() == Sheet.Unit.COUNT;
            if (link != null && number != null && counts && RANDOM.nextInt(3) == 0) {
              assertThat(length(link))
                  .as("%s %s %s", table.word(), sheet.columns().get(i).key(), link.filter())
                  .isEqualTo(number.longValue());
              followed.merge(table.word(), 1, Integer::sum);
            }
          }
        }
      }
    }
    assertThat(followed.keySet())
        .containsAll(
            List.of("all", "streams", "days", "causes", "explained", "tests", "types", "thrown"))
        .contains("parts", "people");
  }

  private static long length(Sheet.Link link) {
    Criterion what = Resolver.read(link.filter(), link.of(), NOW);
    return link.of() == Thing.GROUP
        ? STORE.stores().desk().count(project, PlainLook.question(what, NOW))
        : STORE.stores().runs().count(project, link.of(), what).number();
  }

  /** From the first failure of a row of them until it passed. */
  @Test
  void whatIsFixedWasBrokenSinceItsFirstFailure() {
    Stores stores = STORE.stores();
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    String[] nights = {"a:P b:F c:F d:P", "a:F b:F c:P d:F", "a:F b:P c:F e:F", "a:P b:P c:F e:P"};
    for (int night = 0; night < nights.length; night++) {
      uploads.sendAt(
          NOW.minus(nights.length - night, ChronoUnit.DAYS),
          "s",
          "night " + night,
          UploadRequest.PartKey.NONE,
          new Origin("c" + night, "main", null),
          Map.of(),
          TestUploads.suite("S", nights[night]));
    }
    TestDatabase.work(stores);
    List<String> renamed =
        STORE.texts(
            "select id from test where name in ('d', 'e') and project_id = "
                + uploads.project()
                + " order by name");
    stores
        .trust()
        .say(
            uploads.project(),
            "s",
            Long.parseLong(renamed.get(0)),
            Long.parseLong(renamed.get(1)),
            true,
            new EditStore.Hand("lead", NOW));
    TestDatabase.work(stores);
    List<MendedCell> told =
        stores
            .failureFacts()
            .mended(
                uploads.project(),
                Criterion.EVERYTHING,
                new Period(NOW.minus(9, ChronoUnit.DAYS), NOW),
                null);
    // c after a day, b after two (of the first run nobody knows since when), a and d, as e, after
    // two.
    assertThat(told).hasSize(1);
    assertThat(told.get(0).tests()).isEqualTo(4);
    assertThat(told.get(0).median()).isEqualTo(2 * 86_400.0);
    RunSummary last = stores.runs().runs(uploads.project(), RunQuery.newest("s", 1)).get(0);
    assertThat(last.changes().fixed()).as("a, and e that was d").isEqualTo(2);
    ResultRow renamedOne =
        stores.runs().results(uploads.project(), last.id(), ResultQuery.first(10)).stream()
            .filter(row -> row.test().name().equals("e"))
            .findFirst()
            .orElseThrow();
    assertThat(
            stores.runs().result(uploads.project(), last, renamedOne.id()).orElseThrow().before())
        .as("under both names")
        .extracting(ResultDetail.Earlier::outcome)
        .containsExactly(Outcome.FAILED, Outcome.FAILED, Outcome.PASSED);
    assertThat(told.get(0).mean()).isCloseTo(7 * 86_400.0 / 4, within(1.0));
  }
}
