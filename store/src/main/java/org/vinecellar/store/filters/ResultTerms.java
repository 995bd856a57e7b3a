package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.ATTEMPT;
import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.EARLIER_NAME;
import static org.vinecellar.store.generated.Tables.FAILURE;
import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RESULT_NOTE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_CHANGE;
import static org.vinecellar.store.generated.Tables.TEST_BELIEF;

import java.time.OffsetDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Name;
import org.jooq.Param;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.store.generated.tables.Attempt;
import org.vinecellar.store.generated.tables.Decision;
import org.vinecellar.store.generated.tables.EarlierName;
import org.vinecellar.store.generated.tables.Failure;
import org.vinecellar.store.generated.tables.FailureGroup;
import org.vinecellar.store.generated.tables.Overruling;
import org.vinecellar.store.generated.tables.Part;
import org.vinecellar.store.generated.tables.Result;
import org.vinecellar.store.generated.tables.ResultNote;
import org.vinecellar.store.generated.tables.Run;
import org.vinecellar.store.generated.tables.RunChange;
import org.vinecellar.store.generated.tables.Test;
import org.vinecellar.store.generated.tables.TestBelief;
import org.vinecellar.store.quarantine.Reach;

/** A result that stands, beside its test. */
final class ResultTerms extends Terms {
  private final Result result;
  private final Test test;
  private final TestTerms ofTest;
  private final Field<Long> runId;

