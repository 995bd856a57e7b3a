package org.vinecellar.store.triage.rows;

import com.fasterxml.jackson.core.type.TypeReference;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.triage.grouping.GroupKey;
import org.vinecellar.core.triage.grouping.KnownGroup;
import org.vinecellar.core.triage.grouping.KnownGroups;
import org.vinecellar.core.triage.grouping.Template;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** Groups as rows, found by their keys. */
public final class GroupRows {
  private static final int LONGEST = 4_000;

  /** More than this many of one key are only more than one. */
  private static final int MOST = 20;

  private static final int KEYS_AT_ONCE = 5_000;
  private static final int GROUPS_AT_ONCE = 1_000;

  /** So many of the latest failures of a test tell to which groups it belongs. */
  private static final int OF_TEST = 50;

  private final DSLContext dsl;
  private final int projectId;
  private final int version;

  /** What the failures of other runs tell need not be written once more: the groups of a test. */
  private final Map<GroupKey, Set<Integer>> tests = new HashMap<>();

  private long runId;

  /** By what groups are found already, as far as it was asked for. */
  private final Map<GroupKey, Set<Integer>> there = new HashMap<>();

  /** Of that project. */
  public GroupRows(DSLContext dsl, int projectId) {
    this(dsl, projectId, 0);
  }

