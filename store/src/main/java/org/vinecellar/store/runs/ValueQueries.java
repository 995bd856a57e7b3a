package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RULE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_LABEL;
import static org.vinecellar.store.generated.Tables.RUN_TAG;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.SUITE;
import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_TAG;
import static org.vinecellar.store.generated.Tables.TICKET;
import static org.vinecellar.store.generated.Tables.VARIANT_WORD;

import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Select;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;

/** Values that there are, for who is writing a filter. */
final class ValueQueries {
  private static final int LATEST = 1000;

  private final DSLContext dsl;
  private final int projectId;

  ValueQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<String> values(Attribute attribute, @Nullable String key, String begun, int limit) {
    return switch (attribute) {
      case RUN_STREAM, VERDICT_STREAM ->
          any(STREAM, STREAM.NAME, STREAM.PROJECT_ID, STREAM.DELETED_AT.isNull(), begun, limit);
      case RUN_BRANCH -> ofLatest(RUN.BRANCH, begun, limit);
      case RUN_COMMIT -> ofLatest(RUN.COMMIT_ID, begun, limit);
      case RUN_LABEL, RESULT_LABEL, LABEL_VALUE ->
          labels(
              RUN_LABEL.VALUE,
              key == null ? DSL.noCondition() : RUN_LABEL.KEY.eq(key),
              begun,
              limit);
      case RESULT_VARIANT, TEST_VARIANT -> words(VARIANT_WORD.VALUE, key, begun, limit);
      case LABEL_KEY -> keys(attribute, begun, limit);
      case RUN_TAG ->
          any(RUN_TAG, RUN_TAG.TAG, RUN_TAG.PROJECT_ID, DSL.noCondition(), begun, limit);
      case RESULT_TAG, TEST_TAG ->
          any(TEST_TAG, TEST_TAG.TAG, TEST_TAG.PROJECT_ID, DSL.noCondition(), begun, limit);
      case RUN_PART, RESULT_PART ->
          dsl.selectDistinct(PART.NAME)
              .from(PART)
              .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.in(latest()))
              .and(PART.NAME.startsWithIgnoreCase(begun))
              .orderBy(PART.NAME)
              .limit(limit)
              .fetch(PART.NAME);
      case RESULT_SUITE, TEST_SUITE ->
          any(SUITE, SUITE.NAME, SUITE.PROJECT_ID, DSL.noCondition(), begun, limit);
      case RESULT_NAME, TEST_NAME ->
          any(TEST, TEST.NAME, TEST.PROJECT_ID, DSL.noCondition(), begun, limit);
      case RESULT_CATEGORY, DECISION_CATEGORY ->
          any(CATEGORY, CATEGORY.NAME, CATEGORY.PROJECT_ID, DSL.noCondition(), begun, limit);
      case DECISION_RULE ->
          any(RULE, RULE.NAME, RULE.PROJECT_ID, RULE.DELETED_AT.isNull(), begun, limit);
      case TICKET_KEY, TICKET_STATE -> {
        Field<String> field = attribute == Attribute.TICKET_KEY ? TICKET.KEY : TICKET.STATE;
        yield any(TICKET, field, TICKET.PROJECT_ID, field.isNotNull(), begun, limit);
      }
      case GROUP_ASSIGNED ->
          any(
              FAILURE_GROUP,
              FAILURE_GROUP.ASSIGNED_TO,
              FAILURE_GROUP.PROJECT_ID,
              FAILURE_GROUP.ASSIGNED_TO.isNotNull(),
              begun,
              limit);
      case DECISION_BY ->
          any(DECISION, DECISION.MADE_BY, DECISION.PROJECT_ID, DSL.noCondition(), begun, limit);
      default -> List.of();
    };
  }

  List<String> keys(Attribute attribute, String begun, int limit) {
    return switch (attribute) {
      case RESULT_VARIANT, TEST_VARIANT -> words(VARIANT_WORD.KEY, null, begun, limit);
      default -> labels(RUN_LABEL.KEY, DSL.noCondition(), begun, limit);
    };
  }

  private List<String> words(Field<String> field, @Nullable String key, String begun, int limit) {
    return any(
        VARIANT_WORD,
        field,
        VARIANT_WORD.PROJECT_ID,
        key == null ? DSL.noCondition() : VARIANT_WORD.KEY.eq(key),
        begun,
        limit);
  }

  private List<String> any(
      Table<?> table,
      Field<String> field,
      Field<Integer> project,
      Condition rest,
      String begun,
      int limit) {
    return dsl.selectDistinct(field)
        .from(table)
        .where(project.eq(projectId), rest, field.startsWithIgnoreCase(begun))
        .orderBy(field)
        .limit(limit)
        .fetch(field);
  }

  private List<String> labels(Field<String> field, Condition rest, String begun, int limit) {
    return dsl.selectDistinct(field)
        .from(RUN_LABEL)
        .where(RUN_LABEL.PROJECT_ID.eq(projectId), RUN_LABEL.RUN_ID.in(latest()))
        .and(rest)
        .and(field.startsWithIgnoreCase(begun))
        .orderBy(field)
        .limit(limit)
        .fetch(field);
  }

  private List<String> ofLatest(Field<String> field, String begun, int limit) {
    return dsl.selectDistinct(field)
        .from(RUN)
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.in(latest()))
        .and(field.startsWithIgnoreCase(begun))
        .orderBy(field)
        .limit(limit)
        .fetch(field);
  }

  private Select<Record1<Long>> latest() {
    org.vinecellar.store.generated.tables.Run latest = RUN.as("latest");
    return DSL.select(latest.ID)
        .from(latest)
        .where(latest.PROJECT_ID.eq(projectId), latest.NUMBER.isNotNull())
        .orderBy(latest.STARTED_AT.desc(), latest.ID.desc())
        .limit(LATEST);
  }
}
