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
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.Habit;
import org.vinecellar.core.runs.RunPoint;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSummary;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.streams.StreamNames;

/**
 * Streams with their strips and trends, in two or three queries however many streams there are.
 * Runs stand in the order in which they happened.
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
    return summaries(StreamNames.is(projectId, name), true).stream().findFirst();
  }

  private List<StreamSummary> summaries(Condition which, boolean trends) {
    Map<String, List<RunPoint>> strips = points(which, newest());
    Map<String, List<RunPoint>> thinned = trends ? points(which, thinned()) : Map.of();
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
            row -> {
              String name = row.get(STREAM.NAME);
              summaries.add(summary(row, strips.getOrDefault(name, List.of()), thinned.get(name)));
            });
    return summaries;
  }

  private static StreamSummary summary(
      Record row, List<RunPoint> strip, @Nullable List<RunPoint> trend) {
    RunSummary latest = PgRunStore.summary(row);
    return new StreamSummary(
        latest.stream(),
        row.get(STREAM.RUNS),
        latest,
        strip,
        Habit.of(strip.stream().map(RunPoint::startedAt).toList()),
        trend);
  }

  /** The runs of strips: the last that happened, whenever they came. */
  private static Table<?> newest() {
    org.vinecellar.store.generated.tables.Run run = RUN.as("in_time");
    return DSL.select(run.NUMBER)
        .from(run)
        .where(
            run.PROJECT_ID.eq(STREAM.PROJECT_ID),
            run.STREAM_ID.eq(STREAM.ID),
            run.NUMBER.isNotNull())
        .orderBy(run.STARTED_AT.desc(), run.NUMBER.desc())
        .limit(STRIP)
        .asTable("wanted", "number");
  }

  /**
   * The runs of trends. Their numbers are known beforehand, so that each is looked up and no other
   * run is touched; where one was deleted, its point is missing.
   */
  private static Table<?> thinned() {
    Field<Integer> count = STREAM.NEXT_RUN_NUMBER.minus(1);
    Field<Integer> step =
        DSL.greatest(DSL.inline(1), STREAM.NEXT_RUN_NUMBER.plus(TREND - 2).div(DSL.inline(TREND)));
    return DSL.select(count.minus(DSL.field("n", Integer.class).mul(step)))
        .from(DSL.table("generate_series(0, {0}) as far(n)", DSL.inline(TREND)))
        .asTable("wanted", "number");
  }

  /**
   * By stream, the oldest first.
   *
   * @param wanted numbers of runs of a stream
   */
  private Map<String, List<RunPoint>> points(Condition which, Table<?> wanted) {
    return dsl
        .select(STREAM.NAME, RUN.NUMBER, RUN.STARTED_AT, RUN.IS_OPEN, RUN.NEW_FAILING)
        .select(CountColumns.OF_RUN.all())
        .from(STREAM)
        .crossJoin(DSL.lateral(wanted))
        .join(RUN)
        .on(
            RUN.PROJECT_ID.eq(STREAM.PROJECT_ID),
            RUN.STREAM_ID.eq(STREAM.ID),
            RUN.NUMBER.eq(DSL.field(DSL.name("wanted", "number"), Integer.class)))
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
