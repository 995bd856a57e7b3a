package org.vinecellar.store;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Overruling;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Kind;
import org.vinecellar.core.filters.Operator;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.runs.Part;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.TestQuery;
import org.vinecellar.core.runs.TestRow;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.flaky.Verdict;

/**
 * All of a project as its pages show it, in memory, and filters that are asked of it one by one,
 * with none of the code that is tested.
 */
final class PlainLook {
  private static final Set<Relation> LEAVES =
      Set.of(
          Relation.RESULT_TRIES,
          Relation.RUN_LABELS,
          Relation.TEST_VERDICTS,
          Relation.GROUP_TICKETS,
          Relation.GROUP_DECISIONS);

  private final Map<Long, Item> runs = new TreeMap<>();
  private final Map<Long, Item> tests = new TreeMap<>();
  private final Map<Long, Map<String, Item>> results = new TreeMap<>();
  private final Map<Long, Item> groups = new TreeMap<>();
  private final Map<Long, Map<String, FailureLine>> failures = new HashMap<>();
  private final Stores stores;
  private final int project;

  /** A thing: the values of its attributes, and what hangs on it. */
  private static final class Item {
    final Map<Attribute, List<Object>> values = new EnumMap<>(Attribute.class);
    final Map<Relation, List<Item>> others = new EnumMap<>(Relation.class);
    final Map<Attribute, Map<String, String>> keyed = new EnumMap<>(Attribute.class);

    Item with(Attribute attribute, @Nullable Object... told) {
      Arrays.stream(told)
          .filter(Objects::nonNull)
          .forEach(one -> values.computeIfAbsent(attribute, a -> new ArrayList<>()).add(one));
      return this;
    }

    Item number(Attribute attribute, long number) {
      return with(attribute, BigDecimal.valueOf(number));
    }

    void add(Relation relation, Item other) {
      others.computeIfAbsent(relation, r -> new ArrayList<>()).add(other);
    }

    List<Object> of(Attribute attribute, @Nullable String key) {
      if (attribute.isKeyed()) {
        Map<String, String> all = keyed.getOrDefault(attribute, Map.of());
        return key == null
            ? new ArrayList<>(all.values())
            : all.containsKey(key) ? List.of(all.get(key)) : List.of();
      }
      return values.getOrDefault(attribute, List.of());
    }
  }

  PlainLook(Stores stores, int project) {
    this.stores = stores;
    this.project = project;
    for (TestRow test : stores.runs().tests(project, new TestQuery(Criterion.EVERYTHING, 0, 500))) {
      tests.put(test.test().id(), test(test));
    }
    for (Verdict verdict : Verdict.values()) {
      TrustStore.Question all =
          new TrustStore.Question(
              verdict, null, false, TrustStore.Order.CERTAIN, LocalDate.EPOCH, 0, 1_000);
      for (TrustStore.InStream in : stores.trust().taken(project, all)) {
        Objects.requireNonNull(tests.get(in.test().id())).add(Relation.TEST_VERDICTS, verdict(in));
      }
    }
    for (GroupLine line :
        stores.desk().groups(project, question(Criterion.EVERYTHING, Instant.EPOCH))) {
      groups.put(line.id(), group(line));
    }
    RunQuery all = new RunQuery(null, Criterion.EVERYTHING, Optional.empty(), 200);
    for (RunSummary run : stores.runs().runs(project, all)) {
      Item item = run(run);
      runs.put(run.id(), item);
      Map<String, Item> rows = new TreeMap<>();
      results.put(run.id(), rows);
      ResultQuery every = ResultQuery.first(500);
      Set<String> before = new HashSet<>();
      for (ResultRow row : stores.runs().results(project, run.id(), every)) {
        Item result = result(run, row);
        // Those that fail come first, each half as it stands in the run.
        String alike = row.test().id() + " " + row.outcome().isFailing();
        result.with(Attribute.RESULT_REPEATED, !before.add(alike));
        result.add(Relation.RESULT_RUN, item);
        item.add(Relation.RUN_RESULTS, result);
        Item test = Objects.requireNonNull(tests.get(row.test().id()));
        test.add(Relation.TEST_RESULTS, result);
        result.add(Relation.RESULT_TEST, test);
        test.others.getOrDefault(Relation.TEST_VERDICTS, List.of()).stream()
            .filter(one -> one.of(Attribute.VERDICT_STREAM, null).contains(run.stream()))
            .forEach(one -> result.add(Relation.RESULT_VERDICT, one));
        failed(result, failure(run, row));
        rows.put(row.id().toString(), result);
      }
      stores
          .runs()
          .gone(project, run.id(), Criterion.EVERYTHING, 500)
          .forEach(
              test -> Objects.requireNonNull(tests.get(test.id())).add(Relation.TEST_GONE, item));
    }
  }

