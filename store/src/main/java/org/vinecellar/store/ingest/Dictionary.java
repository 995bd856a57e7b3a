package org.vinecellar.store.ingest;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.store.sql.Sql;

/**
 * Numbers for suites and tests of one project. New names are added in short transactions of their
 * own, so that two uploads with the same new tests never wait for each other's end.
 */
final class Dictionary {
  /** Suites remembered during one upload; beyond that they are asked for again. */
  private static final int MAX_SUITES = 50_000;

  private final Sql sql;
  private final int projectId;
  private final Map<Key128, Long> suites = new HashMap<>();

  Dictionary(Sql sql, int projectId) {
    this.sql = sql;
    this.projectId = projectId;
  }

  /** The number of a suite that is not the root; adds it and those around it when new. */
  long suite(SuitePath path) {
    Long known = suites.get(path.key());
    if (known != null) {
      return known;
    }
    Long parent = parent(path);
    if (suites.size() >= MAX_SUITES) {
      suites.clear();
    }
    long id = sql.transaction(dsl -> findOrAddSuite(dsl, path, parent));
    suites.put(path.key(), id);
    return id;
  }

  /** The number of the suite around; null for an outermost suite. */
  @Nullable Long parent(SuitePath path) {
    SuitePath parent = path.parent();
    return parent == null || parent.depth() == 0 ? null : (Long) suite(parent);
  }

  private long findOrAddSuite(DSLContext dsl, SuitePath path, @Nullable Long parent) {
    UUID key = path.key().toUuid();
    dsl.execute(
        "insert into suite (project_id, key, parent_id, name) values (?, ?, ?, ?)"
            + " on conflict (project_id, key) do nothing",
        projectId,
        key,
        parent,
        path.name());
    Record row =
        dsl.fetchSingle("select id from suite where project_id = ? and key = ?", projectId, key);
    return row.get(0, Long.class);
  }

  /** The numbers of tests, in their order; adds what is new. */
  long[] tests(List<TestId> tests) {
    long[] ids = new long[tests.size()];
    Map<UUID, Integer> wanted = new LinkedHashMap<>(tests.size() * 2);
    UUID[] keys = new UUID[tests.size()];
    for (int i = 0; i < keys.length; i++) {
      keys[i] = tests.get(i).key().toUuid();
      wanted.put(keys[i], i);
    }
    sql.transaction(dsl -> take(dsl, keys, wanted, ids));
    if (!wanted.isEmpty()) {
      List<Integer> missing = new ArrayList<>(wanted.values());
      Long[] suiteIds = new Long[missing.size()];
      for (int i = 0; i < suiteIds.length; i++) {
        SuitePath suite = tests.get(missing.get(i)).suite();
        suiteIds[i] = suite.depth() == 0 ? null : (Long) suite(suite);
      }
      sql.transaction(dsl -> add(dsl, tests, missing, suiteIds, keys));
      sql.transaction(dsl -> take(dsl, wanted.keySet().toArray(UUID[]::new), wanted, ids));
    }
    return ids;
  }

  private int take(DSLContext dsl, UUID[] keys, Map<UUID, Integer> wanted, long[] ids) {
    int found = 0;
    for (Record row :
        dsl.fetch(
            "select t.key, t.id from test t where t.project_id = ? and t.key = any(?)",
            projectId,
            keys)) {
      Integer at = wanted.remove(row.get(0, UUID.class));
      if (at != null) {
        ids[at] = row.get(1, Long.class);
        found++;
      }
    }
    return found;
  }

  private int add(
      DSLContext dsl, List<TestId> tests, List<Integer> missing, Long[] suiteIds, UUID[] keys) {
    UUID[] newKeys = new UUID[missing.size()];
    String[] names = new String[missing.size()];
    String[] parameters = new String[missing.size()];
    for (int i = 0; i < newKeys.length; i++) {
      TestId test = tests.get(missing.get(i));
      newKeys[i] = keys[missing.get(i)];
      names[i] = test.name();
      parameters[i] = test.parameters();
    }
    return dsl.execute(
        "insert into test (project_id, key, suite_id, name, parameters)"
            + " select ?, n.key, n.suite_id, n.name, n.parameters"
            + " from unnest(?::uuid[], ?::bigint[], ?::text[], ?::text[])"
            + " as n(key, suite_id, name, parameters)"
            + " on conflict (project_id, key) do nothing",
        projectId,
        newKeys,
        suiteIds,
        names,
        parameters);
  }
}
