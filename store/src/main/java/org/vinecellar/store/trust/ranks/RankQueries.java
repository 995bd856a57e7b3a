package org.vinecellar.store.trust.ranks;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.SUCCESSION;
import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_BELIEF;
import static org.vinecellar.store.generated.Tables.TEST_FIGURES;
import static org.vinecellar.store.generated.Tables.TEST_IN_STREAM;

import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.Record;
import org.jooq.SortField;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.ranks.Rank;
import org.vinecellar.core.trust.ranks.RankStore.Question;
import org.vinecellar.core.trust.ranks.RankStore.Ranked;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.generated.tables.TestInStream;
import org.vinecellar.store.quarantine.Reach;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;

/** Tests by their figures. */
public final class RankQueries {
  /** What a single run had not is missing by accident. */
  private static final int MISSING = 3;

  private static final Field<?> COST =
      TEST_FIGURES.MILLIS.minus(TEST_FIGURES.BEFORE_MILLIS).times(TEST_FIGURES.WEEKLY);

  private static final TestInStream HERE = TEST_IN_STREAM.as("here");

  /**
   * Whether it has another name in some stream, and that name is run here: a stream of reviews does
   * not see by itself that a test was renamed.
   */
  private static final Condition GOES_ON =
      DSL.exists(
          DSL.selectOne()
              .from(SUCCESSION)
              .where(
                  SUCCESSION.PROJECT_ID.eq(TEST_FIGURES.PROJECT_ID),
                  SUCCESSION.OLD_TEST_ID.eq(TEST_FIGURES.TEST_ID),
                  SUCCESSION.STATE.in((short) 1, (short) 3),
                  // Asked for each: a database without statistics would go through them all.
                  DSL.field(
                          DSL.select(DSL.count())
                              .from(HERE)
                              .where(
                                  HERE.PROJECT_ID.eq(SUCCESSION.PROJECT_ID),
                                  HERE.STREAM_ID.eq(TEST_FIGURES.STREAM_ID),
                                  HERE.TEST_ID.eq(SUCCESSION.NEW_TEST_ID)))
                      .gt(0)));

  private final DSLContext dsl;
  private final int projectId;

  /** On a connection. */
  public RankQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<Ranked> ranked(Question question) {
    return some(
        question,
        which(question.by()),
        switch (question.by()) {
          case FAILING -> List.of(TEST_FIGURES.FAILED.desc());
          case COSTLY ->
              List.of(
                  TEST_FIGURES.ALONE.desc(),
                  TEST_FIGURES.RETRIED_MILLIS.desc(),
                  TEST_FIGURES.FAILED.desc());
          case SLOWING -> List.of(COST.desc().nullsLast());
          case SLOWEST -> List.of(TEST_FIGURES.MILLIS.desc().nullsLast());
          case STEADY -> List.of(TEST_FIGURES.MILLIS.times(TEST_FIGURES.WEEKLY).desc().nullsLast());
          case MISSING -> List.of(TEST_FIGURES.LAST_RUN_ID.desc());
          case NEWEST -> List.of(TEST_IN_STREAM.FIRST_RUN_ID.desc().nullsLast());
        });
  }

  private static Condition which(Rank by) {
    return switch (by) {
      case FAILING -> TEST_FIGURES.FAILED.gt(0);
      case COSTLY ->
          DSL.exists(
              DSL.selectOne()
                  .from(TEST_BELIEF)
                  .where(
                      TEST_BELIEF.PROJECT_ID.eq(TEST_FIGURES.PROJECT_ID),
                      TEST_BELIEF.STREAM_ID.eq(TEST_FIGURES.STREAM_ID),
                      TEST_BELIEF.TEST_ID.eq(TEST_FIGURES.TEST_ID),
                      TEST_BELIEF.VERDICT.eq((short) Verdict.FLAKY.code())));
      case SLOWING -> TEST_FIGURES.SLOWER_RUN_ID.isNotNull().and(TEST_FIGURES.MISSING.lt(MISSING));
      case SLOWEST -> TEST_FIGURES.MILLIS.isNotNull().and(TEST_FIGURES.MISSING.lt(MISSING));
      case STEADY -> TEST_FIGURES.FAILED.eq(0);
      case MISSING -> TEST_FIGURES.MISSING.ge(MISSING).and(GOES_ON.not());
      case NEWEST -> DSL.noCondition();
    };
  }

  /** Those that were seen to have become slower since then, the dearest first. */
  public List<Ranked> slowerSince(Instant since, LocalDate today, int limit) {
    return some(
        everything(Rank.SLOWING, today, limit),
        which(Rank.SLOWING).and(TEST_FIGURES.SLOWER_AT.gt(Sql.utc(since))),
        List.of(COST.desc().nullsLast()));
  }

  /** Those that were seen to have vanished since then. */
  public List<Ranked> goneSince(Instant since, LocalDate today, int limit) {
    return some(
        everything(Rank.MISSING, today, limit),
        which(Rank.MISSING).and(TEST_FIGURES.GONE_AT.gt(Sql.utc(since))),
        List.of(TEST_FIGURES.LAST_RUN_ID.desc()));
  }