  private Item test(TestRow test) {
    Item item = new Item();
    KeptTest kept = test.test();
    item.keyed.put(Attribute.TEST_VARIANT, kept.variant());
    Object[] suites = kept.suite().toArray();
    return item.with(Attribute.TEST_NAME, kept.name())
        .with(Attribute.TEST_PARAMETERS, kept.parameters())
        .with(Attribute.TEST_SUITE, suites)
        .with(Attribute.TEST_TEXT, kept.name(), kept.parameters())
        .with(Attribute.TEST_TEXT, suites)
        .with(Attribute.TEST_FILE, test.file())
        .with(Attribute.TEST_TAG, test.tags().toArray())
        .with(Attribute.TEST_DESCRIPTION, description(Subject.test(kept.id())))
        .number(Attribute.TEST_ID, kept.id());
  }

  private @Nullable String description(Subject subject) {
    return stores.edits().note(project, subject).orElseThrow().text().description();
  }

  private Item run(RunSummary run) {
    Item item = new Item();
    item.keyed.put(Attribute.RUN_LABEL, run.words().labels());
    run.words()
        .labels()
        .forEach(
            (key, value) ->
                item.add(
                    Relation.RUN_LABELS,
                    new Item().with(Attribute.LABEL_KEY, key).with(Attribute.LABEL_VALUE, value)));
    return item.with(Attribute.RUN_STREAM, run.stream())
        .number(Attribute.RUN_NUMBER, run.number())
        .with(Attribute.RUN_OPEN, run.open())
        .with(Attribute.RUN_STARTED, run.times().started())
        .with(Attribute.RUN_CHANGED, run.times().changed())
        .with(Attribute.RUN_CLOSED, run.times().closed())
        .with(Attribute.RUN_CLOSED_BY, run.times().closedBy())
        .with(Attribute.RUN_BRANCH, run.origin().branch())
        .with(Attribute.RUN_COMMIT, run.origin().commit())
        .with(Attribute.RUN_TAG, run.words().tags().toArray())
        .with(Attribute.RUN_DESCRIPTION, run.words().description())
        .with(
            Attribute.RUN_PART,
            stores.runs().parts(project, run.id()).stream().map(Part::name).toArray())
        .number(Attribute.RUN_TESTS, run.counts().tests())
        .number(Attribute.RUN_PASSED, run.counts().passed())
        .number(Attribute.RUN_FAILED, run.counts().failed())
        .number(Attribute.RUN_ERRORED, run.counts().errored())
        .number(Attribute.RUN_SKIPPED, run.counts().skipped())
        .number(Attribute.RUN_NOT_REACHED, run.counts().notReached())
        .number(Attribute.RUN_RETRIED, run.counts().retried())
        .number(Attribute.RUN_SET_UPS, run.counts().setUps())
        .number(Attribute.RUN_OVERRULED, run.overruled())
        .with(Attribute.RUN_TEST_TIME, seconds(run.durationMicros()))
        .number(Attribute.RUN_NEW_FAILING, run.changes().newFailing())
        .number(Attribute.RUN_FAILING_AS_BEFORE, run.changes().failingAsBefore())
        .number(Attribute.RUN_FIXED, run.changes().fixed())
        .number(Attribute.RUN_PASSED_ON_RETRY, run.changes().passedOnRetry())
        .number(Attribute.RUN_ADDED, run.changes().added())
        .number(Attribute.RUN_GONE, run.changes().gone())
        .number(Attribute.RUN_RENAMED, run.changes().renamed());
  }

