package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTEMPT;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RESULT_NOTE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.TEST;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
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
import org.vinecellar.core.runs.ResultDetail.Try;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.store.edits.NoteRows;
import org.vinecellar.store.edits.OverrulingRows;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.sql.StepJson;

/** One result with all there is of it. */
final class DetailQueries {
  private static final int EARLIER = 30;

  private final DSLContext dsl;
  private final int projectId;

  DetailQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Optional<ResultDetail> detail(RunSummary run, ResultId id) {
    ResultQueries queries = new ResultQueries(dsl, projectId);
    Record row =
        queries
            .select()
            .where(
                RESULT.PROJECT_ID.eq(projectId),
                RESULT.RUN_ID.eq(run.id()),
                RESULT.PART_NO.eq(id.part()),
                RESULT.ORDINAL.eq(id.ordinal()))
            .fetchOne();
    if (row == null) {
      return Optional.empty();
    }
    Record note =
        dsl.selectFrom(RESULT_NOTE)
            .where(
                RESULT_NOTE.PROJECT_ID.eq(projectId),
                RESULT_NOTE.RUN_ID.eq(run.id()),
                RESULT_NOTE.PART_NO.eq(id.part()),
                RESULT_NOTE.ORDINAL.eq(id.ordinal()))
            .fetchOne();
    Overruling overruling = OverrulingRows.find(dsl, projectId, run.id(), id);
    return Optional.of(
        new ResultDetail(
            queries.rows(List.of(row)).get(0),
            Sql.instantOrNull(row.get(RESULT.STARTED_AT)),
            note == null ? null : note.get(RESULT_NOTE.SOURCE_FILE),
            note == null ? null : note.get(RESULT_NOTE.SOURCE_LINE),
            partName(run.id(), id.part()),
            note == null ? Map.of() : Json.map(note.get(RESULT_NOTE.PROPERTIES)),
            tags(note),
            NoteRows.note(
                NoteRows.find(dsl, projectId, Subject.test(row.get(RESULT.TEST_ID))), Map.of()),
            overruling,
            stoppedBy(run.id(), row),
            tries(run.id(), row, overruling),
            earlier(run, row.get(RESULT.TEST_ID))));
  }

  private static List<String> tags(@Nullable Record note) {
    JSONB tags = note == null ? null : note.get(RESULT_NOTE.TAGS);
    return tags == null ? List.of() : Json.list(tags);
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
                + " select r.part_no, r.ordinal from result r"
                + " join test t on t.project_id = r.project_id and t.id = r.test_id"
                + " left join around a on a.id = t.suite_id"
                + " where r.project_id = ? and r.run_id = ? and r.kind = ? and r.outcome in (1, 2)"
                + " and (a.id is not null or t.suite_id is null)"
                + " order by a.steps nulls last, r.part_no, r.ordinal limit 1",
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
            .where(
                RESULT.PROJECT_ID.eq(projectId),
                RESULT.RUN_ID.eq(runId),
                RESULT.PART_NO.eq(place.get(0, Integer.class)),
                RESULT.ORDINAL.eq(place.get(1, Integer.class)))
            .fetchOne();
    return found == null ? null : queries.rows(List.of(found)).get(0);
  }

  private String partName(long runId, int part) {
    return dsl.select(PART.NAME)
        .from(PART)
        .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId), PART.PART_NO.eq(part))
        .fetchSingle(PART.NAME);
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
        .leftJoin(ATTEMPT)
        .on(
            ATTEMPT.PROJECT_ID.eq(RESULT.PROJECT_ID),
            ATTEMPT.RUN_ID.eq(RESULT.RUN_ID),
            ATTEMPT.PART_NO.eq(RESULT.PART_NO),
            ATTEMPT.ORDINAL.eq(RESULT.ORDINAL))
        .where(RESULT.PROJECT_ID.eq(projectId), RESULT.TEST_ID.eq(testId), RESULT.RUN_ID.eq(runId))
        .orderBy(RESULT.PART_NO, RESULT.ORDINAL, ATTEMPT.ATTEMPT_NO)
        .fetch(
            one -> {
              Short number = one.get(ATTEMPT.ATTEMPT_NO);
              if (number == null) {
                // Only the result that stands can be overruled.
                return new Try(
                    silent(one, one.get(RESULT.SUPERSEDED) ? null : overruling), List.of());
              }
              Place place = new Place(one.get(RESULT.PART_NO), one.get(RESULT.ORDINAL), number);
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
        StepJson.steps(row.get(ATTEMPT.STEPS)),
        StepJson.logs(row.get(ATTEMPT.LOGS)),
        List.of());
  }

  private static long micros(@Nullable Long value) {
    return value == null ? TestResult.NO_DURATION : value;
  }

  private List<Earlier> earlier(RunSummary run, long testId) {
    return dsl.select(RUN.NUMBER, RESULT.PART_NO, RESULT.ORDINAL, RESULT.OUTCOME, RESULT.ATTEMPTS)
        .from(RESULT)
        .join(RUN)
        .on(RUN.PROJECT_ID.eq(RESULT.PROJECT_ID), RUN.ID.eq(RESULT.RUN_ID))
        .join(STREAM)
        .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
        .where(
            RESULT.PROJECT_ID.eq(projectId),
            RESULT.TEST_ID.eq(testId),
            RESULT.SUPERSEDED.isFalse(),
            STREAM.NAME.eq(run.stream()),
            RUN.NUMBER.lt(run.number()))
        .orderBy(RUN.NUMBER.desc())
        .limit(EARLIER)
        .fetch(
            row ->
                new Earlier(
                    row.value1(),
                    new ResultId(row.value2(), row.value3()),
                    Outcome.ofCode(row.value4()),
                    row.value5() > 1));
  }
}
