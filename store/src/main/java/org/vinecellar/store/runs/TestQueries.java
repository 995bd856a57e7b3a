package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_FACTS;
import static org.vinecellar.store.generated.Tables.TEST_TAG;

import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.runs.TestQuery;
import org.vinecellar.core.runs.TestRow;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.results.KeptTests;

/** Tests as pages, by number. */
final class TestQueries {
  private final DSLContext dsl;
  private final int projectId;

  TestQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  List<TestRow> page(TestQuery query) {
    List<Record> rows =
        List.copyOf(
            dsl.select(TEST.asterisk(), TEST_FACTS.SOURCE_FILE)
                .from(TEST)
                .leftJoin(TEST_FACTS)
                .on(TEST_FACTS.TEST_ID.eq(TEST.ID), TEST_FACTS.VERSION.eq(TEST.FACTS))
                .where(
                    TEST.PROJECT_ID.eq(projectId),
                    TEST.ID.gt(query.after()),
                    Conditions.ofTests(projectId, query.filter()))
                .orderBy(TEST.ID)
                .limit(query.limit())
                .fetch());
    KeptTests tests = new KeptTests(dsl, projectId, rows);
    Map<Long, List<String>> tags = tags(rows);
    return rows.stream()
        .map(
            row ->
                new TestRow(
                    tests.of(row),
                    row.get(TEST_FACTS.SOURCE_FILE),
                    tags.getOrDefault(row.get(TEST.ID), List.of())))
        .toList();
  }

  long count(Criterion filter) {
    return dsl.fetchCount(
        TEST, TEST.PROJECT_ID.eq(projectId).and(Conditions.ofTests(projectId, filter)));
  }

  private Map<Long, List<String>> tags(List<Record> tests) {
    return dsl.selectDistinct(TEST_TAG.TEST_ID, TEST_TAG.TAG)
        .from(TEST_TAG)
        .join(TEST)
        .on(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(TEST_TAG.TEST_ID))
        .where(
            TEST_TAG.TEST_ID.in(tests.stream().map(row -> row.get(TEST.ID)).toList()),
            TEST_TAG.VERSION.eq(DSL.inline(0)).or(TEST_TAG.VERSION.eq(TEST.FACTS)))
        .orderBy(TEST_TAG.TAG)
        .fetchGroups(TEST_TAG.TEST_ID, TEST_TAG.TAG);
  }
}
