package org.vinecellar.store.results;

import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.VARIANT;

import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;

/** Tests of rows as values, with their suites and variants looked up together. */
public final class KeptTests {
  /** What rows need to have. */
  public static final List<Field<?>> FIELDS =
      List.of(TEST.ID, TEST.NAME, TEST.PARAMETERS, TEST.SUITE_ID, TEST.VARIANT_ID);

  private final SuitePaths paths;
  private final Map<Long, Map<String, String>> variants = new HashMap<>();

  /** Of rows that have these fields. */
  public KeptTests(DSLContext dsl, int projectId, Collection<? extends Record> rows) {
    Set<Long> suites = new HashSet<>();
    Set<Long> wanted = new HashSet<>();
    for (Record row : rows) {
      add(suites, row.get(TEST.SUITE_ID));
      add(wanted, row.get(TEST.VARIANT_ID));
    }
    paths = new SuitePaths(dsl, projectId, suites);
    if (!wanted.isEmpty()) {
      dsl.select(VARIANT.ID, VARIANT.WORDS)
          .from(VARIANT)
          .where(VARIANT.PROJECT_ID.eq(projectId), VARIANT.ID.in(wanted))
          .forEach(row -> variants.put(row.value1(), Json.map(row.value2())));
    }
  }

  /** Tests by their numbers; those that there are not are left out. */
  public static Map<Long, KeptTest> byNumber(
      DSLContext dsl, int projectId, Collection<? extends Number> numbers) {
    List<Record> rows =
        List.copyOf(
            dsl.select(FIELDS)
                .from(TEST)
                .where(
                    TEST.PROJECT_ID.eq(projectId),
                    DSL.condition("{0} = any({1})", TEST.ID, Ids.of(numbers)))
                .fetch());
    KeptTests kept = new KeptTests(dsl, projectId, rows);
    Map<Long, KeptTest> tests = new HashMap<>();
    rows.forEach(row -> tests.put(row.get(TEST.ID), kept.of(row)));
    return tests;
  }

  private static void add(Set<Long> all, @Nullable Long one) {
    if (one != null) {
      all.add(one);
    }
  }

  /** The test of a row. */
  public KeptTest of(Record row) {
    return new KeptTest(
        row.get(TEST.ID),
        paths.of(row.get(TEST.SUITE_ID)),
        row.get(TEST.NAME),
        row.get(TEST.PARAMETERS),
        variant(row));
  }

  /** The words of its variant; empty for none. */
  public Map<String, String> variant(Record row) {
    return variants.getOrDefault(row.get(TEST.VARIANT_ID), Map.of());
  }
}
