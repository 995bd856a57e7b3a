package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.NOTE;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_CHANGE;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.SUITE;
import static org.vinecellar.store.generated.Tables.TEST_BELIEF;
import static org.vinecellar.store.generated.Tables.TEST_FACTS;
import static org.vinecellar.store.generated.Tables.TEST_TAG;
import static org.vinecellar.store.generated.Tables.VARIANT_WORD;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Name;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.filters.RunSide;
import org.vinecellar.store.generated.tables.Note;
import org.vinecellar.store.generated.tables.Result;
import org.vinecellar.store.generated.tables.Run;
import org.vinecellar.store.generated.tables.RunChange;
import org.vinecellar.store.generated.tables.Stream;
import org.vinecellar.store.generated.tables.Suite;
import org.vinecellar.store.generated.tables.Test;
import org.vinecellar.store.generated.tables.TestBelief;
import org.vinecellar.store.generated.tables.TestFacts;
import org.vinecellar.store.generated.tables.TestTag;
import org.vinecellar.store.generated.tables.VariantWord;

/** A test. */
final class TestTerms extends Terms {
  private final Test test;

  TestTerms(int projectId, int depth, Test test) {
    super(projectId, depth);
    this.test = test;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case TEST_TEXT -> text(match);
      case TEST_NAME -> match.text(test.NAME);
      case TEST_PARAMETERS -> match.text(test.PARAMETERS);
      case TEST_VARIANT -> variant(key, match);
      case TEST_SUITE -> suite(match);
      case TEST_FILE -> file(test.FACTS, match);
      case TEST_TAG -> tag(test.FACTS, match);
      case TEST_DESCRIPTION -> description(match);
      case TEST_ID -> match.number(test.ID);
      default -> throw notHere(attribute);
    };
  }

  Condition text(Match match) {
    return match.text(test.NAME).or(match.text(test.PARAMETERS)).or(suite(match));
  }

  /** A suite around the test: those that match and all inside them, looked up once. */
  Condition suite(Match match) {
    Name inside = DSL.name(below("inside"));
    Field<Long> id = DSL.field(DSL.name(below("inside"), "id"), Long.class);
    Suite outer = SUITE.as(below("outer"));
    Suite inner = SUITE.as(below("inner"));
    return test.SUITE_ID.in(
        DSL.withRecursive(
                inside
                    .fields("id")
                    .as(
                        DSL.select(outer.ID)
                            .from(outer)
                            .where(outer.PROJECT_ID.eq(projectId), match.text(outer.NAME))
                            .union(
                                DSL.select(inner.ID)
                                    .from(inner)
                                    .join(DSL.table(inside))
                                    .on(inner.PARENT_ID.eq(id))
                                    .where(inner.PROJECT_ID.eq(projectId)))))
            .select(id)
            .from(DSL.table(inside)));
  }

  Condition variant(@Nullable String key, Match match) {
    VariantWord word = VARIANT_WORD.as(below("word"));
    return test.VARIANT_ID.in(
        DSL.select(word.VARIANT_ID)
            .from(word)
            .where(
                word.PROJECT_ID.eq(projectId),
                key == null ? DSL.noCondition() : word.KEY.eq(key),
                match.name(word.VALUE)));
  }

  /** The source file that a version of its facts tells. */
  Condition file(Field<Integer> version, Match match) {
    TestFacts facts = TEST_FACTS.as(below("facts"));
    return DSL.exists(
        DSL.selectOne()
            .from(facts)
            .where(
                facts.TEST_ID.eq(test.ID),
                facts.VERSION.eq(version),
                match.text(facts.SOURCE_FILE)));
  }

  /** A tag that a version of its facts tells, or that somebody gave it. */
  Condition tag(Field<Integer> version, Match match) {
    TestTag tag = TEST_TAG.as(below("tag"));
    return DSL.exists(
        DSL.selectOne()
            .from(tag)
            .where(
                tag.TEST_ID.eq(test.ID),
                tag.VERSION.eq(0).or(tag.VERSION.eq(version)),
                match.name(tag.TAG)));
  }

  private Condition description(Match match) {
    Note note = NOTE.as(below("note"));
    return DSL.exists(
        DSL.selectOne()
            .from(note)
            .where(
                note.PROJECT_ID.eq(projectId),
                note.SUBJECT.eq((short) Subject.Kind.TEST.code()),
                note.SUBJECT_ID.eq(test.ID),
                match.text(note.DESCRIPTION)));
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    return switch (relation) {
      case TEST_RESULTS -> results(criterion);
      case TEST_VERDICTS -> verdict(criterion);
      case TEST_GONE -> gone(criterion);
      default -> throw notHere(relation);
    };
  }

  private Condition verdict(Criterion criterion) {
    TestBelief belief = TEST_BELIEF.as(below("belief"));
    Stream stream = STREAM.as(below("in"));
    return DSL.exists(
        DSL.selectOne()
            .from(belief)
            .join(stream)
            .on(
                stream.PROJECT_ID.eq(belief.PROJECT_ID),
                stream.ID.eq(belief.STREAM_ID),
                stream.DELETED_AT.isNull())
            .where(
                belief.PROJECT_ID.eq(projectId),
                belief.TEST_ID.eq(test.ID),
                new VerdictTerms(projectId, depth + 1, belief).of(criterion)));
  }

  /** Looked up once: few runs have lost a test. */
  private Condition gone(Criterion criterion) {
    Run run = RUN.as(below("without"));
    RunChange change = RUN_CHANGE.as(below("change"));
    return test.ID.in(
        DSL.select(change.TEST_ID)
            .from(run)
            .join(change)
            .on(change.RUN_ID.eq(run.ID), change.CHANGE.eq(DSL.inline(Change.GONE.code())))
            .where(
                run.PROJECT_ID.eq(projectId),
                run.NUMBER.isNotNull(),
                run.DELETED_AT.isNull(),
                run.GONE.gt(DSL.inline(0)),
                new RunTerms(projectId, depth + 1, run).of(criterion)));
  }

  /** Of runs that are chosen first: a test has results in very many. */
  private Condition results(Criterion criterion) {
    RunSide side = RunSide.of(criterion);
    PossibleOutcomes possible = PossibleOutcomes.of(side.rest());
    Result result = RESULT.as(below("result"));
    Run run = RUN.as(below("its"));
    Stream stream = STREAM.as(below("of"));
    return DSL.exists(
        DSL.selectOne()
            .from(result)
            .join(run)
            .on(run.PROJECT_ID.eq(projectId), run.ID.eq(result.RUN_ID), run.NUMBER.isNotNull())
            .join(stream)
            .on(
                stream.PROJECT_ID.eq(projectId),
                stream.ID.eq(run.STREAM_ID),
                stream.DELETED_AT.isNull())
            .where(
                result.TEST_ID.eq(test.ID),
                result.SUPERSEDED.isFalse(),
                possible.condition(run),
                possible.condition(result),
                new RunTerms(projectId, depth + 1, run).of(side.runs()),
                new ResultTerms(projectId, depth + 1, result, test, result.RUN_ID)
                    .of(side.rest())));
  }
}
