package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.NoteText;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Kind;
import org.vinecellar.core.filters.Operator;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.TestQuery;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.tickets.Entry;

/** Random filters find, in the database, what a plain look at everything finds. */
class FiltersTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String[] STREAMS = {"fares/nightly", "fares/change", "Quay_1/soak"};
  private static final String[] NAMES = {
    "rounds fares", "Rounds FARES", "über die Brücke", "a_b", "a%b", "a!b", "a\\b", "boards", ""
  };
  private static final String[] WORDS = {"fares", "Fares", "boarding", "50% off", "x_y", "é"};
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private final Random random = new Random(0);

  private String one(String... of) {
    return of[random.nextInt(of.length)];
  }

  /** A file with nested suites, retries, and failures with and without a trace. */
  private String junit() {
    StringBuilder xml = new StringBuilder("<testsuites>");
    for (int s = 0; s < 3; s++) {
      xml.append("<testsuite name='")
          .append(one("Quay", "quay side", "Till_1", "T%"))
          .append("' timestamp='2026-11-")
          .append(10 + random.nextInt(9))
          .append("T02:00:00'>");
      boolean inner = random.nextBoolean();
      xml.append(inner ? "<testsuite name='" + one("inner", "INNER", "Quay") + "'>" : "");
      for (int c = random.nextInt(5); c >= 0; c--) {
        xml.append("<testcase name='")
            .append(one(NAMES))
            .append(random.nextInt(3))
            .append(random.nextInt(3) == 0 ? "" : "' time='" + random.nextInt(5) + ".25")
            .append("'>")
            .append(end())
            .append("</testcase>");
      }
      xml.append(inner ? "</testsuite>" : "").append("</testsuite>");
    }
    return xml.append("</testsuites>").toString();
  }

  private String end() {
    String text = one(WORDS) + " wanted&#10;" + one(WORDS) + " found";
    return switch (random.nextInt(6)) {
      case 0 ->
          "<failure type='Wrong' message='"
              + text
              + "'>at Fares.java:"
              + random.nextInt(9)
              + "</failure>";
      case 1 -> "<error message='" + text + "'/>";
      case 2 -> "<skipped message='" + one(WORDS) + "'/>";
      case 3 ->
          "<flakyFailure message='"
              + text
              + "'>at X</flakyFailure>"
              + "<system-out>"
              + one(WORDS)
              + "</system-out>";
      default -> "";
    };
  }

  /** A file with tags, steps and places in sources. */
  private String scenarios() {
    return "[{\"uri\":\""
        + one("rules/Fares.feature", "rules/quay.feature")
        + "\",\"id\":\"f\","
        + "\"keyword\":\"Feature\",\"name\":\""
        + one("Fares", "Boarding")
        + "\",\"elements\":["
        + scenario(1)
        + ","
        + scenario(2)
        + "]}]";
  }

  private String scenario(int n) {
    return "{\"id\":\"f;"
        + n
        + "\",\"type\":\"scenario\",\"keyword\":\"Scenario\",\"line\":"
        + n
        + ",\"name\":\"scenario "
        + n
        + "\",\"tags\":[{\"name\":\"@"
        + one("smoke", "Smoke", "slow")
        + "\"}],\"steps\":[{\"keyword\":\"Given \",\"name\":\"a boarding pass for "
        + one(WORDS)
        + "\",\"line\":9,\"result\":{\"status\":\""
        + one("passed", "failed", "skipped")
        + "\",\"duration\":1000000,\"error_message\":\"java.lang.AssertionError: "
        + one(WORDS)
        + "\"}}]}";
  }

  private TestUploads data() {
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    EditStore.Hand hand = new EditStore.Hand("nadia", NOW);
    for (int i = 0; i < 9; i++) {
      Map<String, String> labels =
          random.nextBoolean()
              ? Map.of("team", one(WORDS), "build.os", one("sable", "reef"))
              : random.nextBoolean() ? Map.of("team", one(WORDS)) : Map.of();
      // Not by chance, for the rest of the data to stay what it was.
      Variant variant =
          Variant.of(
              i % 2 == 0 ? Map.of() : Map.of("browser", WORDS[i % WORDS.length], "team", "skiff"));
      String key = one("a", "b");
      // One of the runs has no label.
      uploads.sendPart(
          one(STREAMS),
          i == 0 ? "c" : key,
          new UploadRequest.PartKey(null, variant, null),
          i == 0 ? Map.of() : labels,
          junit(),
          scenarios());
    }
    for (RunSummary run : runs(uploads.project(), Criterion.EVERYTHING)) {
      if (random.nextBoolean()) {
        note(uploads, Subject.run(run.id()), hand);
      }
      if (random.nextInt(3) == 0) {
        stores.ingest().close(uploads.project(), run.id(), NOW.plusSeconds(run.id()));
      }
      for (ResultRow row : results(uploads.project(), run.id(), Criterion.EVERYTHING)) {
        if (row.kind() == ResultKind.TEST && random.nextInt(8) == 0) {
          Outcome next = row.outcome() == Outcome.PASSED ? Outcome.FAILED : Outcome.PASSED;
          stores
              .edits()
              .overrule(uploads.project(), run.id(), row.id(), row.outcome(), next, "seen", hand);
        }
        if (random.nextInt(12) == 0) {
          note(uploads, Subject.test(row.test().id()), hand);
        }
      }
    }
    TestDatabase.work(stores);
    rename(uploads.project(), hand);
    explain(uploads.project(), hand);
    TestDatabase.work(stores);
    return uploads;
  }

  /** Some tests go on as others, some of them as others again. */
  private void rename(int project, EditStore.Hand hand) {
    for (String stream : STREAMS) {
      List<Long> tests =
          runs(project, Criterion.EVERYTHING).stream()
              .filter(run -> run.stream().equals(stream))
              .flatMap(run -> results(project, run.id(), Criterion.EVERYTHING).stream())
              .filter(row -> row.kind() == ResultKind.TEST)
              .map(row -> row.test().id())
              .distinct()
              .sorted()
              .toList();
      for (int i = 0; i + 3 < tests.size() && i < 8; i++) {
        stores.trust().say(project, stream, tests.get(i), tests.get(i + 3), true, hand);
      }
    }
  }

  /** Some groups get decisions, tickets and somebody who looks at them; some are put together. */
  private void explain(int project, EditStore.Hand hand) {
    List<GroupLine> groups = groups(project, Criterion.EVERYTHING);
    for (GroupLine group : groups) {
      if (random.nextInt(3) == 0) {
        Instant until = random.nextBoolean() ? null : NOW.plusSeconds(group.id());
        DeskStore.Verdict verdict =
            new DeskStore.Verdict(
                one("Product fault", "Test fault"), one(WORDS) + group.id(), until, false);
        TriageStore.Decided unused = stores.desk().decide(project, group.id(), verdict, hand);
      }
      if (random.nextInt(3) == 0) {
        Boolean open = random.nextBoolean();
        Entry entry =
            new Entry("L-" + group.id(), one(WORDS), "", open ? "to do" : "Done", open, null, null);
        Ticket unused =
            stores
                .tickets()
                .link(
                    project,
                    group.id(),
                    entry.key(),
                    random.nextInt(4) == 0 ? null : entry,
                    null,
                    hand);
      }
      if (random.nextInt(4) == 0) {
        stores.desk().assign(project, group.id(), one("nadia", "Nadia"), hand);
      }
    }
    if (groups.size() > 4) {
      stores.desk().join(project, groups.get(0).id(), List.of(groups.get(3).id()), hand);
    }
  }

  private List<GroupLine> groups(int project, Criterion filter) {
    return stores.desk().groups(project, PlainLook.question(filter, NOW));
  }

  private void note(TestUploads uploads, Subject subject, EditStore.Hand hand) {
    var before = stores.edits().note(uploads.project(), subject).orElseThrow();
    Map<String, String> labels = new HashMap<>(before.text().labels());
    if (subject.kind() == Subject.Kind.RUN && random.nextBoolean()) {
      labels.put("env", one("Staging", "staging"));
      labels.remove(one("team", "none"));
    }
    stores
        .edits()
        .write(
            uploads.project(),
            subject,
            before.tag(),
            new NoteText(one(WORDS), labels, List.of(one("smoke", "slow"), "by-hand")),
            hand);
  }

  private List<RunSummary> runs(int project, Criterion filter) {
    return stores.runs().runs(project, new RunQuery(null, filter, Optional.empty(), 200));
  }

  private List<ResultRow> results(int project, long run, Criterion filter) {
    return stores
        .runs()
        .results(project, run, new ResultQuery(filter, null, Optional.empty(), 500));
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3})
  void findWhatAPlainLookFinds(int seed) {
    random.setSeed(seed);
    int project = data().project();
    PlainLook look = new PlainLook(stores, project);
    int found = 0;
    for (int i = 0; i < 150; i++) {
      Criterion ofRuns = criterion(Thing.RUN, look, 3);
      List<Long> runs = runs(project, ofRuns).stream().map(RunSummary::id).sorted().toList();
      assertThat(runs).as("%d: %s", seed, ofRuns).isEqualTo(look.runs(ofRuns));
      Criterion ofTests = criterion(Thing.TEST, look, 3);
      List<Long> tests =
          stores.runs().tests(project, new TestQuery(ofTests, 0, 500)).stream()
              .map(test -> test.test().id())
              .toList();
      assertThat(tests).as("%d: %s", seed, ofTests).isEqualTo(look.tests(ofTests));
      Criterion ofGroups = criterion(Thing.GROUP, look, 3);
      List<Long> groups = groups(project, ofGroups).stream().map(GroupLine::id).sorted().toList();
      assertThat(groups).as("%d: %s", seed, ofGroups).isEqualTo(look.groups(ofGroups));
      Criterion ofResults = criterion(Thing.RESULT, look, 3);
      for (long run : look.runs(Criterion.EVERYTHING)) {
        List<String> results =
            results(project, run, ofResults).stream()
                .map(row -> row.id().toString())
                .sorted()
                .toList();
        assertThat(results)
            .as("%d, run %d: %s", seed, run, ofResults)
            .isEqualTo(look.results(run, ofResults));
        found += results.size();
      }
      found += runs.size() + tests.size() + groups.size();
    }
    assertThat(found).isGreaterThan(1000);
  }

  private Criterion criterion(Thing thing, PlainLook look, int depth) {
    return switch (random.nextInt(depth == 0 ? 3 : 7)) {
      case 0 -> {
        Attribute attribute = attribute(thing);
        yield new Criterion.Present(
            attribute, attribute.isKeyed() ? one("team", "env", "browser") : null);
      }
      case 1, 2 -> compares(attribute(thing), look);
      case 3 -> new Criterion.Not(criterion(thing, look, depth - 1));
      case 4 -> new Criterion.All(two(thing, look, depth));
      case 5 -> new Criterion.Any(two(thing, look, depth));
      default -> {
        List<Relation> relations = thing.relations();
        if (relations.isEmpty()) {
          yield compares(attribute(thing), look);
        }
        Relation relation = relations.get(random.nextInt(relations.size()));
        yield new Criterion.Within(relation, criterion(relation.to(), look, depth - 1));
      }
    };
  }

  private List<Criterion> two(Thing thing, PlainLook look, int depth) {
    return List.of(criterion(thing, look, depth - 1), criterion(thing, look, depth - 1));
  }

  private Attribute attribute(Thing thing) {
    // When a group was found is told by no page; BoardFactsTest asks for it.
    List<Attribute> attributes =
        thing.attributes().stream().filter(one -> one != Attribute.GROUP_FOUND).toList();
    return attributes.get(random.nextInt(attributes.size()));
  }

  private Criterion.Compares compares(Attribute attribute, PlainLook look) {
    List<Operator> operators =
        attribute.kind().operators().stream()
            .filter(operator -> operator != Operator.NE)
            .sorted()
            .toList();
    List<Object> values = look.values(attribute);
    Object value = values.isEmpty() ? null : values.get(random.nextInt(values.size()));
    return new Criterion.Compares(
        attribute,
        attribute.isKeyed() ? one("team", "env", "browser", "none") : null,
        operators.get(random.nextInt(operators.size())),
        operand(attribute, value));
  }

  private Criterion.Operand operand(Attribute attribute, @Nullable Object value) {
    return switch (attribute.kind()) {
      case CHOICE ->
          new Criterion.Words(attribute.choices().get(random.nextInt(attribute.choices().size())));
      case FLAG -> new Criterion.Flag(random.nextBoolean());
      case NUMBER, SECONDS ->
          new Criterion.Amount(
              (value == null ? BigDecimal.ONE : (BigDecimal) value)
                  .add(new BigDecimal(one("0", "0", "1", "-0.5", "99999999999999999999"))));
      case TIME ->
          new Criterion.Moment(
              (value == null ? NOW : (Instant) value).plusMillis(random.nextInt(3) - 1));
      case TEXT, NAME -> new Criterion.Words(words(attribute, value == null ? "x" : "" + value));
    };
  }

  /** Some of a value that there is, or one with the other case. */
  private String words(Attribute attribute, String value) {
    int from = random.nextInt(value.length() + 1);
    String some =
        switch (random.nextInt(4)) {
          case 0 -> value;
          case 1 -> value.substring(from);
          case 2 -> value.substring(0, from);
          default -> value.substring(from / 2, from);
        };
    return random.nextInt(3) == 0 && attribute.kind() == Kind.TEXT
        ? some.toUpperCase(java.util.Locale.ROOT)
        : some;
  }

  /** What people write, read whole: the way from a text to rows. */
  @ParameterizedTest
  @ValueSource(ints = 4)
  void textsFindTheSame(int seed) {
    random.setSeed(seed);
    int project = data().project();
    PlainLook look = new PlainLook(stores, project);
    Map<String, Thing> filters =
        Map.of(
            "outcome eq \"failed\" and label.team eq \"fares\" and not (overruled eq true)",
            Thing.RESULT,
            "tries[message co \"FOUND\"] or tag sw \"s\" and run.stream ew \"nightly\"",
            Thing.RESULT,
            "results[outcome eq \"failed\" and step co \"boarding pass\"]",
            Thing.RUN,
            "label[key eq \"build.os\" and value eq \"reef\"] and failed gt 0",
            Thing.RUN,
            "started gt \"-P1Y\" and not (label.team pr)",
            Thing.RUN,
            "variant.team eq \"skiff\" and not (variant.browser sw \"f\" or variant.os pr)",
            Thing.TEST,
            "variant.team eq \"skiff\" and outcome ne \"passed\"",
            Thing.RESULT,
            "results[group.ticket[open eq true]] and verdict[runs gt 0]",
            Thing.TEST,
            "results[outcome ne \"passed\" and run[branch eq \"main\"]] and suite co \"quay\"",
            Thing.TEST);
    filters.forEach(
        (text, thing) -> {
          Criterion criterion = Resolver.read(text, thing, NOW);
          switch (thing) {
            case RUN ->
                assertThat(runs(project, criterion).stream().map(RunSummary::id).sorted().toList())
                    .as(text)
                    .isNotEmpty()
                    .isEqualTo(look.runs(criterion));
            case TEST ->
                assertThat(
                        stores.runs().tests(project, new TestQuery(criterion, 0, 500)).stream()
                            .map(test -> test.test().id())
                            .toList())
                    .as(text)
                    .isNotEmpty()
                    .isEqualTo(look.tests(criterion));
            default -> {
              for (long run : look.runs(Criterion.EVERYTHING)) {
                assertThat(
                        results(project, run, criterion).stream()
                            .map(row -> row.id().toString())
                            .sorted()
                            .collect(Collectors.toList()))
                    .as(text)
                    .isEqualTo(look.results(run, criterion));
              }
            }
          }
        });
  }
}
