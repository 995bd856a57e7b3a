package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTEMPT;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RESULT_NOTE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_FACTS;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Overruling;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultDetail.Earlier;
import org.vinecellar.core.runs.ResultDetail.Elsewhere;
import org.vinecellar.core.runs.ResultDetail.Try;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.store.edits.NoteRows;
import org.vinecellar.store.edits.OverrulingRows;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.results.NowNames;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.results.StepColumns;
import org.vinecellar.store.results.Tries;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** One result with all there is of it. */
final class DetailQueries {
  private static final int EARLIER = 30;
  private static final int EARLIER_RUNS = 100;
  private static final int ELSEWHERE = 100;

  private final DSLContext dsl;
  private final int projectId;

  DetailQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Optional<ResultDetail> detail(RunSummary run, ResultId id) {
    if (!Packed.isPlace(id)) {
      return Optional.empty();
    }
    ResultQueries queries = new ResultQueries(dsl, projectId);
    Record row =
        queries
            .select()
            .where(RESULT.RUN_ID.eq(run.id()), RESULT.PLACE.eq(Packed.place(id)))
            .fetchOne();
    if (row == null) {
      return Optional.empty();
    }
    Record part = part(run.id(), id.part());
    Record note =
        dsl.selectFrom(RESULT_NOTE)
            .where(RESULT_NOTE.RUN_ID.eq(run.id()), RESULT_NOTE.PLACE.eq(Packed.place(id)))
            .fetchOne();
    Overruling overruling = OverrulingRows.find(dsl, run.id(), id);
    Told told = told(row, note);
    return Optional.of(
        new ResultDetail(
            queries.rows(List.of(row)).get(0),
            Packed.started(part.get(PART.BASE_AT).toInstant(), row.get(RESULT.STARTED)),
            told.file,
            told.line,
            part.get(PART.NAME),
            note == null ? Map.of() : Json.map(note.get(RESULT_NOTE.PROPERTIES)),
            told.tags,
            NoteRows.note(
                NoteRows.find(dsl, projectId, Subject.test(row.get(RESULT.TEST_ID))), Map.of()),
            overruling,
            stoppedBy(run.id(), row),
            tries(run.id(), row, overruling),
            elsewhere(run.id(), row),
            earlier(run, row.get(RESULT.TEST_ID))));
  }

  /** What the result's file told of its test. */
  private record Told(@Nullable String file, @Nullable Integer line, List<String> tags) {
    static Told of(@Nullable String file, @Nullable Integer line, @Nullable JSONB tags) {
      return new Told(file, line, tags == null ? List.of() : Json.list(tags));
    }
  }

  private Told told(Record row, @Nullable Record note) {
    Record facts =
        dsl.selectFrom(TEST_FACTS)
            .where(
                TEST_FACTS.TEST_ID.eq(row.get(RESULT.TEST_ID)),
                TEST_FACTS.VERSION.eq(row.get(RESULT.FACTS)))
            .fetchOne();
    if (facts != null) {
      return Told.of(
          facts.get(TEST_FACTS.SOURCE_FILE),
          facts.get(TEST_FACTS.SOURCE_LINE),
          facts.get(TEST_FACTS.TAGS));
    }
    return note == null
        ? Told.of(null, null, null)
        : Told.of(
            note.get(RESULT_NOTE.SOURCE_FILE),
            note.get(RESULT_NOTE.SOURCE_LINE),
            note.get(RESULT_NOTE.TAGS));
  }

  /** The failed set-up of the test's suite, or else of the nearest suite around it. */
  private @Nullable ResultRow stoppedBy(long runId, Record row) {
    if (row.get(RESULT.OUTCOME) != Outcome.NOT_REACHED.code()) {
      return null;
    }
    Record place =
        dsl.fetchOne(
            "with recursive around (id, parent_id, steps) as ("
                + "select id, parent_id, 0 from suite where project_id = ? and id = ?"
                + " union all select s.id, s.parent_id, steps + 1 from suite s"
                + " join around a on s.id = a.parent_id where s.project_id = ?)"
                + " select r.place from result r"
                + " join test t on t.project_id = ? and t.id = r.test_id"
                + " left join around a on a.id = t.suite_id"
                + " where r.run_id = ? and r.kind = ? and r.outcome <> 0 and r.outcome in (1, 2)"
                + " and (a.id is not null or t.suite_id is null)"
                + " order by a.steps nulls last, r.place limit 1",
            projectId,
            row.get(TEST.SUITE_ID),
            projectId,
            projectId,
            runId,
            ResultKind.SETUP.code());
    if (place == null) {
      return null;
    }
    ResultQueries queries = new ResultQueries(dsl, projectId);
    Record found =
        queries
            .select()
            .where(RESULT.RUN_ID.eq(runId), RESULT.PLACE.eq(place.get(0, Integer.class)))
            .fetchOne();
    return found == null ? null : queries.rows(List.of(found)).get(0);
  }