  /** As a real is told by the database. */
  private static @Nullable BigDecimal decimal(@Nullable Double number) {
    return number == null
        ? null
        : new BigDecimal(number.floatValue()).round(new MathContext(6, RoundingMode.HALF_EVEN));
  }

  private static @Nullable BigDecimal seconds(@Nullable Long micros) {
    return micros == null ? null : BigDecimal.valueOf(micros, 6);
  }

  private Item result(RunSummary run, ResultRow row) {
    ResultDetail detail = stores.runs().result(project, run, row.id()).orElseThrow();
    boolean test = row.kind() == ResultKind.TEST;
    Overruling overruling = detail.overruling();
    Outcome reported = row.reported() == null ? row.outcome() : row.reported();
    Object[] suites = row.test().suite().toArray();
    Item item = new Item();
    item.keyed.put(Attribute.RESULT_LABEL, run.words().labels());
    item.keyed.put(Attribute.RESULT_VARIANT, row.test().variant());
    detail.tries().forEach(one -> tried(item, one.attempt()));
    return item.with(Attribute.RESULT_OUTCOME, test ? row.outcome().word() : null)
        .with(Attribute.RESULT_REPORTED, test ? reported.word() : null)
        .with(Attribute.RESULT_OVERRULED, row.reported() != null)
        .with(Attribute.RESULT_OVERRULED_BY, overruling == null ? null : overruling.by())
        .with(Attribute.RESULT_OVERRULED_AT, overruling == null ? null : overruling.at())
        .with(Attribute.RESULT_SET_UP, !test)
        // Nothing is, there; QuarantineTest asks for what is.
        .with(Attribute.RESULT_QUARANTINED, false)
        .with(Attribute.RESULT_CHANGE, row.change() == null ? null : row.change().word())
        .with(Attribute.RESULT_NAME, row.test().name())
        .with(Attribute.RESULT_PARAMETERS, row.test().parameters())
        .with(Attribute.RESULT_SUITE, suites)
        .with(Attribute.RESULT_FIRST_LINE, row.firstLine())
        .with(Attribute.RESULT_TEXT, row.test().name(), row.test().parameters(), row.firstLine())
        .with(Attribute.RESULT_TEXT, suites)
        .with(Attribute.RESULT_FILE, detail.file())
        .with(Attribute.RESULT_TAG, detail.tags().toArray())
        .with(Attribute.RESULT_TAG, detail.note().text().tags().toArray())
        .with(Attribute.RESULT_PART, detail.partName())
        .with(Attribute.RESULT_DURATION, seconds(row.durationMicros()))
        .with(Attribute.RESULT_STARTED, detail.startedAt())
        .number(Attribute.RESULT_ATTEMPTS, row.attempts())
        .number(Attribute.RESULT_TEST_ID, row.test().id())
        .number(Attribute.RESULT_NOW_TEST_ID, now(run.stream(), row.test().id()));
  }

  /** As what it goes on, after however many names. */
  private long now(String stream, long test) {
    Map<Long, Long> next = new HashMap<>();
    for (TrustStore.Renamed one : stores.trust().renames(project, stream)) {
      if (one.joined()) {
        next.put(one.old().id(), one.now().id());
      }
    }
    long now = test;
    while (next.containsKey(now)) {
      now = next.get(now);
    }
    return now;
  }

  private static Item verdict(TrustStore.InStream in) {
    Estimate estimate = in.estimate();
    return new Item()
        .with(Attribute.VERDICT_IS, estimate.verdict().word())
        .with(Attribute.VERDICT_STREAM, in.stream())
        .with(Attribute.VERDICT_SCORE, decimal(estimate.score()))
        .with(Attribute.VERDICT_RATE, decimal(estimate.rate()))
        .number(Attribute.VERDICT_RUNS, estimate.runs())
        .number(Attribute.VERDICT_STUMBLES, estimate.stumbles());
  }

  static DeskStore.Question question(Criterion filter, Instant now) {
    return new DeskStore.Question(Show.ALL, null, filter, "lead", now, 0, 500);
  }

