package org.vinecellar.store.results;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.sql.CopyBuffer;
import org.vinecellar.store.sql.Sql;

/**
 * Numbers for suites and tests of one project. New names are added outside the transaction of the
 * upload, one statement at a time, so that two uploads with the same new tests never wait for each
 * other's end.
 */
public final class Dictionary implements AutoCloseable {
  /** Of facts that change so often that no version is left for them: they go with the result. */
  public static final int NO_VERSION = -1;

  private static final int DEADLOCK_TRIES = 6;

  private final Connection connection;
  private final int projectId;
  private final CopyManager copies;
  private final CopyBuffer copy =
      new CopyBuffer(
          "test (project_id, id, suite_id, facts, facts_hash, key_high, key_low, name, parameters,"
              + " variant_id, base_high, base_low)",
          12);
  private final TestFacts testFacts;
  private final VariantNames variants;
  private final Map<Key128, Long> suites = new HashMap<>();

  /** Suites that nobody had before this upload: no test in them can be known. */
  private final Set<Key128> newSuites = new HashSet<>();

  /**
   * Numbers of tests, and the versions of their facts, in the order in which they were asked for.
   *
   * @param facts 0 for none, {@link #NO_VERSION}
   */
  public record Known(long[] ids, int[] facts) {}

  /**
   * @param connection that commits by itself; closed with this
   */
  public Dictionary(Connection connection, int projectId) throws SQLException {
    this.connection = connection;
    this.projectId = projectId;
    // On a table that grows from nothing in a minute, statistics are always behind.
    execute("set enable_seqscan = off");
    Sql.commitLazily(connection);
    this.copies = connection.unwrap(PGConnection.class).getCopyAPI();
    this.testFacts = new TestFacts(connection, projectId);
    this.variants = new VariantNames(connection, projectId);
  }

  /**
   * Takes notice of suites, and of those around them, and adds what is new: a few statements for
   * each depth, however many there are.
   */
  public void learn(Collection<SuitePath> paths) throws SQLException {
    SortedMap<Integer, Map<Key128, SuitePath>> unknown = new TreeMap<>();
    for (SuitePath path : paths) {
      for (SuitePath at = path; at != null && at.depth() > 0; at = at.parent()) {
        if (suites.containsKey(at.key())) {
          break;
        }
        unknown.computeIfAbsent(at.depth(), depth -> new HashMap<>()).put(at.key(), at);
      }
    }
    for (Map<Key128, SuitePath> level : unknown.values()) {
      List<SuitePath> missing = findSuites(new ArrayList<>(level.values()));
      if (!missing.isEmpty()) {
        addSuites(missing);
        missing.forEach(suite -> newSuites.add(suite.key()));
        if (!findSuites(missing).isEmpty()) {
          throw new IllegalStateException("a suite vanished right after it was added");
        }
      }
    }
  }

  /** The number of a suite that was learned; null for the root. */
  public @Nullable Long suite(@Nullable SuitePath path) {
    return path == null || path.depth() == 0
        ? null
        : Objects.requireNonNull(suites.get(path.key()));
  }

  private @Nullable Integer suiteNumber(SuitePath path) {
    Long number = suite(path);
    return number == null ? null : Math.toIntExact(number);
  }