  /**
   * @param test joined to the result
   * @param runId of the result; a value where it is known, so that what is asked of the run alone
   *     is asked once
   */
  ResultTerms(int projectId, int depth, Result result, Test test, Field<Long> runId) {
    super(projectId, depth);
    this.result = result;
    this.test = test;
    this.ofTest = new TestTerms(projectId, depth, test);
    this.runId = runId;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case RESULT_OUTCOME -> isTest().and(match.isPresent() ? DSL.trueCondition() : outcome(match));
      case RESULT_CHANGE -> change(match);
      case RESULT_TEXT -> ofTest.text(match).or(match.text(result.FIRST_LINE));
      case RESULT_NAME -> match.text(test.NAME);
      case RESULT_PARAMETERS -> match.text(test.PARAMETERS);
      case RESULT_VARIANT -> ofTest.variant(key, match);
      case RESULT_SUITE -> ofTest.suite(match);
      case RESULT_FIRST_LINE -> match.text(result.FIRST_LINE);
      case RESULT_FILE ->
          ofTest.file(result.FACTS, match).or(noted(note -> match.text(note.SOURCE_FILE)));
      case RESULT_TAG -> tag(match);
      case RESULT_STEP -> tries((attempt, of) -> AttemptTerms.step(attempt, depth + 1, match));
      case RESULT_PART -> part(match);
      case RESULT_DURATION -> match.micros(result.DURATION_US);
      case RESULT_STARTED -> match.time(started());
      case RESULT_ATTEMPTS -> match.number(result.ATTEMPTS);
      case RESULT_SET_UP -> match.flag(isTest().not());
      case RESULT_REPEATED -> match.flag(repeated());
      case RESULT_OVERRULED -> match.flag(overruled(of -> DSL.trueCondition()));
      case RESULT_OVERRULED_BY -> overruled(of -> match.name(of.MADE_BY));
      case RESULT_OVERRULED_AT -> overruled(of -> match.time(of.MADE_AT));
      case RESULT_QUARANTINED -> match.flag(Reach.holds(projectId, result.TEST_ID, runId));
      case RESULT_GROUP -> failing(failure -> match.number(failure.GROUP_ID));
      case RESULT_CATEGORY -> category(match);
      case RESULT_REPORTED -> reported(match);
      case RESULT_TEST_ID -> match.number(result.TEST_ID);
      case RESULT_NOW_TEST_ID -> nowTest(match);
      case RESULT_LABEL -> RunTerms.label(projectId, depth, runId, key, match);
      default -> throw notHere(attribute);
    };
  }

  private Condition isTest() {
    return result.KIND.eq(DSL.inline(ResultKind.TEST.code()));
  }

  /** Whose test goes on as one of those; where it is asked for one, by the index of tests. */
  private Condition nowTest(Match match) {
    EarlierName name = EARLIER_NAME.as(below("name"));
    Run run = RUN.as(below("in"));
    Field<Long> now =
        DSL.coalesce(
            DSL.field(
                DSL.select(name.NOW_TEST_ID)
                    .from(run)
                    .join(name)
                    .on(name.PROJECT_ID.eq(projectId), name.STREAM_ID.eq(run.STREAM_ID))
                    .where(run.PROJECT_ID.eq(projectId), run.ID.eq(runId))
                    .and(name.TEST_ID.eq(result.TEST_ID))),
            result.TEST_ID);
    return match.isEqual()
        ? among(match).and(DSL.not(isRenamed(match)).or(match.number(now)))
        : match.number(now);
  }

  /** Whether a test of such a number was renamed in any stream; asked once. */
  private Condition isRenamed(Match match) {
    EarlierName name = EARLIER_NAME.as(below("renamed"));
    return DSL.exists(
        DSL.selectOne()
            .from(name)
            .where(
                name.PROJECT_ID.eq(projectId),
                match.number(name.TEST_ID).or(match.number(name.NOW_TEST_ID))));
  }

  /** Has such a number, or one that goes on as it in some stream. */
  private Condition among(Match match) {
    EarlierName name = EARLIER_NAME.as(below("any"));
    return match
        .number(result.TEST_ID)
        .or(
            DSL.condition(
                "{0} = any(array({1}))",
                result.TEST_ID,
                DSL.select(name.TEST_ID)
                    .from(name)
                    .where(name.PROJECT_ID.eq(projectId), match.number(name.NOW_TEST_ID))));
  }

  private Condition outcome(Match match) {
    return result.OUTCOME.eq(DSL.inline(outcomeOf(match)));
  }

  private static int outcomeOf(Match match) {
    return Outcome.ofWord(match.words()).orElseThrow().code();
  }

  /** What is told of a test is not told of a result of it that ended otherwise. */
  private Condition change(Match match) {
    Condition failing = isFailing(result);
    List<Change> wanted =
        Arrays.stream(Change.values())
            .filter(one -> match.isPresent() || one.word().equals(match.words()))
            .toList();
    return DSL.or(
        failing.and(changed(wanted.stream().filter(Change::isFailing).toList())),
        failing.not().and(changed(wanted.stream().filter(one -> !one.isFailing()).toList())));
  }

  private Condition changed(List<Change> wanted) {
    RunChange change = RUN_CHANGE.as(below("change"));
    return wanted.isEmpty()
        ? DSL.falseCondition()
        : result.TEST_ID.in(
            DSL.select(change.TEST_ID)
                .from(change)
                .where(
                    change.RUN_ID.eq(runId),
                    change.CHANGE.in(wanted.stream().map(Change::code).toList())));
  }

  /** By the index of what a test did in a run. */
  private Condition repeated() {
    Result other = RESULT.as(below("other"));
    return DSL.exists(
        DSL.selectOne()
            .from(other)
            .where(
                other.RUN_ID.eq(runId),
                other.TEST_ID.eq(result.TEST_ID),
                other.SUPERSEDED.isFalse(),
                other.PLACE.lt(result.PLACE),
                DSL.field(isFailing(other)).eq(DSL.field(isFailing(result)))));
  }

  private static Condition isFailing(Result of) {
    return of.OUTCOME.in(Outcome.FAILED.code(), Outcome.ERRORED.code());
  }

  /** What its overruling, if there is one, holds. */
  private Condition overruled(Function<Overruling, Condition> what) {
    Overruling overruling = OVERRULING.as(below("overruling"));
    return result.PLACE.in(
        DSL.select(overruling.PLACE)
            .from(overruling)
            .where(overruling.RUN_ID.eq(runId), what.apply(overruling)));
  }

  /** What its failure, if it is grouped, holds. */
  private Condition failing(Function<Failure, Condition> what) {
    Failure failure = FAILURE.as(below("failure"));
    return result.PLACE.in(
        DSL.select(failure.PLACE)
            .from(failure)
            .where(failure.RUN_ID.eq(runId), what.apply(failure)));
  }

  private Condition category(Match match) {
    return decided(
        decision ->
            new DecisionTerms(projectId, depth + 1, decision)
                .holds(Attribute.DECISION_CATEGORY, null, match));
  }

  /** What explains its failure, if something does, holds. */
  private Condition decided(Function<Decision, Condition> what) {
    Decision decision = DECISION.as(below("decision"));
    return failing(
        failure ->
            failure.DECISION_ID.in(
                DSL.select(decision.ID)
                    .from(decision)
                    .where(decision.PROJECT_ID.eq(projectId), what.apply(decision))));
  }

  /** Of what nobody has overruled, its outcome is the reported one. */
  private Condition reported(Match match) {
    if (match.isPresent()) {
      return isTest();
    }
    int code = outcomeOf(match);
    return isTest()
        .and(
            overruled(one -> one.REPORTED.eq(code))
                .or(outcome(match).and(overruled(one -> DSL.trueCondition()).not())));
  }

  private Condition tag(Match match) {
    Table<?> tags =
        DSL.table("jsonb_array_elements_text({0})", RESULT_NOTE.as(below("note")).TAGS)
            .as(below("word"), "tag");
    Field<String> tag = DSL.field(DSL.name(below("word"), "tag"), String.class);
    return ofTest
        .tag(result.FACTS, match)
        .or(noted(note -> DSL.exists(DSL.selectOne().from(tags).where(match.name(tag)))));
  }

  /** What stands with the result when its test has too many versions of facts. */
  private Condition noted(Function<ResultNote, Condition> what) {
    ResultNote note = RESULT_NOTE.as(below("note"));
    return result
        .FACTS
        .eq(DSL.inline(0))
        .and(
            DSL.exists(
                DSL.selectOne()
                    .from(note)
                    .where(note.RUN_ID.eq(runId), note.PLACE.eq(result.PLACE), what.apply(note))));
  }

  private Condition part(Match match) {
    Part part = PART.as(below("part"));
    return result.PART_NO.in(
        DSL.select(part.PART_NO)
            .from(part)
            .where(part.PROJECT_ID.eq(projectId), part.RUN_ID.eq(runId), match.name(part.NAME)));
  }

  /** Milliseconds after its part's base; what is beyond 2^30 of them either way in seconds. */
  private Field<OffsetDateTime> started() {
    Part part = PART.as(below("part"));
    Field<OffsetDateTime> base =
        DSL.field(
            DSL.select(part.BASE_AT)
                .from(part)
                .where(
                    part.PROJECT_ID.eq(projectId),
                    part.RUN_ID.eq(runId),
                    part.PART_NO.eq(result.PART_NO)));
    return DSL.field(
        "({0} + case when abs({1}::bigint) < 1073741824 then {1} * interval '1 millisecond'"
            + " else ({1} - sign({1}) * 1073741824) * interval '1 second' end)",
        OffsetDateTime.class, base, result.STARTED);
  }

  /** One of its attempts: its own part's, or one that it took the place of. */
  private Condition tries(BiFunction<Attempt, Result, Condition> what) {
    Attempt attempt = ATTEMPT.as(below("attempt"));
    Result of = RESULT.as(below("try"));
    return DSL.exists(
        DSL.selectOne()
            .from(of)
            .leftJoin(attempt)
            .on(attempt.RUN_ID.eq(of.RUN_ID), attempt.PLACE.eq(of.PLACE))
            .where(of.RUN_ID.eq(runId), of.TEST_ID.eq(result.TEST_ID))
            .and(of.PLACE.eq(result.PLACE).or(of.SUPERSEDED.isTrue().and(isTryOf(of))))
            .and(what.apply(attempt, of)));
  }

  /** Whether it comes from a part of the same name and variant, and was tried at all. */
  private Condition isTryOf(Result of) {
    Part own = PART.as(below("own"));
    Part other = PART.as(below("other"));
    return of.ATTEMPTS
        .gt(0)
        .and(
            DSL.exists(
                DSL.selectOne()
                    .from(own)
                    .join(other)
                    .on(
                        other.PROJECT_ID.eq(own.PROJECT_ID),
                        other.RUN_ID.eq(own.RUN_ID),
                        other.VARIANT.eq(own.VARIANT),
                        other.NAMED.eq(own.NAMED),
                        other.NAME.eq(own.NAME).or(own.NAMED.isFalse()))
                    .where(own.PROJECT_ID.eq(projectId), own.RUN_ID.eq(runId))
                    .and(own.PART_NO.eq(result.PART_NO))
                    .and(other.PART_NO.eq(of.PART_NO))));
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    return switch (relation) {
      case RESULT_RUN -> run(criterion);
      case RESULT_TRIES ->
          tries((attempt, of) -> new AttemptTerms(projectId, depth + 1, attempt, of).of(criterion));
      case RESULT_TEST -> new TestTerms(projectId, depth + 1, test).of(criterion);
      case RESULT_GROUP -> group(criterion);
      case RESULT_DECISION ->
          decided(decision -> new DecisionTerms(projectId, depth + 1, decision).of(criterion));
      case RESULT_VERDICT -> verdict(criterion);
      default -> throw notHere(relation);
    };
  }

  private Condition group(Criterion criterion) {
    FailureGroup group = FAILURE_GROUP.as(below("group"));
    return failing(
        failure ->
            failure.GROUP_ID.in(
                DSL.select(group.ID)
                    .from(group)
                    .where(
                        group.PROJECT_ID.eq(projectId),
                        new GroupTerms(projectId, depth + 1, group).of(criterion))));
  }

  private Condition verdict(Criterion criterion) {
    TestBelief belief = TEST_BELIEF.as(below("belief"));
    Run run = RUN.as(below("run"));
    return result.TEST_ID.in(
        DSL.select(belief.TEST_ID)
            .from(belief)
            .join(run)
            .on(run.PROJECT_ID.eq(belief.PROJECT_ID), run.STREAM_ID.eq(belief.STREAM_ID))
            .where(
                belief.PROJECT_ID.eq(projectId),
                run.ID.eq(runId),
                new VerdictTerms(projectId, depth + 1, belief).of(criterion)));
  }

  /**
   * Whether its run is one of those that match. Where the run is not known, they are found once for
   * all results: each result's run looked at anew costs, under a second such filter, what all
   * results times all results cost.
   */
  private Condition run(Criterion criterion) {
    Run run = RUN.as(below("run"));
    Condition matches = new RunTerms(projectId, depth + 1, run).of(criterion);
    if (runId instanceof Param) {
      return DSL.exists(
          DSL.selectOne().from(run).where(run.PROJECT_ID.eq(projectId), run.ID.eq(runId), matches));
    }
    Name found = DSL.name(below("found"));
    return runId.in(
        DSL.with(
                found
                    .fields("id")
                    .asMaterialized(
                        DSL.select(run.ID).from(run).where(run.PROJECT_ID.eq(projectId), matches)))
            .select(DSL.field(DSL.name(below("found"), "id"), Long.class))
            .from(DSL.table(found)));
  }
}