  private Item group(GroupLine line) {
    Item item = new Item();
    for (Ticket ticket : line.tickets()) {
      item.add(
          Relation.GROUP_TICKETS,
          new Item()
              .with(Attribute.TICKET_KEY, ticket.key())
              .with(Attribute.TICKET_TITLE, ticket.title())
              .with(Attribute.TICKET_STATE, ticket.state())
              .with(Attribute.TICKET_OPEN, ticket.open())
              // Closed when that was first seen.
              .with(
                  Attribute.TICKET_CLOSED,
                  Boolean.FALSE.equals(ticket.open()) ? ticket.checkedAt() : null));
    }
    stores.desk().group(project, line.id()).orElseThrow().said().stream()
        .filter(past -> past.undoneBy() == null)
        .forEach(
            past ->
                item.add(
                    Relation.GROUP_DECISIONS,
                    decision(past.said())
                        .with(Attribute.DECISION_MADE, past.at())
                        .with(Attribute.DECISION_ENDS, past.ends())));
    return item.number(Attribute.GROUP_NUMBER, line.id())
        .with(Attribute.GROUP_SENTENCE, line.sentence())
        .number(Attribute.GROUP_RESULTS, line.results())
        .number(Attribute.GROUP_UNSORTED, line.open())
        .number(Attribute.GROUP_TESTS, line.tests())
        .number(Attribute.GROUP_RUNS, line.runs())
        .number(Attribute.GROUP_STREAMS, line.streams())
        .with(Attribute.GROUP_LATEST, line.last().at())
        .with(Attribute.GROUP_ASSIGNED, line.assigned());
  }

  private static Item decision(FailureLine.Said said) {
    return new Item()
        .with(Attribute.DECISION_CATEGORY, said.category())
        .with(Attribute.DECISION_COMMENT, said.comment())
        .with(Attribute.DECISION_BY, said.by());
  }

  /** What is known of why a result failed, beside it. */
  private void failed(Item result, @Nullable FailureLine line) {
    if (line == null || line.group() == null) {
      return;
    }
    Item group = Objects.requireNonNull(groups.get(line.group()));
    group.add(Relation.GROUP_RESULTS, result);
    result.add(Relation.RESULT_GROUP, group);
    Item unused = result.number(Attribute.RESULT_GROUP, line.group());
    FailureLine.Said said = line.decision();
    if (said != null) {
      Item decision = decision(said);
      // When it was made is told where its group is looked at.
      group.others.getOrDefault(Relation.GROUP_DECISIONS, List.of()).stream()
          .filter(
              one ->
                  one.of(Attribute.DECISION_CATEGORY, null)
                          .equals(decision.of(Attribute.DECISION_CATEGORY, null))
                      && one.of(Attribute.DECISION_COMMENT, null)
                          .equals(decision.of(Attribute.DECISION_COMMENT, null)))
          .findFirst()
          .ifPresent(one -> result.add(Relation.RESULT_DECISION, one));
      Item unusedToo = result.with(Attribute.RESULT_CATEGORY, said.category());
    }
  }

  private @Nullable FailureLine failure(RunSummary run, ResultRow row) {
    return failures
        .computeIfAbsent(
            run.id(),
            id -> {
              Map<String, FailureLine> found = new HashMap<>();
              var wanted =
                  new TriageStore.Wanted(run.stream(), run.number(), run.number(), null, 2_000);
              for (FailureLine line : stores.triage().failures(project, wanted)) {
                found.put(line.result().toString(), line);
              }
              return found;
            })
        .get(row.id().toString());
  }

  private static void tried(Item result, Attempt attempt) {
    Item item = new Item();
    for (Failure failure : attempt.failures()) {
      Item unused =
          item.with(Attribute.ATTEMPT_TYPE, failure.type())
              .with(Attribute.ATTEMPT_MESSAGE, failure.message())
              .with(Attribute.ATTEMPT_TRACE, failure.trace());
    }
    result.add(Relation.RESULT_TRIES, item);
    Object[] steps = steps(attempt.steps()).toArray();
    Item unused =
        item.with(Attribute.ATTEMPT_OUTPUT, attempt.stdout(), attempt.stderr())
            .with(Attribute.ATTEMPT_STEP, steps);
    Item unusedOf = result.with(Attribute.RESULT_STEP, steps);
  }