  private static Question everything(Rank by, LocalDate today, int limit) {
    return new Question(by, null, Criterion.EVERYTHING, today, 0, limit);
  }

  private List<Ranked> some(Question asked, Condition which, List<? extends SortField<?>> first) {
    List<OrderField<?>> order = new ArrayList<>(first);
    order.add(TEST_FIGURES.TEST_ID);
    order.add(TEST_FIGURES.STREAM_ID);
    List<Record> rows =
        List.copyOf(
            dsl.select(KeptTests.FIELDS)
                .select(TEST_FIGURES.asterisk())
                .select(STREAM.NAME, TEST_IN_STREAM.FIRST_RUN_ID)
                .from(TEST_FIGURES)
                .join(STREAM)
                .on(
                    STREAM.PROJECT_ID.eq(TEST_FIGURES.PROJECT_ID),
                    STREAM.ID.eq(TEST_FIGURES.STREAM_ID))
                .join(TEST)
                .on(TEST.PROJECT_ID.eq(TEST_FIGURES.PROJECT_ID), TEST.ID.eq(TEST_FIGURES.TEST_ID))
                .leftJoin(TEST_IN_STREAM)
                .on(
                    TEST_IN_STREAM.PROJECT_ID.eq(TEST_FIGURES.PROJECT_ID),
                    TEST_IN_STREAM.STREAM_ID.eq(TEST_FIGURES.STREAM_ID),
                    TEST_IN_STREAM.TEST_ID.eq(TEST_FIGURES.TEST_ID))
                .where(
                    TEST_FIGURES.PROJECT_ID.eq(projectId),
                    STREAM.DELETED_AT.isNull(),
                    of(asked.streams()),
                    Conditions.ofTests(projectId, asked.filter()),
                    which)
                .orderBy(order)
                .limit(asked.limit())
                .offset(asked.after())
                .fetch());
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    Set<Long> ids = new HashSet<>();
    Set<Long> runs = new HashSet<>();
    for (Record row : rows) {
      ids.add(row.get(TEST.ID));
      runs.add(row.get(TEST_FIGURES.LAST_RUN_ID));
      add(runs, row.get(TEST_FIGURES.SLOWER_RUN_ID));
      add(runs, row.get(TEST_IN_STREAM.FIRST_RUN_ID));
    }
    Map<Long, Run> known = runs(runs);
    List<Reach.Held> held = Reach.held(dsl, projectId, ids, asked.today());
    // A run that was taken away since it was counted is told of no more; it is counted again soon.
    return rows.stream()
        .filter(row -> known.containsKey(row.get(TEST_FIGURES.LAST_RUN_ID)))
        .map(row -> ranked(row, tests, known, held))
        .toList();
  }

  private static Condition of(@Nullable List<String> streams) {
    return streams == null
        ? DSL.noCondition()
        : STREAM.NAME.eq(DSL.any(streams.toArray(String[]::new)));
  }

  private static void add(Set<Long> all, @Nullable Long one) {
    if (one != null) {
      all.add(one);
    }
  }

  private record Run(int number, Instant started) {}

  private Map<Long, Run> runs(Set<Long> ids) {
    Map<Long, Run> runs = new HashMap<>();
    dsl.select(RUN.ID, RUN.NUMBER, RUN.STARTED_AT)
        .from(RUN)
        .where(
            RUN.PROJECT_ID.eq(projectId),
            RUN.NUMBER.isNotNull(),
            DSL.condition("{0} = any({1})", RUN.ID, Ids.of(ids)))
        .forEach(
            row -> {
              OffsetDateTime started = row.value3();
              runs.put(row.value1(), new Run(row.value2(), started.toInstant()));
            });
    return runs;
  }

  private static Ranked ranked(
      Record row, KeptTests tests, Map<Long, Run> runs, List<Reach.Held> held) {
    Run last = Objects.requireNonNull(runs.get(row.get(TEST_FIGURES.LAST_RUN_ID)));
    return new Ranked(
        tests.of(row),
        row.get(STREAM.NAME),
        row.get(TEST_FIGURES.RAN),
        row.get(TEST_FIGURES.FAILED),
        row.get(TEST_FIGURES.ALONE),
        row.get(TEST_FIGURES.RETRIED_MILLIS),
        row.get(TEST_FIGURES.WEEKLY),
        wide(row.get(TEST_FIGURES.MILLIS)),
        wide(row.get(TEST_FIGURES.BEFORE_MILLIS)),
        number(runs.get(row.get(TEST_FIGURES.SLOWER_RUN_ID))),
        last.number,
        last.started,
        row.get(TEST_FIGURES.MISSING),
        number(runs.get(row.get(TEST_IN_STREAM.FIRST_RUN_ID))),
        Reach.until(held, row.get(TEST.ID), row.get(TEST_FIGURES.STREAM_ID)));
  }

  private static @Nullable Integer number(@Nullable Run run) {
    return run == null ? null : (Integer) run.number;
  }

  private static @Nullable Double wide(@Nullable Float number) {
    return number == null ? null : (Double) (double) number;
  }
}
