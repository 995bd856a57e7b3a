package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE;
import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.RUN;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.Category;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.Scope;
import org.vinecellar.core.triage.decisions.TriageStore.Decided;
import org.vinecellar.core.triage.decisions.TriageStore.Verdict;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupDetail.Similar;
import org.vinecellar.store.ledger.GroupCounts;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.Categories;
import org.vinecellar.store.triage.rows.GroupNews;
import org.vinecellar.store.triage.rows.Regroupings;
import org.vinecellar.store.triage.tickets.GroupTickets;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Makes decisions, and takes them back. In a transaction. */
final class Decisions {
  /** Up to so many results are done at once; the rest is left to the work in the background. */
  private static final int AT_ONCE = 2_000;

  private final DSLContext dsl;
  private final int projectId;
  private final Hand hand;

  Decisions(DSLContext dsl, int projectId, Hand hand) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.hand = hand;
  }

  /** At one result: for it alone, or for its group from its run on. */
  Decided atResult(long runId, ResultId result, Verdict verdict) {
    Record run =
        dsl.select(RUN.STARTED_AT)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId), RUN.NUMBER.isNotNull())
            .fetchOne();
    Record failure =
        run == null || !Packed.isPlace(result)
            ? null
            : dsl.selectFrom(FAILURE)
                .where(FAILURE.RUN_ID.eq(runId), FAILURE.PLACE.eq(Packed.place(result)))
                .forUpdate()
                .fetchOne();
    if (run == null || failure == null) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "result “"
              + result
              + "” of that run is not among its failures; perhaps it passes now, or its run is"
              + " still being grouped: try again in a moment");
    }
    Category category = Categories.named(dsl, projectId, verdict.category());
    long group = failure.get(FAILURE.GROUP_ID);
    Long before = failure.get(FAILURE.DECISION_ID);
    boolean own = before != null && failure.get(FAILURE.ORIGIN) == DecisionOrigin.HAND.code();
    if (own && !isOfWhole(before)) {
      // Who decides again at the same result says it better now.
      undo(before);
    }
    Scope scope = verdict.single() ? Scope.RESULT : Scope.ONWARDS;
    List<Similar> similar = scope == Scope.RESULT ? List.of() : unexplainedSimilar(group);
    long id = insert(failure, run.get(RUN.STARTED_AT), category, verdict.comment(), scope);
    dsl.update(FAILURE)
        .set(FAILURE.DECISION_ID, id)
        .set(FAILURE.ORIGIN, DecisionOrigin.HAND.code())
        .where(FAILURE.RUN_ID.eq(runId), FAILURE.PLACE.eq(Packed.place(result)))
        .execute();
    Suggestions.note(dsl, projectId, similar, id, category.name());
    int carried = 0;
    if (scope != Scope.RESULT) {
      carried = Carrying.toGroupInRun(dsl, projectId, group, runId);
      later(group);
    }
    new GroupCounts(dsl, projectId).ofGroupInRun(group, runId);
    told(group);
    boolean disputed = scope != Scope.RESULT && new DeskQueries(dsl, projectId).isDisputed(group);
    return new Decided(id, group, carried, disputed);
  }

  private boolean isOfWhole(long decision) {
    return dsl.fetchExists(
        DECISION,
        DECISION.PROJECT_ID.eq(projectId),
        DECISION.ID.eq(decision),
        DECISION.SCOPE.eq(Scope.WHOLE.code()));
  }

  /** Of a group with all that it has. What was decided of the group before is replaced. */
  Decided ofGroup(long group, DeskStore.Verdict verdict) {
    Record held = held(group);
    Category category = Categories.named(dsl, projectId, verdict.category());
    if (verdict.untilClosed() && !GroupTickets.someOpen(dsl, projectId, group)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "no ticket of group " + group + " is open; link one first, or leave out untilClosed");
    }
    Decided decided = ofHeld(group, held, category, verdict.comment(), verdict.until(), null);
    dsl.update(DECISION)
        .set(DECISION.UNTIL_CLOSED, verdict.untilClosed())
        .where(DECISION.PROJECT_ID.eq(projectId), DECISION.ID.eq(decided.id()))
        .execute();
    return decided;
  }

  /** Of a group as another one was explained. */
  Decided asLike(long group, long decision, @Nullable Instant until) {
    Record held = held(group);
    Record like =
        dsl.select(DECISION.CATEGORY_ID, DECISION.COMMENT)
            .from(DECISION)
            .where(
                DECISION.PROJECT_ID.eq(projectId),
                DECISION.ID.eq(decision),
                DECISION.UNDONE_AT.isNull())
            .fetchOne();
    if (like == null) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "decision " + decision + " does not stand any more; choose a category yourself");
    }
    return ofHeld(
        group,
        held,
        Categories.withId(dsl, projectId, like.get(DECISION.CATEGORY_ID)),
        like.get(DECISION.COMMENT),
        until,
        decision);
  }

  private Decided ofHeld(
      long group,
      Record held,
      Category category,
      @Nullable String comment,
      @Nullable Instant until,
      @Nullable Long like) {
    Record failure =
        dsl.select(FAILURE.fields())
            .from(FAILURE)
            .join(RUN)
            .on(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(FAILURE.RUN_ID), RUN.NUMBER.isNotNull())
            .where(FAILURE.GROUP_ID.eq(group))
            .orderBy(FAILURE.RUN_ID.desc(), FAILURE.PLACE)
            .limit(1)
            .fetchOne();
    if (failure == null) {
      throw noGroup(group);
    }
    List<Similar> similar = unexplainedSimilar(group);
    dsl.update(DECISION)
        .set(DECISION.UNDONE_AT, Sql.utc(hand.now()))
        .set(DECISION.UNDONE_BY, hand.name())
        .where(standing(group), goesOn(hand.now()))
        .execute();
    OffsetDateTime since = Objects.requireNonNull(held.get(FAILURE_GROUP.LAST_AT));
    long id = insert(failure, since, category, comment, Scope.WHOLE);
    Suggestions.note(dsl, projectId, similar, id, category.name());
    dsl.update(DECISION)
        .set(
            DECISION.UP_TO_RUN_ID,
            DSL.select(DSL.max(RUN.ID)).from(RUN).where(RUN.PROJECT_ID.eq(projectId)))
        .set(DECISION.ENDS_AT, Sql.utcOrNull(until))
        .set(DECISION.ENDED_BY, until == null ? null : EndedBy.DATE.code())
        .set(DECISION.LIKE_ID, like)
        .where(DECISION.PROJECT_ID.eq(projectId), DECISION.ID.eq(id))
        .execute();
    dsl.execute(
        "update failure f set decision_id = ?, origin = ? where f.run_id = ? and f.place = ?"
            + " and (f.origin = 2 or not exists (select 1 from decision d where d.project_id = ?"
            + " and d.id = f.decision_id and d.undone_at is null))",
        id,
        DecisionOrigin.HAND.code(),
        failure.get(FAILURE.RUN_ID),
        failure.get(FAILURE.PLACE),
        projectId);
    carry(group, held.get(FAILURE_GROUP.RESULTS));
    return new Decided(id, group, held.get(FAILURE_GROUP.OPEN), false);
  }

  /**
   * After groups were joined: what explains the one that stays explains all; else what explains one
   * of the others. What was decided of the others is over.
   */
  void ofJoined(long into, Set<Long> others) {
    long stays = Regroupings.of(dsl, projectId).of(into);
    Record held = held(stays);
    boolean explained = dsl.fetchExists(DECISION, standing(stays), goesOn(hand.now()));
    Record like = null;
    for (long other : others) {
      Record said =
          dsl.selectFrom(DECISION)
              .where(standing(other), goesOn(hand.now()))
              .orderBy(DECISION.ID.desc())
              .limit(1)
              .fetchOne();
      like = like == null ? said : like;
      dsl.update(DECISION)
          .set(DECISION.UNDONE_AT, Sql.utc(hand.now()))
          .set(DECISION.UNDONE_BY, hand.name())
          .where(standing(other))
          .execute();
    }
    if (!explained && like != null) {
      Decided unused =
          ofHeld(
              stays,
              held,
              Categories.withId(dsl, projectId, like.get(DECISION.CATEGORY_ID)),
              like.get(DECISION.COMMENT),
              Sql.instantOrNull(like.get(DECISION.ENDS_AT)),
              like.get(DECISION.ID));
    } else {
      carry(stays, held.get(FAILURE_GROUP.RESULTS));
    }
  }

  /** What was decided of the group explains no run that began at that time or later. */
  void end(long group, Instant at) {
    Record held = held(group);
    int ended =
        dsl.update(DECISION)
            .set(DECISION.ENDS_AT, Sql.utc(at))
            .set(DECISION.ENDED_BY, EndedBy.MENDED.code())
            .where(standing(group), goesOn(at))
            .execute();
    if (ended == 0) {
      throw new CellarException(
          ProblemCode.NOT_EXPLAINED,
          "nothing that was decided of group "
              + group
              + " goes on; choose a category first, and say that it is mended after that");
    }
    carry(group, held.get(FAILURE_GROUP.RESULTS));
  }

  void assign(long group, @Nullable String to) {
    Record unused = held(group);
    dsl.update(FAILURE_GROUP)
        .set(FAILURE_GROUP.ASSIGNED_TO, to)
        .where(FAILURE_GROUP.PROJECT_ID.eq(projectId), FAILURE_GROUP.ID.eq(group))
        .execute();
    told(group);
  }

  /** Whether there was such a decision that stood. */
  boolean undo(long decision) {
    Record row =
        dsl.update(DECISION)
            .set(DECISION.UNDONE_AT, Sql.utc(hand.now()))
            .set(DECISION.UNDONE_BY, hand.name())
            .set(DECISION.RULE_BARRED, DECISION.RULE_ID.isNotNull())
            .where(
                DECISION.PROJECT_ID.eq(projectId),
                DECISION.ID.eq(decision),
                DECISION.UNDONE_AT.isNull())
            .returning(DECISION.GROUP_ID, DECISION.RUN_ID, DECISION.PLACE)
            .fetchOne();
    if (row == null) {
      return false;
    }
    long group = row.get(DECISION.GROUP_ID);
    // Where it was made; the result may be in another group by now.
    dsl.update(FAILURE)
        .setNull(FAILURE.DECISION_ID)
        .setNull(FAILURE.ORIGIN)
        .where(
            FAILURE.RUN_ID.eq(row.get(DECISION.RUN_ID)),
            FAILURE.PLACE.eq(row.get(DECISION.PLACE)),
            FAILURE.DECISION_ID.eq(decision))
        .execute();
    Integer results =
        dsl.select(FAILURE_GROUP.RESULTS)
            .from(FAILURE_GROUP)
            .where(FAILURE_GROUP.PROJECT_ID.eq(projectId), FAILURE_GROUP.ID.eq(group))
            .fetchOne(FAILURE_GROUP.RESULTS);
    carry(group, results == null ? Integer.MAX_VALUE : results);
    return true;
  }

  private long insert(
      Record failure,
      OffsetDateTime since,
      Category category,
      @Nullable String comment,
      Scope scope) {
    return dsl.insertInto(DECISION)
        .set(DECISION.PROJECT_ID, projectId)
        .set(DECISION.GROUP_ID, failure.get(FAILURE.GROUP_ID))
        .set(DECISION.RUN_ID, failure.get(FAILURE.RUN_ID))
        .set(DECISION.PLACE, failure.get(FAILURE.PLACE))
        .set(DECISION.TEST_ID, failure.get(FAILURE.TEST_ID))
        .set(DECISION.SINCE, since)
        .set(DECISION.SCOPE, scope.code())
        .set(DECISION.CATEGORY_ID, category.id())
        .set(DECISION.COMMENT, comment)
        .set(DECISION.MADE_AT, Sql.utc(hand.now()))
        .set(DECISION.MADE_BY, hand.name())
        .returning(DECISION.ID)
        .fetchSingle(DECISION.ID);
  }

  /** Groups like one that nobody explained; none of one that somebody did. */
  private List<Similar> unexplainedSimilar(long group) {
    return dsl.fetchExists(DECISION, standing(group))
        ? List.of()
        : new SimilarGroups(dsl, projectId, group).all();
  }

  private static Condition goesOn(Instant at) {
    return DECISION.ENDS_AT.isNull().or(DECISION.ENDS_AT.gt(Sql.utc(at)));
  }

  private Condition standing(long group) {
    return DSL.and(
        DECISION.PROJECT_ID.eq(projectId),
        DECISION.GROUP_ID.eq(group),
        DECISION.UNDONE_AT.isNull(),
        DECISION.SCOPE.in(Scope.ONWARDS.code(), Scope.WHOLE.code()));
  }

  /**
   * The group, of which nobody else decides until this ends. Its row is not locked: failures come
   * before groups for everybody who locks both.
   */
  private Record held(long group) {
    hold(dsl, projectId, List.of(group));
    Record row =
        dsl.select(FAILURE_GROUP.RESULTS, FAILURE_GROUP.OPEN, FAILURE_GROUP.LAST_AT)
            .from(FAILURE_GROUP)
            .where(FAILURE_GROUP.PROJECT_ID.eq(projectId), FAILURE_GROUP.ID.eq(group))
            .fetchOne();
    if (row == null) {
      throw noGroup(group);
    }
    long belongs = Regroupings.of(dsl, projectId).of(group);
    if (belongs != group) {
      throw new CellarException(
          ProblemCode.EDITED_MEANWHILE,
          "group "
              + group
              + " was joined to group "
              + belongs
              + " by somebody; look at that one, and decide there");
    }
    return row;
  }

  /** Nobody else decides of these groups until this ends. Before their failures are locked. */
  static void hold(DSLContext dsl, int projectId, Collection<Long> groups) {
    for (long group : new TreeSet<>(groups)) {
      dsl.execute("select pg_advisory_xact_lock(?::bigint << 32 | ?::bigint)", projectId, group);
    }
  }

  static CellarException noGroup(long group) {
    return new CellarException(
        ProblemCode.NOT_FOUND,
        "there is no failure group " + group + "; perhaps its runs were deleted");
  }

  /**
   * Of small groups at once, so that who asks next sees it. Of all once more after that: a run that
   * was being grouped meanwhile could not be seen.
   */
  private void carry(long group, int results) {
    if (results <= AT_ONCE) {
      Carrying.group(dsl, projectId, group, hand.now());
    }
    later(group);
    told(group);
  }

  private void later(long group) {
    WorkRows.ask(dsl, WorkKind.CARRY_GROUP, projectId, group, hand.now());
  }

  private void told(long group) {
    GroupNews.tell(dsl, projectId, group);
  }
}