  private static Stream<String> steps(List<Step> steps) {
    return steps.stream().flatMap(one -> Stream.concat(Stream.of(one.text()), steps(one.steps())));
  }

  List<Long> runs(Criterion criterion) {
    return found(runs, criterion);
  }

  List<Long> tests(Criterion criterion) {
    return found(tests, criterion);
  }

  List<Long> groups(Criterion criterion) {
    return found(groups, criterion);
  }

  List<String> results(long run, Criterion criterion) {
    return found(Objects.requireNonNull(results.get(run)), criterion);
  }

  private static <K> List<K> found(Map<K, Item> items, Criterion criterion) {
    return items.entrySet().stream()
        .filter(entry -> holds(criterion, entry.getValue()))
        .map(Map.Entry::getKey)
        .toList();
  }

  /** Values that there are. */
  List<Object> values(Attribute attribute) {
    List<Object> all = new ArrayList<>();
    Stream.concat(
            Stream.concat(
                groups.values().stream(),
                Stream.concat(runs.values().stream(), tests.values().stream())),
            results.values().stream().flatMap(map -> map.values().stream()))
        .flatMap(
            item ->
                Stream.concat(
                    Stream.of(item),
                    item.others.entrySet().stream()
                        .filter(other -> LEAVES.contains(other.getKey()))
                        .flatMap(other -> other.getValue().stream())))
        .forEach(
            item -> {
              all.addAll(item.values.getOrDefault(attribute, List.of()));
              all.addAll(item.keyed.getOrDefault(attribute, Map.of()).values());
            });
    return all;
  }

  private static boolean holds(Criterion criterion, Item item) {
    if (criterion instanceof Criterion.All all) {
      return all.of().stream().allMatch(one -> holds(one, item));
    }
    if (criterion instanceof Criterion.Any any) {
      return any.of().stream().anyMatch(one -> holds(one, item));
    }
    if (criterion instanceof Criterion.Not not) {
      return !holds(not.of(), item);
    }
    if (criterion instanceof Criterion.Within within) {
      return item.others.getOrDefault(within.relation(), List.of()).stream()
          .anyMatch(other -> holds(within.of(), other));
    }
    if (criterion instanceof Criterion.Present present) {
      return item.of(present.attribute(), present.key()).stream()
          .anyMatch(value -> !value.equals(""));
    }
    Criterion.Compares compares = (Criterion.Compares) criterion;
    return item.of(compares.attribute(), compares.key()).stream()
        .anyMatch(value -> compares(compares, value));
  }

  private static boolean compares(Criterion.Compares compares, Object value) {
    if (compares.operand() instanceof Criterion.Words words) {
      boolean text = compares.attribute().kind() == Kind.TEXT;
      return words(compares.operator(), cased("" + value, text), cased(words.text(), text));
    }
    if (compares.operand() instanceof Criterion.Flag flag) {
      return value.equals(flag.set());
    }
    int order =
        compares.operand() instanceof Criterion.Amount amount
            ? ((BigDecimal) value).compareTo(amount.number())
            : ((Instant) value).compareTo(((Criterion.Moment) compares.operand()).time());
    return ordered(compares.operator(), order);
  }

  private static String cased(String words, boolean text) {
    return text ? words.toLowerCase(Locale.ROOT) : words;
  }

  private static boolean words(Operator operator, String value, String words) {
    return switch (operator) {
      case CO -> value.contains(words);
      case SW -> value.startsWith(words);
      case EW -> value.endsWith(words);
      default -> ordered(operator, byCodePoints(value, words));
    };
  }

  private static int byCodePoints(String a, String b) {
    return Arrays.compare(a.codePoints().toArray(), b.codePoints().toArray());
  }

  private static boolean ordered(Operator operator, int order) {
    return switch (operator) {
      case EQ -> order == 0;
      case GT -> order > 0;
      case GE -> order >= 0;
      case LT -> order < 0;
      case LE -> order <= 0;
      default -> throw new IllegalStateException("no order: " + operator);
    };
  }
}