  /**
   * Of that project.
   *
   * @param version of signatures and settings that new keys are of
   */
  public GroupRows(DSLContext dsl, int projectId, int version) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.version = version;
  }

  /**
   * Tests of a run that is grouped. Under their keys those groups are found to which failures of
   * theirs in other runs belong by their own keys.
   */
  public void of(long run, Map<GroupKey, Set<Integer>> itsTests) {
    runId = run;
    tests.putAll(itsTests);
  }

  /** Until the transaction ends, nobody else makes groups in the project. */
  public void lock() {
    dsl.execute("select pg_advisory_xact_lock(?, ?)", 0x76696e65, projectId);
  }

  /** The known groups that have one of the keys. */
  public KnownGroups with(Collection<GroupKey> keys) {
    Map<GroupKey, List<KnownGroup>> found = new HashMap<>();
    List<GroupKey> all = new ArrayList<>();
    List<GroupKey> ofTests = new ArrayList<>();
    keys.forEach(key -> (tests.containsKey(key) ? ofTests : all).add(key));
    for (int from = 0; from < all.size(); from += KEYS_AT_ONCE) {
      some(all.subList(from, Math.min(all.size(), from + KEYS_AT_ONCE)), found);
    }
    for (int from = 0; from < ofTests.size(); from += KEYS_AT_ONCE) {
      ofTests(ofTests.subList(from, Math.min(ofTests.size(), from + KEYS_AT_ONCE)), found);
    }
    return key -> found.getOrDefault(key, List.of());
  }

  private void ofTests(List<GroupKey> keys, Map<GroupKey, List<KnownGroup>> found) {
    List<Integer> nr = new ArrayList<>();
    List<Integer> ids = new ArrayList<>();
    for (int i = 0; i < keys.size(); i++) {
      for (Integer test : tests.getOrDefault(keys.get(i), Set.of())) {
        nr.add(i);
        ids.add(test);
      }
    }
    Map<Integer, KnownGroup> groups = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select distinct n.nr, g.id, g.kind, case when g.kind = ? then g.words end"
                + " from unnest(?::int[], ?::int[]) as n(nr, test_id) cross join lateral"
                + " (select f.found_group_id, f.joined, f.run_id from failure f"
                + " where f.test_id = n.test_id order by f.run_id desc limit "
                + OF_TEST
                + ") f join failure_group g on g.project_id = ? and g.id = f.found_group_id"
                + " where f.joined = 0 and f.run_id <> ? order by n.nr, g.id",
            KeyKind.TEXT.code(),
            nr.toArray(Integer[]::new),
            ids.toArray(Integer[]::new),
            projectId,
            runId)) {
      group(row, keys.get(row.get(0, Integer.class)), groups, found);
    }
  }

  private void some(List<GroupKey> keys, Map<GroupKey, List<KnownGroup>> found) {
    Integer[] uses = new Integer[keys.size()];
    Long[] high = new Long[keys.size()];
    Long[] low = new Long[keys.size()];
    for (int i = 0; i < keys.size(); i++) {
      uses[i] = keys.get(i).use().code();
      high[i] = keys.get(i).hash().high();
      low[i] = keys.get(i).hash().low();
    }
    Map<Integer, KnownGroup> groups = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select n.nr, g.id, g.kind, case when g.kind = ? then g.words end"
                + " from unnest(?::int[], ?::bigint[], ?::bigint[])"
                + " with ordinality as n(use, high, low, nr)"
                + " cross join lateral (select k.group_id from group_key k where k.project_id = ?"
                + " and k.use = n.use and k.key_high = n.high and k.key_low = n.low"
                + " order by k.group_id limit ?) k"
                + " join failure_group g on g.project_id = ? and g.id = k.group_id"
                + " order by n.nr, g.id",
            KeyKind.TEXT.code(),
            uses,
            high,
            low,
            projectId,
            MOST,
            projectId)) {
      GroupKey key = keys.get(row.get(0, Integer.class) - 1);
      there.computeIfAbsent(key, k -> new HashSet<>()).add(row.get(1, Integer.class));
      group(row, key, groups, found);
    }
  }

  private static void group(
      Record row,
      GroupKey key,
      Map<Integer, KnownGroup> groups,
      Map<GroupKey, List<KnownGroup>> found) {
    Integer id = row.get(1, Integer.class);
    KnownGroup group =
        groups.computeIfAbsent(
            id, k -> new KnownGroup(id, kind(row.get(2, Integer.class)), words(row)));
    found.computeIfAbsent(key, k -> new ArrayList<>()).add(group);
  }

  /** Only what is known by its words is compared by them. */
  private static List<String> words(Record row) {
    String words = row.get(3, String.class);
    return words == null ? List.of() : Json.read(words, new TypeReference<List<String>>() {});
  }

  private static KeyKind kind(int code) {
    return KeyKind.ofCode(code);
  }

  /**
   * Makes groups of their first signatures.
   *
   * @return their numbers, in the same order
   */
  public List<Integer> make(List<Signature> firsts, Instant now) {
    List<Integer> ids = new ArrayList<>(firsts.size());
    for (int from = 0; from < firsts.size(); from += GROUPS_AT_ONCE) {
      ids.addAll(some(firsts.subList(from, Math.min(firsts.size(), from + GROUPS_AT_ONCE)), now));
    }
    return ids;
  }

  private List<Integer> some(List<Signature> firsts, Instant now) {
    List<Integer> ids =
        dsl.fetch(
                "select nextval(pg_get_serial_sequence('failure_group', 'id'))::int"
                    + " from generate_series(1, ?)",
                firsts.size())
            .getValues(0, Integer.class);
    dsl.execute(
        "insert into failure_group (project_id, id, kind, signature_version, key_text, sentence,"
            + " template, words, made_at) select ?, n.id, n.kind, ?, n.key, n.sentence, n.template,"
            + " n.words::jsonb, ?::timestamptz from unnest(?::int[], ?::int[], ?::text[],"
            + " ?::text[], ?::text[], ?::text[]) as n(id, kind, key, sentence, template, words)",
        projectId,
        version,
        Sql.utc(now),
        ids.toArray(Integer[]::new),
        firsts.stream().map(one -> one.kind().code()).toArray(Integer[]::new),
        firsts.stream().map(one -> cut(one.key())).toArray(String[]::new),
        firsts.stream().map(one -> cut(one.sentence())).toArray(String[]::new),
        firsts.stream().map(one -> cut(one.template())).toArray(String[]::new),
        firsts.stream().map(one -> Json.text(one.words())).toArray(String[]::new));
    return ids;
  }

  /** Those of these groups whose keys are of an older version. */
  public Set<Integer> behind(Collection<Integer> groups) {
    return new HashSet<>(
        dsl.fetch(
                "select id from failure_group where project_id = ? and id = any(?)"
                    + " and signature_version < ?",
                projectId,
                Ids.of(groups),
                version)
            .getValues(0, Integer.class));
  }

  /** What is known of the group better by now; it stays the same one. */
  public void renew(int group, Signature first) {
    dsl.execute(
        "update failure_group set kind = ?, signature_version = ?, key_text = ?, sentence = ?,"
            + " words = ?::jsonb where project_id = ? and id = ?",
        first.kind().code(),
        version,
        cut(first.key()),
        cut(first.sentence()),
        Json.text(first.words()),
        projectId,
        group);
  }

  private static String cut(String text) {
    return text.length() > LONGEST ? text.substring(0, LONGEST) + "…" : text;
  }

  /** The template of each group shows what these errors do not have in common, too. */
  public void widen(Map<Integer, Set<String>> templates) {
    Map<Integer, String> wider = new LinkedHashMap<>();
    for (Record row :
        dsl.fetch(
            "select id, template from failure_group where project_id = ? and id = any(?) order by id",
            projectId,
            Ids.of(templates.keySet()))) {
      Integer id = row.get(0, Integer.class);
      String before = row.get(1, String.class);
      String template = before;
      for (String one : templates.getOrDefault(id, Set.of())) {
        template = Template.widened(template, cut(one));
      }
      if (!template.equals(before)) {
        wider.put(id, template);
      }
    }
    if (!wider.isEmpty()) {
      dsl.execute(
          "update failure_group g set template = n.template"
              + " from unnest(?::int[], ?::text[]) as n(id, template)"
              + " where g.project_id = ? and g.id = n.id",
          wider.keySet().toArray(Integer[]::new),
          wider.values().toArray(String[]::new),
          projectId);
    }
  }

  /** A group is found by these too from now on. */
  public void add(Map<Integer, Set<GroupKey>> keys) {
    List<Integer> groups = new ArrayList<>();
    List<Integer> uses = new ArrayList<>();
    List<Long> high = new ArrayList<>();
    List<Long> low = new ArrayList<>();
    keys.forEach(
        (group, some) ->
            some.forEach(
                key -> {
                  if (tests.containsKey(key) || there.getOrDefault(key, Set.of()).contains(group)) {
                    return;
                  }
                  Key128 hash = key.hash();
                  groups.add(group);
                  uses.add(key.use().code());
                  high.add(hash.high());
                  low.add(hash.low());
                }));
    if (groups.isEmpty()) {
      return;
    }
    dsl.execute(
        "insert into group_key (project_id, use, key_high, key_low, group_id)"
            + " select ?, n.use, n.high, n.low, n.group_id"
            + " from unnest(?::int[], ?::bigint[], ?::bigint[], ?::int[]) as n(use, high, low, group_id)"
            // Most are there already, and to look is cheaper than to try.
            + " where not exists (select 1 from group_key k where k.project_id = ? and k.use = n.use"
            + " and k.key_high = n.high and k.key_low = n.low and k.group_id = n.group_id offset 0)"
            + " on conflict do nothing",
        projectId,
        uses.toArray(Integer[]::new),
        high.toArray(Long[]::new),
        low.toArray(Long[]::new),
        groups.toArray(Integer[]::new),
        projectId);
  }
}
