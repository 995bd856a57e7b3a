package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Which run of a stream comes before another: by when they happened, whenever they arrived. A run
 * is compared with the latest before it on its own branch; where that has none, with the latest of
 * the main branch.
 */
public final class RunOrder {
  /** What a main branch is called where nobody says otherwise. */
  private static final List<String> MAIN = List.of("main", "master", "trunk");

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;

  /** In a stream. */
  public RunOrder(DSLContext dsl, int projectId, long streamId) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
  }

  /**
   * A run's place among the others.
   *
   * @param number by which runs are told apart that began at once
   * @param branch null when not told
   */
  public record Place(long id, int number, Instant started, @Nullable String branch) {}

  /** The run that another one is compared with; null when it is the first. */
  public @Nullable Long before(Place run) {
    Long own = latest(run, run.branch == null ? RUN.BRANCH.isNull() : RUN.BRANCH.eq(run.branch));
    return own != null ? own : latest(run, ofMain());
  }

  private Condition ofMain() {
    String told =
        dsl.select(STREAM.MAIN_BRANCH)
            .from(STREAM)
            .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(streamId))
            .fetchOne(STREAM.MAIN_BRANCH);
    return told == null ? RUN.BRANCH.in(MAIN) : RUN.BRANCH.eq(told);
  }

  /**
   * What a sender tells of the main branch holds until somebody sets it.
   *
   * @param name null when nothing is told
   */
  public void mainBranchTold(@Nullable String name, Instant now) {
    if (name == null) {
      return;
    }
    int changed =
        dsl.update(STREAM)
            .set(STREAM.MAIN_BRANCH, name)
            .where(
                STREAM.PROJECT_ID.eq(projectId),
                STREAM.ID.eq(streamId),
                STREAM.MAIN_BRANCH.isNull())
            .execute();
    if (changed > 0 && !MAIN.contains(name)) {
      mainBranchChanged(now);
    }
  }

  /**
   * Leaves the work to look anew what those runs are compared with that follow none of their own
   * branch.
   */
  public void mainBranchChanged(Instant now) {
    org.vinecellar.store.generated.tables.Run before = RUN.as("before");
    dsl.select(RUN.ID)
        .from(RUN)
        .leftJoin(before)
        .on(before.PROJECT_ID.eq(RUN.PROJECT_ID), before.ID.eq(RUN.PREVIOUS_ID))
        .where(
            RUN.PROJECT_ID.eq(projectId),
            RUN.STREAM_ID.eq(streamId),
            RUN.NUMBER.isNotNull(),
            RUN.PREVIOUS_ID.isNull().or(before.BRANCH.isDistinctFrom(RUN.BRANCH)))
        .fetch(RUN.ID)
        .forEach(run -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, run, now));
    WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, streamId, now);
  }

  private @Nullable Long latest(Place run, Condition ofBranch) {
    OffsetDateTime started = Sql.utc(run.started);
    return dsl.select(RUN.ID)
        .from(RUN)
        .where(
            RUN.PROJECT_ID.eq(projectId),
            RUN.STREAM_ID.eq(streamId),
            RUN.NUMBER.isNotNull(),
            ofBranch,
            DSL.row(RUN.STARTED_AT, RUN.NUMBER).lt(started, run.number),
            RUN.ID.ne(run.id))
        .orderBy(RUN.STARTED_AT.desc(), RUN.NUMBER.desc())
        .limit(1)
        .fetchOne(RUN.ID);
  }

  /**
   * Leaves the work to look anew what runs after this one are compared with: those that followed
   * the same as it does, and the next of its branch.
   *
   * @param before which it follows; null when it is the first
   */
  public void around(Place run, @Nullable Long before, Instant now) {
    OffsetDateTime started = Sql.utc(run.started);
    Condition ofStream =
        RUN.PROJECT_ID
            .eq(projectId)
            .and(RUN.STREAM_ID.eq(streamId))
            .and(RUN.NUMBER.isNotNull())
            .and(RUN.ID.ne(run.id));
    Set<Long> after = new HashSet<>();
    after.addAll(
        dsl.select(RUN.ID)
            .from(RUN)
            .where(
                ofStream,
                before == null ? RUN.PREVIOUS_ID.isNull() : RUN.PREVIOUS_ID.eq(before),
                RUN.STARTED_AT.ge(started))
            .fetch(RUN.ID));
    after.addAll(
        dsl.select(RUN.ID)
            .from(RUN)
            .where(
                ofStream,
                ofBranch(run),
                DSL.row(RUN.STARTED_AT, RUN.NUMBER).gt(started, run.number))
            .orderBy(RUN.STARTED_AT, RUN.NUMBER)
            .limit(1)
            .fetch(RUN.ID));
    after.forEach(next -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, next, now));
  }

  private static Condition ofBranch(Place run) {
    return run.branch == null ? RUN.BRANCH.isNull() : RUN.BRANCH.eq(run.branch);
  }
}
