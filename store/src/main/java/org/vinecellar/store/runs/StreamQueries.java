package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSummary;
import org.vinecellar.store.ingest.RunRows;

/**
 * Streams with their strips and trends, in two queries however many streams there are. The runs of
 * a stream are numbered from 1 without gaps, so the next number tells the latest and how many.
 */
final class StreamQueries {
  private static final int STRIP = 30;
  private static final int TREND = 120;

  private final DSLContext dsl;
  private final int projectId;

  StreamQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<StreamSummary> all() {
    return summaries(DSL.noCondition());
  }

  Optional<StreamSummary> named(String name) {
    return summaries(STREAM.NAME.eq(name)).stream().findFirst();
  }

  private List<StreamSummary> summaries(Condition which) {
    Map<String, List<RunPoint>> points = points(which);
    List<StreamSummary> summaries = new ArrayList<>();
    PgRunStore.select(dsl, projectId)
        .and(RUN.NUMBER.eq(STREAM.NEXT_RUN_NUMBER.minus(1)))
        .and(which)
        .orderBy(STREAM.NAME)
        .fetch()
        .forEach(
            row ->
                summaries.add(summary(row, points.getOrDefault(row.get(STREAM.NAME), List.of()))));
    return summaries;
  }

  private static StreamSummary summary(Record row, List<RunPoint> points) {
    RunSummary latest = PgRunStore.summary(row);
    int count = latest.number();
    return new StreamSummary(
        latest.stream(),
        count,
        latest,
        points.stream().filter(point -> point.number() > count - STRIP).toList(),
        points.stream().filter(point -> (count - point.number()) % step(count) == 0).toList());
  }

  private static int step(int count) {
    return Math.max(1, (count + TREND - 1) / TREND);
  }

  /** The points of strips and of trends, by stream, the oldest first. */
  private Map<String, List<RunPoint>> points(Condition which) {
    Field<Integer> age = STREAM.NEXT_RUN_NUMBER.minus(1).minus(RUN.NUMBER);
    Field<Integer> step =
        DSL.greatest(DSL.inline(1), STREAM.NEXT_RUN_NUMBER.plus(TREND - 2).div(DSL.inline(TREND)));
    return dsl
        .select(RUN.asterisk(), STREAM.NAME)
        .from(STREAM)
        .join(RUN)
        .on(RUN.PROJECT_ID.eq(STREAM.PROJECT_ID), RUN.STREAM_ID.eq(STREAM.ID))
        .where(STREAM.PROJECT_ID.eq(projectId), RUN.NUMBER.isNotNull())
        .and(which)
        .and(age.lt(STRIP).or(age.mod(step).eq(0)))
        .orderBy(RUN.NUMBER)
        .fetch()
        .stream()
        .collect(
            Collectors.groupingBy(
                row -> row.get(STREAM.NAME),
                Collectors.mapping(StreamQueries::point, Collectors.toList())));
  }

  private static RunPoint point(Record row) {
    return new RunPoint(
        row.get(RUN.NUMBER),
        row.get(RUN.STARTED_AT).toInstant(),
        row.get(RUN.IS_OPEN),
        RunRows.counts(row),
        row.get(RUN.NEW_FAILING));
  }
}
