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
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.vinecellar.core.runs.Habit;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSummary;
import org.vinecellar.store.ledger.CountColumns;

/**
 * Streams with their strips and trends, in two queries however many streams there are. The runs of
 * a stream are numbered from 1; where one was deleted, its point is missing. They stand in the
 * order in which they happened.
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

  /** Without their trends. */
  List<StreamSummary> all() {
    return summaries(DSL.noCondition(), false);
  }

  Optional<StreamSummary> named(String name) {
    return summaries(STREAM.NAME.eq(name), true).stream().findFirst();
  }

  private List<StreamSummary> summaries(Condition which, boolean trends) {
    Map<String, List<RunPoint>> points = points(which, trends);
    List<StreamSummary> summaries = new ArrayList<>();
    org.vinecellar.store.generated.tables.Run newest = RUN.as("newest");
    PgRunStore.select(dsl, projectId)
        .and(
            RUN.NUMBER.eq(
                DSL.field(
                    DSL.select(newest.NUMBER)
                        .from(newest)
                        .where(
                            newest.PROJECT_ID.eq(STREAM.PROJECT_ID),
                            newest.STREAM_ID.eq(STREAM.ID),
                            newest.NUMBER.isNotNull())
                        .orderBy(newest.STARTED_AT.desc(), newest.NUMBER.desc())
                        .limit(1))))
        .and(STREAM.DELETED_AT.isNull())
        .and(which)
        .orderBy(STREAM.NAME)
        .fetch()
        .forEach(
            row ->
                summaries.add(
                    summary(row, points.getOrDefault(row.get(STREAM.NAME), List.of()), trends)));
    return summaries;
  }

  private static StreamSummary summary(Record row, List<RunPoint> points, boolean trend) {
    RunSummary latest = PgRunStore.summary(row);
    int last = row.get(STREAM.NEXT_RUN_NUMBER) - 1;
    List<RunPoint> strip = points.stream().filter(point -> point.number() > last - STRIP).toList();
    return new StreamSummary(
        latest.stream(),
        row.get(STREAM.RUNS),
        latest,
        strip,
        Habit.of(strip.stream().map(RunPoint::startedAt).toList()),
        trend
            ? points.stream().filter(point -> (last - point.number()) % step(last) == 0).toList()
            : null);
  }

  private static int step(int count) {
    return Math.max(1, (count + TREND - 1) / TREND);
  }

  /**
   * The points of strips and of trends, by stream, the oldest first. Their numbers are known
   * beforehand, so that each is looked up and no other run is touched.
   */
  private Map<String, List<RunPoint>> points(Condition which, boolean trends) {
    Field<Integer> count = STREAM.NEXT_RUN_NUMBER.minus(1);
    Field<Integer> step =
        DSL.greatest(DSL.inline(1), STREAM.NEXT_RUN_NUMBER.plus(TREND - 2).div(DSL.inline(TREND)));
    var recent =
        DSL.select(DSL.field("age", Integer.class))
            .from(DSL.table("generate_series(0, {0}) as recent(age)", DSL.inline(STRIP - 1)));
    var far =
        DSL.select(DSL.field("n", Integer.class).mul(step))
            .from(DSL.table("generate_series(0, {0}) as far(n)", DSL.inline(TREND)));
    Table<?> ages = (trends ? recent.union(far) : recent).asTable("ages", "age");
    Field<Integer> age = DSL.field(DSL.name("ages", "age"), Integer.class);
    return dsl
        .select(STREAM.NAME, RUN.NUMBER, RUN.STARTED_AT, RUN.IS_OPEN, RUN.NEW_FAILING)
        .select(CountColumns.OF_RUN.all())
        .from(STREAM)
        .crossJoin(DSL.lateral(ages))
        .join(RUN)
        .on(
            RUN.PROJECT_ID.eq(STREAM.PROJECT_ID),
            RUN.STREAM_ID.eq(STREAM.ID),
            RUN.NUMBER.eq(count.minus(age)))
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.DELETED_AT.isNull())
        .and(which)
        .orderBy(RUN.STARTED_AT, RUN.NUMBER)
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
        CountColumns.OF_RUN.of(row),
        row.get(RUN.NEW_FAILING));
  }
}
