package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSummary;

/** Streams with their strips and trends. */
final class StreamQueries {
  private static final int STRIP = 30;
  private static final int TREND = 120;

  private static final String POINT =
      "number, started_at, is_open, passed, failed, errored, skipped, not_reached, retried,"
          + " new_failing";

  private final DSLContext dsl;
  private final int projectId;

  StreamQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<StreamSummary> all() {
    List<StreamSummary> streams = new ArrayList<>();
    dsl.select(STREAM.NAME, STREAM.ID)
        .from(STREAM)
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.NEXT_RUN_NUMBER.gt(1))
        .orderBy(STREAM.NAME)
        .fetch()
        .forEach(row -> streams.add(summary(row.value1(), row.value2())));
    return streams;
  }

  Optional<StreamSummary> named(String name) {
    Long id =
        dsl.select(STREAM.ID)
            .from(STREAM)
            .where(
                STREAM.PROJECT_ID.eq(projectId), STREAM.NAME.eq(name), STREAM.NEXT_RUN_NUMBER.gt(1))
            .fetchOne(STREAM.ID);
    return id == null ? Optional.empty() : Optional.of(summary(name, id));
  }

  private StreamSummary summary(String name, long streamId) {
    RunSummary latest = latest(name);
    int count =
        dsl.fetchSingle(
                "select count(*) from run where project_id = ? and stream_id = ?"
                    + " and number is not null",
                projectId,
                streamId)
            .get(0, Integer.class);
    List<RunPoint> strip =
        new ArrayList<>(
            points(
                "select "
                    + POINT
                    + " from run where project_id = ? and stream_id = ? and number is not null"
                    + " order by number desc limit "
                    + STRIP,
                streamId,
                null));
    java.util.Collections.reverse(strip);
    int step = Math.max(1, (count + TREND - 1) / TREND);
    List<RunPoint> trend =
        points(
            "select "
                + POINT
                + " from run where project_id = ? and stream_id = ? and number is not null"
                + " and mod(? - number, "
                + step
                + ") = 0 order by number",
            streamId,
            latest.number());
    return new StreamSummary(name, count, latest, strip, trend);
  }

  private RunSummary latest(String name) {
    return PgRunStore.select(dsl, projectId)
        .and(STREAM.NAME.eq(name))
        .orderBy(org.vinecellar.store.generated.Tables.RUN.NUMBER.desc())
        .limit(1)
        .fetchSingle(PgRunStore::summary);
  }

  private List<RunPoint> points(String query, long streamId, @Nullable Integer number) {
    Object[] bindings =
        number == null
            ? new Object[] {projectId, streamId}
            : new Object[] {projectId, streamId, number};
    return dsl.fetch(query, bindings).map(StreamQueries::point);
  }

  private static RunPoint point(Record row) {
    Instant started = row.get(1, OffsetDateTime.class).toInstant();
    return new RunPoint(
        row.get(0, Integer.class),
        started,
        row.get(2, Boolean.class),
        new Counts(
            row.get(3, Integer.class),
            row.get(4, Integer.class),
            row.get(5, Integer.class),
            row.get(6, Integer.class),
            row.get(7, Integer.class),
            row.get(8, Integer.class)),
        row.get(9, Integer.class));
  }
}
