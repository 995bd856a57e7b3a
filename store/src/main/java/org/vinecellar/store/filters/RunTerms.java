package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.NOTE;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN_LABEL;
import static org.vinecellar.store.generated.Tables.RUN_TAG;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.TEST;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.store.generated.tables.Note;
import org.vinecellar.store.generated.tables.Part;
import org.vinecellar.store.generated.tables.Result;
import org.vinecellar.store.generated.tables.Run;
import org.vinecellar.store.generated.tables.RunLabel;
import org.vinecellar.store.generated.tables.RunTag;
import org.vinecellar.store.generated.tables.Stream;
import org.vinecellar.store.generated.tables.Test;

/** A run. */
final class RunTerms extends Terms {
  private final Run run;

  RunTerms(int projectId, int depth, Run run) {
    super(projectId, depth);
    this.run = run;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case RUN_STREAM -> stream(match);
      case RUN_NUMBER -> match.number(run.NUMBER);
      case RUN_OPEN -> match.flag(run.IS_OPEN.isTrue());
      case RUN_STARTED -> match.time(run.STARTED_AT);
      case RUN_CHANGED -> match.time(run.CHANGED_AT);
      case RUN_CLOSED -> match.time(run.CLOSED_AT);
      case RUN_CLOSED_BY -> match.name(run.CLOSED_BY);
      case RUN_BRANCH -> match.name(run.BRANCH);
      case RUN_COMMIT -> match.name(run.COMMIT_ID);
      case RUN_LABEL -> label(projectId, depth, run.ID, key, match);
      case RUN_TAG -> tag(match);
      case RUN_DESCRIPTION -> description(match);
      case RUN_PART -> part(match);
      case RUN_TESTS ->
          match.number(
              run.PASSED
                  .plus(run.FAILED)
                  .plus(run.ERRORED)
                  .plus(run.SKIPPED)
                  .plus(run.NOT_REACHED));
      case RUN_PASSED -> match.number(run.PASSED);
      case RUN_FAILED -> match.number(run.FAILED);
      case RUN_ERRORED -> match.number(run.ERRORED);
      case RUN_SKIPPED -> match.number(run.SKIPPED);
      case RUN_NOT_REACHED -> match.number(run.NOT_REACHED);
      case RUN_RETRIED -> match.number(run.RETRIED);
      case RUN_SET_UPS -> match.number(run.SET_UPS);
      case RUN_OVERRULED -> match.number(run.OVERRULED);
      case RUN_TEST_TIME -> match.micros(run.DURATION_US);
      case RUN_NEW_FAILING -> match.number(run.NEW_FAILING);
      case RUN_FAILING_AS_BEFORE -> match.number(run.FAILING_AS_BEFORE);
      case RUN_FIXED -> match.number(run.FIXED);
      case RUN_PASSED_ON_RETRY -> match.number(run.PASSED_ON_RETRY);
      case RUN_ADDED -> match.number(run.ADDED);
      case RUN_RENAMED -> match.number(run.RENAMED);
      case RUN_GONE -> match.number(run.GONE);
      default -> throw notHere(attribute);
    };
  }

  private Condition stream(Match match) {
    Stream stream = STREAM.as(below("stream"));
    return run.STREAM_ID.in(
        DSL.select(stream.ID)
            .from(stream)
            .where(stream.PROJECT_ID.eq(projectId), match.name(stream.NAME)));
  }

  /** A label of the run with that number. */
  static Condition label(
      int projectId, int depth, Field<Long> runId, @Nullable String key, Match match) {
    RunLabel label = RUN_LABEL.as("label" + (depth + 1));
    return DSL.exists(
        DSL.selectOne()
            .from(label)
            .where(
                label.RUN_ID.eq(runId),
                label.PROJECT_ID.eq(projectId),
                key == null ? DSL.noCondition() : label.KEY.eq(key),
                match.name(label.VALUE)));
  }

  private Condition tag(Match match) {
    RunTag tag = RUN_TAG.as(below("tag"));
    return DSL.exists(
        DSL.selectOne()
            .from(tag)
            .where(tag.RUN_ID.eq(run.ID), tag.PROJECT_ID.eq(projectId), match.name(tag.TAG)));
  }

  private Condition description(Match match) {
    Note note = NOTE.as(below("note"));
    return DSL.exists(
        DSL.selectOne()
            .from(note)
            .where(
                note.PROJECT_ID.eq(projectId),
                note.SUBJECT.eq((short) Subject.Kind.RUN.code()),
                note.SUBJECT_ID.eq(run.ID),
                match.text(note.DESCRIPTION)));
  }

  private Condition part(Match match) {
    Part part = PART.as(below("part"));
    return DSL.exists(
        DSL.selectOne()
            .from(part)
            .where(part.PROJECT_ID.eq(projectId), part.RUN_ID.eq(run.ID), match.name(part.NAME)));
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    return switch (relation) {
      case RUN_RESULTS -> results(criterion);
      case RUN_LABELS -> {
        RunLabel label = RUN_LABEL.as(below("label"));
        yield DSL.exists(
            DSL.selectOne()
                .from(label)
                .where(
                    label.RUN_ID.eq(run.ID),
                    label.PROJECT_ID.eq(projectId),
                    new LabelTerms(projectId, depth + 1, label).of(criterion)));
      }
      default -> throw notHere(relation);
    };
  }

  private Condition results(Criterion criterion) {
    Result result = RESULT.as(below("result"));
    Test test = TEST.as(below("test"));
    return DSL.exists(
        DSL.selectOne()
            .from(result)
            .join(test)
            .on(test.PROJECT_ID.eq(projectId), test.ID.eq(result.TEST_ID))
            .where(
                result.RUN_ID.eq(run.ID),
                result.SUPERSEDED.isFalse(),
                PossibleOutcomes.of(criterion).condition(result),
                new ResultTerms(projectId, depth + 1, result, test, result.RUN_ID).of(criterion)));
  }
}
