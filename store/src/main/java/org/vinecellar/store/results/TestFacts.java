package org.vinecellar.store.results;

import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.postgresql.copy.CopyManager;
import org.vinecellar.store.sql.CopyBuffer;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/**
 * Versions of what files tell of tests. A version never changes once it is there, so that a result
 * tells for ever what its file told; most results name the newest, which stands with the test.
 */
final class TestFacts {
  private static final int TRIES = 5;

  private final Connection connection;
  private final int projectId;
  private final CopyBuffer copy =
      new CopyBuffer("test_facts (test_id, version, hash, source_file, source_line, tags)", 6);

  private final CopyBuffer tagCopy =
      new CopyBuffer("test_tag (project_id, test_id, version, tag)", 4);

  /**
   * @param connection that commits by itself
   */
  TestFacts(Connection connection, int projectId) {
    this.connection = connection;
    this.projectId = projectId;
  }

  /** Those of a test that is about to be added; nothing when nothing is told. */
  void first(int testId, Facts facts) {
    if (facts.isNothing()) {
      return;
    }
    copy.row();
    copy.int4(testId);
    copy.int4(1);
    copy.int8(facts.hash());
    copy.text(facts.file());
    copy.int4OrNone(line(facts));
    copy.jsonb(tags(facts));
    for (String tag : facts.tagsToFind()) {
      tagCopy.row();
      tagCopy.int4(projectId);
      tagCopy.int4(testId);
      tagCopy.int4(1);
      tagCopy.text(tag);
    }
  }

  /** Sends what waits. */
  void send(CopyManager copies) throws SQLException {
    copy.send(copies);
    tagCopy.send(copies);
  }

  /** What {@link #resolve} still looks for. */
  private record Wanted(int index, long testId, Facts facts) {}

  /**
   * Corrects the versions of those whose file tells anything else than the newest version of their
   * test does; adds versions for what is new.
   *
   * @param hashes of the newest versions
   */
  void resolve(List<Facts> facts, Dictionary.Known known, long[] hashes) throws SQLException {
    List<Wanted> wanted = new ArrayList<>();
    for (int i = 0; i < hashes.length; i++) {
      Facts told = facts.get(i);
      if (told.isNothing()) {
        known.facts()[i] = 0;
      } else if (told.hash() != hashes[i]) {
        known.facts()[i] = Dictionary.NO_VERSION;
        wanted.add(new Wanted(i, known.ids()[i], told));
      }
    }
    // In one order always, so that uploads of the same tests do not wait in a circle.
    wanted.sort(Comparator.comparingLong(Wanted::testId));
    for (int attempt = 0; attempt < TRIES && !wanted.isEmpty(); attempt++) {
      find(wanted, known);
      wanted.removeIf(one -> known.facts()[one.index] != Dictionary.NO_VERSION);
      if (!wanted.isEmpty()) {
        add(wanted);
      }
    }
    find(wanted, known);
  }

  private void find(List<Wanted> wanted, Dictionary.Known known) throws SQLException {
    if (wanted.isEmpty()) {
      return;
    }
    try (PreparedStatement select =
        connection.prepareStatement(
            "select k.n, f.version from unnest(?, ?) with ordinality as k(id, hash, n)"
                + " cross join lateral (select version from test_facts where test_id = k.id"
                + " and hash = k.hash order by version limit 1) f")) {
      select.setArray(1, ids(wanted));
      select.setArray(2, hashes(wanted));
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          known.facts()[wanted.get(rows.getInt(1) - 1).index] = rows.getInt(2);
        }
      }
    }
  }

  /** As far as there are versions left; of two uploads that add one at once, one wins. */
  private void add(List<Wanted> wanted) throws SQLException {
    try (PreparedStatement insert =
        connection.prepareStatement(
            "with k as (select * from unnest(?, ?, ?, ?, ?) as k(id, hash, file, line, tags)),"
                + " added as (insert into test_facts"
                + " (test_id, version, hash, source_file, source_line, tags)"
                + " select k.id, v.next, k.hash, k.file, k.line, k.tags::jsonb from k"
                + " cross join lateral (select coalesce(max(version), 0) + 1 as next"
                + " from test_facts where test_id = k.id) v where v.next <= ?"
                + " on conflict do nothing returning test_id, version, hash, tags),"
                + " tagged as (insert into test_tag (project_id, test_id, version, tag)"
                + " select distinct ?, a.test_id, a.version, left(t.tag, ?) from added a"
                + " cross join lateral jsonb_array_elements_text(a.tags) with ordinality t(tag, n)"
                + " where t.n <= ?)"
                + " update test t set facts = a.version, facts_hash = a.hash from added a"
                + " where t.project_id = ? and t.id = a.test_id")) {
      insert.setArray(1, ids(wanted));
      insert.setArray(2, hashes(wanted));
      insert.setArray(
          3, array("text", wanted.stream().map(one -> one.facts.file()).toArray(String[]::new)));
      insert.setArray(
          4, array("int4", wanted.stream().map(one -> line(one.facts)).toArray(Integer[]::new)));
      insert.setArray(
          5, array("text", wanted.stream().map(one -> tags(one.facts)).toArray(String[]::new)));
      insert.setInt(6, Packed.MAX_FACTS);
      insert.setInt(7, projectId);
      insert.setInt(8, Facts.FOUND_BY_LENGTH);
      insert.setInt(9, Facts.FOUND_BY_TAGS);
      insert.setInt(10, projectId);
      insert.executeUpdate();
    } catch (SQLException e) {
      // Another upload was at the same tests; what is still missing is looked for again.
      if (!Sql.isDeadlock(e)) {
        throw e;
      }
    }
  }

  private Array ids(List<Wanted> wanted) throws SQLException {
    return array(
        "int4", wanted.stream().map(one -> Math.toIntExact(one.testId)).toArray(Integer[]::new));
  }

  private Array hashes(List<Wanted> wanted) throws SQLException {
    return array("int8", wanted.stream().map(one -> one.facts.hash()).toArray(Long[]::new));
  }

  private Array array(String type, @Nullable Object[] values) throws SQLException {
    return connection.createArrayOf(type, values);
  }

  private static @Nullable Integer line(Facts facts) {
    return facts.line() == 0 ? null : facts.line();
  }

  private static @Nullable String tags(Facts facts) {
    return facts.tags().isEmpty() ? null : Json.text(facts.tags());
  }
}