  /** Remembers the numbers of those that are there; returns the others. */
  private List<SuitePath> findSuites(List<SuitePath> wanted) throws SQLException {
    Long[] highs = wanted.stream().map(path -> path.key().high()).toArray(Long[]::new);
    Long[] lows = wanted.stream().map(path -> path.key().low()).toArray(Long[]::new);
    try (PreparedStatement select =
        connection.prepareStatement(
            "select s.key_high, s.key_low, s.id from unnest(?, ?) as k(high, low)"
                + " cross join lateral (select * from suite where project_id = ?"
                + " and key_high = k.high and key_low = k.low limit 1) s")) {
      select.setArray(1, connection.createArrayOf("int8", highs));
      select.setArray(2, connection.createArrayOf("int8", lows));
      select.setInt(3, projectId);
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          suites.put(new Key128(rows.getLong(1), rows.getLong(2)), rows.getLong(3));
        }
      }
    }
    return wanted.stream().filter(path -> !suites.containsKey(path.key())).toList();
  }

  private void addSuites(List<SuitePath> missing) throws SQLException {
    int n = missing.size();
    Object[][] columns = {new Long[n], new Long[n], new Long[n], new String[n]};
    for (int i = 0; i < n; i++) {
      SuitePath path = missing.get(i);
      columns[0][i] = path.key().high();
      columns[1][i] = path.key().low();
      columns[2][i] = suite(path.parent());
      columns[3][i] = path.name();
    }
    insert(
        "insert into suite (project_id, key_high, key_low, parent_id, name)"
            + " select ?, n.* from unnest(?, ?, ?, ?) as n"
            + " on conflict (project_id, key_high, key_low) do nothing",
        new String[] {"int8", "int8", "int8", "text"},
        columns);
  }

  /**
   * The numbers of the results' tests, in their order; adds what is new.
   *
   * @param results each of another test
   */
  public Known tests(List<TestResult> results) throws SQLException {
    List<TestId> tests = results.stream().map(TestResult::test).toList();
    List<Facts> facts = results.stream().map(Facts::of).toList();
    learn(tests.stream().map(TestId::suite).distinct().toList());
    Known known = new Known(new long[tests.size()], new int[tests.size()]);
    long[] hashes = new long[tests.size()];
    find(tests, maybeKnown(tests), known, hashes);
    int[] missing = missing(known.ids);
    variants.learn(Arrays.stream(missing).mapToObj(tests::get).toList());
    if (missing.length > 0 && !add(tests, facts, missing, known, hashes)) {
      find(tests, missing, known, hashes);
      if (missing(known.ids).length > 0) {
        throw new IllegalStateException("a test vanished right after it was added");
      }
    }
    testFacts.resolve(facts, known, hashes);
    return known;
  }

  private int[] maybeKnown(List<TestId> tests) {
    return IntStream.range(0, tests.size())
        .filter(i -> !newSuites.contains(tests.get(i).suite().key()))
        .toArray();
  }

  private static int[] missing(long[] ids) {
    return IntStream.range(0, ids.length).filter(i -> ids[i] == 0).toArray();
  }

  /** The index is asked once for each key, whatever the planner believes of the table. */
  private void find(List<TestId> tests, int[] wanted, Known known, long[] hashes)
      throws SQLException {
    if (wanted.length == 0) {
      return;
    }
    long[] highs = new long[wanted.length];
    long[] lows = new long[wanted.length];
    for (int i = 0; i < wanted.length; i++) {
      Key128 key = tests.get(wanted[i]).key();
      highs[i] = key.high();
      lows[i] = key.low();
    }
    try (PreparedStatement select =
        connection.prepareStatement(
            "select k.n, t.id, t.facts, t.facts_hash"
                + " from unnest(?, ?) with ordinality as k(high, low, n)"
                + " cross join lateral (select id, facts, facts_hash from test where project_id = ?"
                + " and key_high = k.high and key_low = k.low limit 1) t")) {
      select.setArray(1, connection.createArrayOf("int8", boxed(highs)));
      select.setArray(2, connection.createArrayOf("int8", boxed(lows)));
      select.setInt(3, projectId);
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          int i = wanted[rows.getInt(1) - 1];
          known.ids[i] = rows.getLong(2);
          known.facts[i] = rows.getInt(3);
          hashes[i] = rows.getLong(4);
        }
      }
    }
  }

  private static Long[] boxed(long[] values) {
    Long[] boxed = new Long[values.length];
    Arrays.setAll(boxed, i -> values[i]);
    return boxed;
  }

  /**
   * Adds tests under numbers taken beforehand, by COPY; should another upload add one of them at
   * the same moment, by the slower statement that lets the other win.
   *
   * @return whether the numbers of all are known now
   */
  private boolean add(
      List<TestId> tests, List<Facts> facts, int[] missing, Known known, long[] hashes)
      throws SQLException {
    int[] numbers = numbers(missing.length);
    for (int i = 0; i < missing.length; i++) {
      TestId test = tests.get(missing[i]);
      Facts told = facts.get(missing[i]);
      testFacts.first(numbers[i], told);
      copy.row();
      copy.int4(projectId);
      copy.int4(numbers[i]);
      copy.int4OrNone(suiteNumber(test.suite()));
      copy.int4(told.isNothing() ? 0 : 1);
      copy.int8(told.hash());
      copy.int8(test.key().high());
      copy.int8(test.key().low());
      copy.text(test.name());
      copy.text(test.parameters());
      if (test.variant().isNone()) {
        copy.none();
        copy.none();
        copy.none();
      } else {
        copy.int4(variants.of(test.variant()));
        copy.int8(test.base().high());
        copy.int8(test.base().low());
      }
    }
    testFacts.send(copies);
    try {
      copy.send(copies);
    } catch (SQLException e) {
      if (!Sql.isDuplicate(e)) {
        throw e;
      }
      copy.clear();
      addBesideOthers(tests, missing);
      return false;
    }
    for (int i = 0; i < missing.length; i++) {
      known.ids[missing[i]] = numbers[i];
      known.facts[missing[i]] = facts.get(missing[i]).isNothing() ? 0 : 1;
      hashes[missing[i]] = facts.get(missing[i]).hash();
    }
    return true;
  }

  private int[] numbers(int n) throws SQLException {
    try (PreparedStatement select =
        connection.prepareStatement("select nextval('test_id_seq') from generate_series(1, ?)")) {
      select.setInt(1, n);
      int[] numbers = new int[n];
      try (ResultSet rows = select.executeQuery()) {
        for (int i = 0; rows.next(); i++) {
          numbers[i] = rows.getInt(1);
        }
      }
      return numbers;
    }
  }

  private void addBesideOthers(List<TestId> tests, int[] missing) throws SQLException {
    int n = missing.length;
    Object[][] columns = {
      new Long[n],
      new Long[n],
      new Long[n],
      new String[n],
      new String[n],
      new Integer[n],
      new Long[n],
      new Long[n]
    };
    for (int i = 0; i < n; i++) {
      TestId test = tests.get(missing[i]);
      columns[0][i] = test.key().high();
      columns[1][i] = test.key().low();
      columns[2][i] = suite(test.suite());
      columns[3][i] = test.name();
      columns[4][i] = test.parameters();
      if (!test.variant().isNone()) {
        columns[5][i] = variants.of(test.variant());
        columns[6][i] = test.base().high();
        columns[7][i] = test.base().low();
      }
    }
    insert(
        "insert into test (project_id, key_high, key_low, suite_id, name, parameters,"
            + " variant_id, base_high, base_low)"
            + " select ?, n.* from unnest(?, ?, ?, ?, ?, ?, ?, ?) as n"
            + " on conflict (project_id, key_high, key_low) do nothing",
        new String[] {"int8", "int8", "int8", "text", "text", "int4", "int8", "int8"},
        columns);
  }

  private void insert(String sql, String[] types, Object[][] columns) throws SQLException {
    for (int attempt = 1; ; attempt++) {
      try (PreparedStatement insert = connection.prepareStatement(sql)) {
        insert.setInt(1, projectId);
        for (int i = 0; i < types.length; i++) {
          insert.setArray(i + 2, connection.createArrayOf(types[i], columns[i]));
        }
        insert.executeUpdate();
        return;
      } catch (SQLException e) {
        // Two uploads that add the same names in another order; PostgreSQL stopped this one.
        if (!"40P01".equals(e.getSQLState()) || attempt == DEADLOCK_TRIES) {
          throw e;
        }
      }
    }
  }

  private void execute(String sql) throws SQLException {
    try (var statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public void close() {
    try (connection) {
      execute("reset enable_seqscan");
      Sql.commitAtOnce(connection);
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
  }
}
