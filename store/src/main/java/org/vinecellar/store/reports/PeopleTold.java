package org.vinecellar.store.reports;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;
import static org.vinecellar.store.generated.Tables.OVERRULING;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;

import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.reports.PersonTold;

/** What people did in a period. */
final class PeopleTold {
  private final DSLContext dsl;
  private final int projectId;
  private final Period period;
  private final Map<String, Doing> by = new HashMap<>();

  PeopleTold(DSLContext dsl, int projectId, Period period) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.period = period;
  }

  private static final class Doing {
    private final Map<String, Integer> byCategory = new TreeMap<>();
    private int explained;
    private int assigned;
    private int overruled;
  }

  List<PersonTold> told(int limit) {
    decided();
    dsl.select(FAILURE_GROUP.ASSIGNED_TO, DSL.count())
        .from(FAILURE_GROUP)
        .where(
            FAILURE_GROUP.PROJECT_ID.eq(projectId),
            FAILURE_GROUP.ASSIGNED_TO.isNotNull(),
            FAILURE_GROUP.OPEN.gt(0))
        .groupBy(FAILURE_GROUP.ASSIGNED_TO)
        .forEach(row -> of(row.value1()).assigned = row.value2());
    dsl.select(OVERRULING.MADE_BY, DSL.count())
        .from(OVERRULING)
        .join(RUN)
        .on(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(OVERRULING.RUN_ID))
        .join(RESULT)
        .on(RESULT.RUN_ID.eq(OVERRULING.RUN_ID), RESULT.PLACE.eq(OVERRULING.PLACE))
        .where(
            RUN.DELETED_AT.isNull(),
            RUN.NUMBER.isNotNull(),
            RESULT.SUPERSEDED.isFalse(),
            inPeriod(OVERRULING.MADE_AT))
        .groupBy(OVERRULING.MADE_BY)
        .forEach(row -> of(row.value1()).overruled = row.value2());
    return by.entrySet().stream()
        .map(
            one ->
                new PersonTold(
                    one.getKey(),
                    one.getValue().explained,
                    one.getValue().byCategory,
                    one.getValue().assigned,
                    one.getValue().overruled))
        .sorted(
            Comparator.comparingInt(PersonTold::explained)
                .reversed()
                .thenComparing(Comparator.comparingInt(PersonTold::assigned).reversed())
                .thenComparing(PersonTold::who))
        .limit(limit)
        .toList();
  }

  private void decided() {
    Field<Integer> groups = DSL.countDistinct(DECISION.GROUP_ID);
    Condition standing =
        DECISION
            .PROJECT_ID
            .eq(projectId)
            .and(DECISION.UNDONE_AT.isNull())
            .and(inPeriod(DECISION.MADE_AT))
            .and(
                DSL.exists(
                    DSL.selectOne()
                        .from(FAILURE_GROUP)
                        .where(
                            FAILURE_GROUP.PROJECT_ID.eq(DECISION.PROJECT_ID),
                            FAILURE_GROUP.ID.eq(DECISION.GROUP_ID),
                            FAILURE_GROUP.RESULTS.gt(0))));
    dsl.select(DECISION.MADE_BY, groups)
        .from(DECISION)
        .where(standing)
        .groupBy(DECISION.MADE_BY)
        .forEach(row -> of(row.value1()).explained = row.value2());
    dsl.select(DECISION.MADE_BY, CATEGORY.NAME, groups)
        .from(DECISION)
        .join(CATEGORY)
        .on(CATEGORY.PROJECT_ID.eq(DECISION.PROJECT_ID), CATEGORY.ID.eq(DECISION.CATEGORY_ID))
        .where(standing)
        .groupBy(DECISION.MADE_BY, CATEGORY.NAME)
        .forEach(row -> of(row.value1()).byCategory.put(row.value2(), row.value3()));
  }

  private Condition inPeriod(Field<OffsetDateTime> moment) {
    return moment
        .ge(period.from().atOffset(ZoneOffset.UTC))
        .and(moment.lt(period.to().atOffset(ZoneOffset.UTC)));
  }

  private Doing of(String who) {
    return by.computeIfAbsent(who, name -> new Doing());
  }
}
