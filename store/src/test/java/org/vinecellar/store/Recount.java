package org.vinecellar.store;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;

/**
 * What is told of runs, counted again from the bare rows of results, one by one, with none of the
 * code that is tested.
 */
final class Recount {
  private final DataSource database;

  Recount(DataSource database) {
    this.database = database;
  }

  /** A row, unpacked by the words of the migration. */
  private record Row(long run, int place, long test, int state, long micros) {
    Outcome outcome() {
      return Outcome.ofCode(state % 8);
    }

    Outcome told() {
      return Outcome.ofCode(state / 8 % 8);
    }

    ResultKind kind() {
      return ResultKind.ofCode(state / 64 % 4);
    }

    boolean superseded() {
      return state / 256 % 2 == 1;
    }

    int attempts() {
      return state / 512 % 512;
    }

    boolean stumbled() {
      return state / (1 << 18) % 2 == 1;
    }

    boolean passedOnRetry() {
      return attempts() > 1 && stumbled();
    }

    boolean retriedItself() {
      return state / (1 << 19) % 2 == 1;
    }

    int part() {
      return Math.floorDiv(place, 1 << 20) + 2048;
    }

    Counts standing() {
      return counts(outcome(), attempts() > 1);
    }

    Counts toldCounts() {
      return counts(told(), retriedItself());
    }

    private Counts counts(Outcome outcome, boolean retried) {
      if (kind() == ResultKind.SETUP) {
        return outcome.isFailing() ? Counts.NONE.add(kind(), outcome, 1) : Counts.NONE;
      }
      return Counts.NONE.add(kind(), outcome, 1).addRetried(retried ? 1 : 0);
    }
  }

  /** All that is told of the runs of a project, as lines; and what should be told of them. */
  record Books(Map<String, String> told, Map<String, String> counted) {
    /** Where the two differ, told and counted. */
    List<String> differences() {
      Set<String> keys = new TreeSet<>(told.keySet());
      keys.addAll(counted.keySet());
      return keys.stream()
          .filter(key -> !Objects.equals(told.get(key), counted.get(key)))
          .map(key -> key + ": " + told.get(key) + " is told of " + counted.get(key))
          .toList();
    }
  }

  Books books(int project) throws SQLException {
    try (Connection connection = database.getConnection();
        Statement statement = connection.createStatement()) {
      Map<Long, Long> suiteOf = pairs(statement, "select id, suite_id from test");
      Map<Long, Long> parents = pairs(statement, "select id, parent_id from suite");
      Map<String, String> told = new TreeMap<>();
      Map<String, String> counted = new TreeMap<>();
      List<long[]> runs = runs(statement, project);
      for (long[] run : runs) {
        List<Row> rows = rows(statement, run[0]);
        told(statement, project, run[0], told);
        labels(statement, run[0], told, counted);
        counted(run, rows, suiteOf, parents, counted);
        ChangeCounts changes =
            changes(
                run,
                rows,
                run[1] == 0 ? null : rows(statement, run[1]),
                nowNames(statement, run[3]),
                counted);
        counted.put(run[0] + " changes", changes.toString());
        counted.put(
            run[0] + " overruled",
            "" + number(statement, "select count(*) from overruling where run_id = " + run[0]));
      }
      return new Books(told, counted);
    }
  }

  /** Rows of runs that are gone, and runs that should be. */
  long left(int project) throws SQLException {
    try (Connection connection = database.getConnection();
        Statement statement = connection.createStatement()) {
      long left =
          number(
              statement,
              "select count(*) from run where deleted_at is not null and project_id = " + project);
      for (String table :
          new String[] {
            "result_row",
            "attempt",
            "run_suite",
            "run_change",
            "overruling",
            "part",
            "run_label",
            "run_tag"
          }) {
        left +=
            number(
                statement,
                "select count(*) from " + table + " where run_id not in (select id from run)");
      }
      return left
          + number(
              statement,
              "select count(*) from stream s where project_id = "
                  + project
                  + " and (deleted_at is not null or runs <> (select count(*) from run r"
                  + " where r.stream_id = s.id and r.number is not null))");
    }
  }