  private Record part(long runId, int part) {
    return dsl.select(PART.NAME, PART.BASE_AT)
        .from(PART)
        .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId), PART.PART_NO.eq(part))
        .fetchSingle();
  }

  /** The place of a try in the run. */
  private record Place(int part, int ordinal, int attempt) {}

  /** Those of this row and of rows of the same test that it superseded, in order. */
  private List<Try> tries(long runId, Record row, @Nullable Overruling overruling) {
    long testId = row.get(RESULT.TEST_ID);
    Map<Place, List<KeptAttachment>> attachments =
        new AttachmentQueries(dsl, projectId)
            .ofTest(runId, testId).stream()
                .collect(
                    Collectors.groupingBy(
                        one -> new Place(one.id().part(), one.id().ordinal(), one.id().attempt())));
    return dsl.select(RESULT.asterisk(), ATTEMPT.asterisk())
        .from(RESULT)
        .join(PART)
        .on(
            PART.PROJECT_ID.eq(projectId),
            PART.RUN_ID.eq(RESULT.RUN_ID),
            PART.PART_NO.eq(RESULT.PART_NO))
        .leftJoin(ATTEMPT)
        .on(ATTEMPT.RUN_ID.eq(RESULT.RUN_ID), ATTEMPT.PLACE.eq(RESULT.PLACE))
        .where(RESULT.RUN_ID.eq(runId), RESULT.TEST_ID.eq(testId))
        .and(
            RESULT.PART_NO.in(
                Tries.around(dsl, projectId, runId, Packed.id(row.get(RESULT.PLACE)).part())))
        .and(RESULT.SUPERSEDED.isFalse().or(RESULT.ATTEMPTS.gt(0)))
        // The one that stands is the last, whenever it came.
        .orderBy(
            RESULT.SUPERSEDED.desc(),
            PART.ATTEMPT.asc().nullsFirst(),
            RESULT.PLACE.asc(),
            ATTEMPT.ATTEMPT_NO.asc())
        .fetch(
            one -> {
              Integer number = one.get(ATTEMPT.ATTEMPT_NO);
              if (number == null) {
                // Only the result that stands can be overruled.
                return new Try(
                    silent(one, one.get(RESULT.SUPERSEDED) ? null : overruling), List.of());
              }
              ResultId id = Packed.id(one.get(RESULT.PLACE));
              Place place = new Place(id.part(), id.ordinal(), number);
              return new Try(attempt(one), attachments.getOrDefault(place, List.of()));
            });
  }

  /** The only attempt of a result that had nothing to show. */
  private static Attempt silent(Record result, @Nullable Overruling overruling) {
    Outcome outcome =
        overruling == null ? Outcome.ofCode(result.get(RESULT.OUTCOME)) : overruling.reported();
    String line = result.get(RESULT.FIRST_LINE);
    return new Attempt(
        outcome,
        micros(result.get(RESULT.DURATION_US)),
        line == null ? List.of() : List.of(new Failure(null, line, null)),
        null,
        null);
  }

  private static Attempt attempt(Record row) {
    List<Failure> failures = new ArrayList<>();
    String type = row.get(ATTEMPT.FAILURE_TYPE);
    String message = row.get(ATTEMPT.MESSAGE);
    String trace = row.get(ATTEMPT.TRACE);
    if (type != null || message != null || trace != null) {
      failures.add(new Failure(type, message, trace));
    }
    JSONB more = row.get(ATTEMPT.MORE_FAILURES);
    if (more != null) {
      List<Map<String, @Nullable String>> maps = Json.read(more.data(), new TypeReference<>() {});
      maps.forEach(
          map -> failures.add(new Failure(map.get("type"), map.get("message"), map.get("trace"))));
    }
    return new Attempt(
        Outcome.ofCode(row.get(ATTEMPT.OUTCOME)),
        micros(row.get(ATTEMPT.DURATION_US)),
        failures,
        row.get(ATTEMPT.STDOUT),
        row.get(ATTEMPT.STDERR),
        StepColumns.steps(row.get(ATTEMPT.STEPS)),
        StepColumns.logs(row.get(ATTEMPT.LOGS)),
        List.of());
  }

  /** Other results that stand of the same test, whichever variants it has. */
  private List<Elsewhere> elsewhere(long runId, Record row) {
    List<Long> same = new ArrayList<>(List.of(row.get(RESULT.TEST_ID)));
    dsl.fetch(
            "with one as (select coalesce(base_high, key_high) as high,"
                + " coalesce(base_low, key_low) as low from test where project_id = ? and id = ?)"
                + " select t.id from test t, one where t.project_id = ?"
                + " and t.base_high = one.high and t.base_low = one.low"
                + " union select t.id from test t, one where t.project_id = ?"
                + " and t.key_high = one.high and t.key_low = one.low",
            projectId,
            row.get(RESULT.TEST_ID),
            projectId,
            projectId)
        .forEach(one -> same.add(one.get(0, Long.class)));
    List<Record> rows =
        new ArrayList<>(
            dsl.select(KeptTests.FIELDS)
                .select(RESULT.PLACE, RESULT.OUTCOME, PART.NAME)
                .from(RESULT)
                .join(TEST)
                .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
                .join(PART)
                .on(
                    PART.PROJECT_ID.eq(projectId),
                    PART.RUN_ID.eq(RESULT.RUN_ID),
                    PART.PART_NO.eq(RESULT.PART_NO))
                .where(RESULT.RUN_ID.eq(runId), RESULT.TEST_ID.in(same))
                .and(RESULT.SUPERSEDED.isFalse())
                .and(RESULT.PLACE.ne(row.get(RESULT.PLACE)))
                .orderBy(RESULT.PLACE)
                .limit(ELSEWHERE)
                .fetch());
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    return rows.stream()
        .map(
            one ->
                new Elsewhere(
                    Packed.id(one.get(RESULT.PLACE)),
                    tests.variant(one),
                    one.get(PART.NAME),
                    Outcome.ofCode(one.get(RESULT.OUTCOME))))
        .toList();
  }

  private static long micros(@Nullable Long value) {
    return value == null ? TestResult.NO_DURATION : value;
  }

  /** Looks only into the runs right before, so that it costs the same however long a test lives. */
  private List<Earlier> earlier(RunSummary run, long testId) {
    Map<Long, Integer> numbers =
        dsl.select(RUN.ID, RUN.NUMBER)
            .from(RUN)
            .join(STREAM)
            .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
            .where(
                RUN.PROJECT_ID.eq(projectId),
                STREAM.NAME.eq(run.stream()),
                RUN.NUMBER.isNotNull(),
                DSL.row(RUN.STARTED_AT, RUN.NUMBER)
                    .lt(Sql.utc(run.times().started()), run.number()))
            .orderBy(RUN.STARTED_AT.desc(), RUN.NUMBER.desc())
            .limit(EARLIER_RUNS)
            .fetchMap(RUN.ID, RUN.NUMBER);
    List<Integer> order = List.copyOf(numbers.values());
    return dsl
        .select(RESULT.RUN_ID, RESULT.PLACE, RESULT.OUTCOME, RESULT.ATTEMPTS)
        .from(RESULT)
        .where(
            RESULT.RUN_ID.in(numbers.keySet()),
            DSL.condition(
                "{0} = any({1})",
                RESULT.TEST_ID, Ids.of(NowNames.all(dsl, projectId, run.stream(), testId))),
            RESULT.SUPERSEDED.isFalse())
        .fetch(
            row ->
                new Earlier(
                    numbers.getOrDefault(row.value1(), 0),
                    Packed.id(row.value2()),
                    Outcome.ofCode(row.value3()),
                    row.value4() > 1))
        .stream()
        // Of several in one run, the worst.
        .collect(
            Collectors.toMap(
                Earlier::run,
                one -> one,
                (a, b) -> a.outcome().worse(b.outcome()) == a.outcome() ? a : b))
        .values()
        .stream()
        .sorted(Comparator.comparingInt(one -> order.indexOf(one.run())))
        .limit(EARLIER)
        .toList();
  }
}
