package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.TEST;

import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.RunSide;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.FindCursor;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.PossibleOutcomes;
import org.vinecellar.store.sql.Sql;

/**
 * Results over all runs. Runs that can have one are chosen by their rows, the newest first, and
 * looked into one by one, as a run's own list is: so the first page costs what its runs cost,
 * however many others there are.
 */
final class FindQueries {
  private static final int BATCH = 200;

  /** Looking for a page ends then with what was found; somebody waits for it. */
  private static final Duration PAGE = Duration.ofSeconds(3);

  private static final Duration COUNT = Duration.ofSeconds(5);

  private final DSLContext dsl;
  private final int projectId;

  FindQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  FoundPage page(FindQuery query) {
    RunSide side = RunSide.of(query.filter());
    ResultQueries results = new ResultQueries(dsl, projectId);
    long until = System.nanoTime() + PAGE.toNanos();
    List<FoundPage.Found> found = new ArrayList<>();
    FindCursor at = query.after().orElse(null);
    for (List<FoundPage.Of> runs = runs(side, at); !runs.isEmpty(); runs = runs(side, at)) {
      for (FoundPage.Of run : runs) {
        int room = query.limit() - found.size();
        Optional<ResultCursor> in =
            at != null && at.run() == run.id() ? Optional.ofNullable(at.in()) : Optional.empty();
        List<ResultRow> some = results.page(run.id(), new ResultQuery(side.rest(), null, in, room));
        some.forEach(row -> found.add(new FoundPage.Found(run, row)));
        ResultRow last = some.size() < room ? null : some.get(room - 1);
        at = new FindCursor(run.startedAt(), run.id(), last == null ? null : cursor(last));
        if (last != null || System.nanoTime() - until > 0) {
          return new FoundPage(found, at);
        }
      }
    }
    return new FoundPage(found, null);
  }

  private static ResultCursor cursor(ResultRow last) {
    return new ResultCursor(last.outcome().isFailing(), last.id());
  }

  FoundPage.Count count(Criterion filter) {
    RunSide side = RunSide.of(filter);
    Optional<Set<Outcome>> only = PossibleOutcomes.only(side.rest());
    if (only.isPresent()) {
      return new FoundPage.Count(sum(side, PossibleOutcomes.sum(RUN, only.get())), true);
    }
    if (side.rest().equals(Criterion.EVERYTHING)) {
      Field<Integer> all = PossibleOutcomes.sum(RUN, EnumSet.allOf(Outcome.class));
      return new FoundPage.Count(sum(side, all.plus(RUN.SET_UPS)), true);
    }
    return oneByOne(side);
  }

  private long sum(RunSide side, Field<Integer> counted) {
    Long sum =
        dsl.select(DSL.sum(counted).cast(Long.class))
            .from(RUN)
            .join(STREAM)
            .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
            .where(candidates(side, null))
            .fetchOne(0, Long.class);
    return sum == null ? 0 : sum;
  }

  private FoundPage.Count oneByOne(RunSide side) {
    long until = System.nanoTime() + COUNT.toNanos();
    long count = 0;
    FindCursor at = null;
    for (List<FoundPage.Of> runs = runs(side, at); !runs.isEmpty(); runs = runs(side, at)) {
      for (FoundPage.Of run : runs) {
        if (System.nanoTime() - until > 0) {
          return new FoundPage.Count(count, false);
        }
        count +=
            dsl.fetchCount(
                DSL.selectOne()
                    .from(RESULT)
                    .join(TEST)
                    .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(RESULT.TEST_ID))
                    .where(RESULT.RUN_ID.eq(run.id()), RESULT.SUPERSEDED.isFalse())
                    .and(PossibleOutcomes.of(side.rest()).condition(RESULT))
                    .and(Conditions.ofResults(projectId, run.id(), side.rest())));
        at = new FindCursor(run.startedAt(), run.id(), null);
      }
    }
    return new FoundPage.Count(count, true);
  }

  /** Runs that may have one, the newest first. */
  private List<FoundPage.Of> runs(RunSide side, @Nullable FindCursor after) {
    return dsl.select(RUN.ID, STREAM.NAME, RUN.NUMBER, RUN.STARTED_AT, RUN.COMMIT_ID, RUN.BRANCH)
        .from(RUN)
        .join(STREAM)
        .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
        .where(candidates(side, after))
        .orderBy(RUN.STARTED_AT.desc(), RUN.ID.desc())
        .limit(BATCH)
        .fetch(FindQueries::run);
  }

  private Condition candidates(RunSide side, @Nullable FindCursor after) {
    return DSL.and(
        RUN.PROJECT_ID.eq(projectId),
        RUN.NUMBER.isNotNull(),
        STREAM.DELETED_AT.isNull(),
        PossibleOutcomes.of(side.rest()).condition(RUN),
        Conditions.ofRuns(projectId, side.runs()),
        after == null ? DSL.noCondition() : beyond(after));
  }

  /** The run that a page ended in the middle of is looked into once more. */
  private static Condition beyond(FindCursor after) {
    Condition older = DSL.row(RUN.STARTED_AT, RUN.ID).lt(Sql.utc(after.started()), after.run());
    return after.in() == null ? older : older.or(RUN.ID.eq(after.run()));
  }

  private static FoundPage.Of run(Record row) {
    return new FoundPage.Of(
        row.get(RUN.ID),
        row.get(STREAM.NAME),
        row.get(RUN.NUMBER),
        row.get(RUN.STARTED_AT).toInstant(),
        row.get(RUN.COMMIT_ID),
        row.get(RUN.BRANCH));
  }
}