  /** As rows, and as the columns of uploads and notes come to. */
  private static void labels(
      Statement statement, long run, Map<String, String> told, Map<String, String> counted)
      throws SQLException {
    try (ResultSet row =
        statement.executeQuery(
            "select key, value from run_label where run_id = "
                + run
                + " union all select 'tag ' || tag, '' from run_tag where run_id = "
                + run)) {
      while (row.next()) {
        told.put(run + " label " + row.getString(1), row.getString(2));
      }
    }
    Map<String, @Nullable String> labels = new HashMap<>();
    try (ResultSet row =
        statement.executeQuery(
            "select r.labels, coalesce(n.labels, '{}'), coalesce(n.tags, '[]') from run r"
                + " left join note n on n.subject = 0 and n.subject_id = r.id where r.id = "
                + run)) {
      row.next();
      ObjectMapper json = new ObjectMapper();
      for (int column = 1; column <= 2; column++) {
        json.readTree(row.getString(column))
            .fields()
            .forEachRemaining(
                one ->
                    labels.put(
                        one.getKey(), one.getValue().isNull() ? null : one.getValue().asText()));
      }
      json.readTree(row.getString(3)).forEach(tag -> labels.put("tag " + tag.asText(), ""));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
    labels.forEach(
        (key, value) -> {
          if (value != null) {
            counted.put(run + " label " + key, value);
          }
        });
  }

  private static void counted(
      long[] run,
      List<Row> rows,
      Map<Long, Long> suiteOf,
      Map<Long, Long> parents,
      Map<String, String> counted) {
    Counts all = Counts.NONE;
    long micros = 0;
    Map<Long, Counts> suites = new HashMap<>();
    Map<Long, Counts> own = new HashMap<>();
    Map<Integer, Counts> parts = new HashMap<>();
    for (Row row : rows) {
      micros += row.micros;
      parts.merge(row.part(), row.toldCounts(), Counts::plus);
      if (row.superseded()) {
        continue;
      }
      all = all.plus(row.standing());
      Long suite = suiteOf.get(row.test);
      own.merge(suite == null ? 0 : suite, row.standing(), Counts::plus);
      if (suite == null) {
        suites.merge(0L, row.standing(), Counts::plus);
      }
      for (Long at = suite; at != null; at = parents.get(at)) {
        suites.merge(at, row.standing(), Counts::plus);
      }
    }
    counted.put(run[0] + " run", all + " in " + micros);
    parts.forEach((part, counts) -> counted.put(run[0] + " part " + part, counts.toString()));
    suites.forEach(
        (suite, counts) -> {
          if (!counts.equals(Counts.NONE)) {
            counted.put(
                run[0] + " suite " + suite, counts + " " + own.getOrDefault(suite, Counts.NONE));
          }
        });
  }

  private static ChangeCounts changes(
      long[] run,
      List<Row> rows,
      @Nullable List<Row> before,
      Map<Long, Long> names,
      Map<String, String> counted) {
    Map<Long, Row> now = standing(rows);
    Map<Long, Row> then = before == null ? Map.of() : standing(before);
    ChangeCounts counts = ChangeCounts.NONE;
    for (Row row : now.values()) {
      Row old = then.get(row.test);
      boolean renamed = false;
      for (Row other : then.values()) {
        if (!then.containsKey(row.test) && now(names, other.test) == now(names, row.test)) {
          old = old == null ? other : worse(old, other);
          renamed = true;
        }
      }
      Change change =
          Change.between(old == null ? null : old.outcome(), row.outcome(), row.passedOnRetry());
      change = change == null && renamed ? Change.RENAMED : change;
      if (change != null && !(change == Change.ADDED && before == null)) {
        counts = counts.add(change, 1);
        counted.put(run[0] + " change " + row.test, change.name());
      }
    }
    for (Row old : then.values()) {
      boolean whole = run[2] == 0;
      boolean gone =
          now.keySet().stream().noneMatch(test -> now(names, test) == now(names, old.test));
      if (whole && gone && old.kind() == ResultKind.TEST) {
        counts = counts.add(Change.GONE, 1);
        counted.put(run[0] + " change " + old.test, Change.GONE.name());
      }
    }
    return counts;
  }

  private static long now(Map<Long, Long> names, long test) {
    return names.getOrDefault(test, test);
  }

  /** Earlier names of the tests of a stream, each with the one of now. */
  static Map<Long, Long> nowNames(Statement statement, long stream) throws SQLException {
    Map<Long, Long> next = new HashMap<>();
    try (ResultSet row =
        statement.executeQuery(
            "select old_test_id, new_test_id from succession where state in (1, 3) and stream_id = "
                + stream
                + " order by state desc, likely desc, made_at desc, old_test_id, new_test_id")) {
      while (row.next()) {
        long old = row.getLong(1);
        long end = last(next, row.getLong(2));
        if (!next.containsKey(old) && end != old) {
          next.put(old, row.getLong(2));
        }
      }
    }
    Map<Long, Long> names = new HashMap<>();
    next.keySet().forEach(old -> names.put(old, last(next, old)));
    return names;
  }

  private static long last(Map<Long, Long> next, long test) {
    long last = test;
    while (next.containsKey(last)) {
      last = next.get(last);
    }
    return last;
  }

  private static Map<Long, Row> standing(List<Row> rows) {
    Map<Long, Row> standing = new HashMap<>();
    for (Row row : rows) {
      if (!row.superseded()) {
        standing.merge(row.test, row, Recount::worse);
      }
    }
    return standing;
  }

  /** Of two results of a test that both stand: the outcome of the worse, and a retry in either. */
  private static Row worse(Row a, Row b) {
    Row worse = a.outcome().worse(b.outcome()) == a.outcome() ? a : b;
    Row retried = a.passedOnRetry() ? a : b;
    return new Row(
        worse.run,
        worse.place,
        worse.test,
        worse.state % 512 + retried.state / 512 * 512,
        worse.micros);
  }

  private static void told(Statement statement, int project, long run, Map<String, String> told)
      throws SQLException {
    String counts = "passed, failed, errored, skipped, not_reached, retried, set_ups";
    String own = counts.replaceAll("(\\w+)", "own_$1");
    String where = " where project_id = " + project + " and ";
    try (ResultSet row =
        statement.executeQuery(
            "select "
                + counts
                + ", duration_us, overruled, new_failing, failing_as_before, fixed, passed_on_retry,"
                + " added, gone, renamed from run"
                + where
                + "id = "
                + run)) {
      row.next();
      told.put(run + " run", counts(row, 1) + " in " + row.getLong(8));
      told.put(run + " overruled", row.getString(9));
      told.put(
          run + " changes",
          new ChangeCounts(
                  row.getInt(10),
                  row.getInt(11),
                  row.getInt(12),
                  row.getInt(13),
                  row.getInt(14),
                  row.getInt(15),
                  row.getInt(16))
              .toString());
    }
    try (ResultSet row =
        statement.executeQuery(
            "select " + counts + ", part_no from part" + where + "run_id = " + run)) {
      while (row.next()) {
        Counts part = counts(row, 1);
        if (!part.equals(Counts.NONE)) {
          told.put(run + " part " + row.getInt(8), part.toString());
        }
      }
    }
    try (ResultSet row =
        statement.executeQuery(
            "select " + counts + ", " + own + ", suite_id from run_suite where run_id = " + run)) {
      while (row.next()) {
        told.put(run + " suite " + row.getLong(15), counts(row, 1) + " " + counts(row, 8));
      }
    }
    try (ResultSet row =
        statement.executeQuery("select test_id, change from run_change where run_id = " + run)) {
      while (row.next()) {
        told.put(run + " change " + row.getLong(1), Change.ofCode(row.getInt(2)).name());
      }
    }
  }

  private static Counts counts(ResultSet row, int from) throws SQLException {
    return new Counts(
        row.getInt(from),
        row.getInt(from + 1),
        row.getInt(from + 2),
        row.getInt(from + 3),
        row.getInt(from + 4),
        row.getInt(from + 5),
        row.getInt(from + 6));
  }

  /**
   * Of each run its number in the database, that of the one before or 0, whether more may come (it
   * is open, or a part of it is not whole), and its stream.
   */
  private static List<long[]> runs(Statement statement, int project) throws SQLException {
    List<long[]> runs = new ArrayList<>();
    try (ResultSet row =
        statement.executeQuery(
            "select id, coalesce(previous_id, 0), (is_open or exists (select 1 from part p"
                + " where p.run_id = run.id and (p.broken_off or p.live_batch is not null)))::int,"
                + " stream_id from run where number is not null"
                + " and project_id = "
                + project)) {
      while (row.next()) {
        runs.add(new long[] {row.getLong(1), row.getLong(2), row.getLong(3), row.getLong(4)});
      }
    }
    return runs;
  }

  private static List<Row> rows(Statement statement, long run) throws SQLException {
    List<Row> rows = new ArrayList<>();
    try (ResultSet row =
        statement.executeQuery(
            "select place, test_id, state, coalesce(duration, 0) from result_row where run_id = "
                + run)) {
      while (row.next()) {
        rows.add(new Row(run, row.getInt(1), row.getLong(2), row.getInt(3), row.getLong(4)));
      }
    }
    return rows;
  }

  private static Map<Long, Long> pairs(Statement statement, String sql) throws SQLException {
    Map<Long, Long> pairs = new HashMap<>();
    try (ResultSet row = statement.executeQuery(sql)) {
      while (row.next()) {
        pairs.put(row.getLong(1), row.getObject(2) == null ? null : row.getLong(2));
      }
    }
    return pairs;
  }

  private static long number(Statement statement, String sql) throws SQLException {
    try (ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getLong(1);
    }
  }
}
