package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTEMPT;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RESULT_NOTE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultDetail.Earlier;
import org.vinecellar.core.runs.ResultId;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

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
    return Optional.of(
        new ResultDetail(
            queries.rows(List.of(row)).get(0),
            Sql.instantOrNull(row.get(RESULT.STARTED_AT)),
            note == null ? null : note.get(RESULT_NOTE.SOURCE_FILE),
            note == null ? null : note.get(RESULT_NOTE.SOURCE_LINE),
            partName(run.id(), id.part()),
            note == null ? Map.of() : Json.map(note.get(RESULT_NOTE.PROPERTIES)),
            attempts(run.id(), row),
            earlier(run, row.get(RESULT.TEST_ID))));
  }

  private String partName(long runId, int part) {
    return dsl.select(PART.NAME)
        .from(PART)
        .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId), PART.PART_NO.eq(part))
        .fetchSingle(PART.NAME);
  }

  /** Those of this row and of rows of the same test that it superseded, in order. */
  private List<Attempt> attempts(long runId, Record row) {
    List<Attempt> attempts = new ArrayList<>();
    for (Record one :
        dsl.selectFrom(RESULT)
            .where(
                RESULT.PROJECT_ID.eq(projectId),
                RESULT.TEST_ID.eq(row.get(RESULT.TEST_ID)),
                RESULT.RUN_ID.eq(runId))
            .orderBy(RESULT.PART_NO, RESULT.ORDINAL)
            .fetch()) {
      List<Attempt> own =
          dsl.selectFrom(ATTEMPT)
              .where(
                  ATTEMPT.PROJECT_ID.eq(projectId),
                  ATTEMPT.RUN_ID.eq(runId),
                  ATTEMPT.PART_NO.eq(one.get(RESULT.PART_NO)),
                  ATTEMPT.ORDINAL.eq(one.get(RESULT.ORDINAL)))
              .orderBy(ATTEMPT.ATTEMPT_NO)
              .fetch(DetailQueries::attempt);
      if (own.isEmpty()) {
        attempts.add(silent(one));
      } else {
        attempts.addAll(own);
      }
    }
    return attempts;
  }

  /** The only attempt of a result that had nothing to show. */
  private static Attempt silent(Record result) {
    Outcome outcome = Outcome.ofCode(result.get(RESULT.OUTCOME));
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
        row.get(ATTEMPT.STDERR));
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
