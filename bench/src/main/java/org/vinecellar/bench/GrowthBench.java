package org.vinecellar.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.client.command.VineCommand;

/**
 * The calls behind every page with 100 thousand results and with 10 million: 20 streams whose runs
 * have 5 000 results each, first one run a stream, then 100. The first is sent; the others are
 * copies of it that the database makes, with other tests failing. Beside them is a stream that does
 * not grow, by which is measured what is longer where there are more runs.
 */
final class GrowthBench {
  private static final int STREAMS = 20;
  private static final int RESULTS = 5_000;
  private static final int RUNS = Integer.getInteger("bench.growth.runs", 100);
  private static final int CALLS = 200;

  /** A stream that does not grow, with so many runs of 200 tests. */
  private static final String SAME = "same/s";

  private static final int SAME_RUNS = 100;

  /** Streams with as many runs of 50 tests: what boards show of them is as much, of less. */
  private static final String SMALL = "small/";

  private static final int SMALL_RESULTS = 50;

  private static final String STREAMS_HERE = "^(growth|same|small)/";

  private final Path folder;
  private final Target target;

  GrowthBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    for (int stream = 0; stream < STREAMS; stream++) {
      push("growth/s" + stream, RESULTS, stream);
    }
    // Of it, what is asked for is as long both times.
    push(SAME, 200, STREAMS);
    earlier(SAME, SAME_RUNS);
    for (int run = 2; run <= SAME_RUNS; run++) {
      copyRuns(SAME, run);
    }
    for (int stream = 0; stream < STREAMS; stream++) {
      push(SMALL + "s" + stream, SMALL_RESULTS, STREAMS + 1 + stream);
    }
    decided();
    earlier(SMALL + "%", RUNS);
    for (int run = 2; run <= RUNS; run++) {
      copyRuns(SMALL + "%", run);
    }
    analyze();
    Anew.learnt(target, STREAMS_HERE);
    Bench.progress("asking with 100 thousand results");
    Map<String, Double> few = measured();
    BoardsBench boards = new BoardsBench(target);
    // Whatever comes first is slower: nobody counts it.
    var unused = boards.measured(SMALL);
    few.putAll(boards.measured(SMALL));
    earlier("growth/%", RUNS);
    long begun = System.nanoTime();
    for (int run = 2; run <= RUNS; run++) {
      copyRuns("growth/%", run);
      if (run % 10 == 0) {
        Bench.progress(
            String.format(
                Locale.ROOT,
                "%d results after %d s",
                run * STREAMS * RESULTS,
                (System.nanoTime() - begun) / 1_000_000_000L));
      }
    }
    analyze();
    Bench.progress(
        String.format(
            Locale.ROOT, "all learned anew in %.0f s", Anew.learnt(target, STREAMS_HERE)));
    Bench.progress("asking with " + RUNS * STREAMS * RESULTS + " results");
    Map<String, Double> many = measured();
    many.putAll(boards.measured("growth/"));
    List<Bench.Row> rows = new ArrayList<>(boards.againstBare("growth/"));
    rows.addAll(boards.reports("growth/"));
    many.forEach((what, p95) -> rows.add(row(what, few.getOrDefault(what, p95), p95)));
    rows.addAll(sizes());
    return rows;
  }

  private static Bench.Row row(String what, double few, double many) {
    double ratio = many / few;
    return new Bench.Row(
        "growth: " + what,
        String.format(Locale.ROOT, "10 million results: p95 %.1f ms", many),
        String.format(Locale.ROOT, "100 thousand: p95 %.1f ms", few),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≤ 1.5",
        ratio <= 1.5);
  }

  /** The calls of the pages: of the streams, of a stream, of a run, of a result. */
  private Map<String, Double> measured() throws IOException, InterruptedException {
    String run = "runs/" + runId();
    String failed = resultId(run + "/results?limit=1&filter=outcome+eq+%22failed%22");
    String passed = resultId(run + "/results?limit=1&filter=outcome+eq+%22passed%22");
    String test = first("\"testId\":(\\d+)", target.get(run + "/results?limit=1"));
    Map<String, String> calls = new LinkedHashMap<>();
    calls.put("all streams", "streams");
    calls.put("a stream", "streams?name=growth/s7");
    calls.put("its runs", "runs?limit=30&stream=growth/s7");
    calls.put("a run's head", run);
    calls.put("its parts", run + "/parts");
    calls.put("its results", run + "/results?limit=100");
    calls.put("its failed results", run + "/results?limit=100&filter=outcome+eq+%22failed%22");
    calls.put("its results by text", run + "/results?limit=100&filter=text+co+%22Route42%22");
    calls.put("its outermost suites", run + "/suites");
    calls.put("its suites by text", run + "/suites?filter=text+co+%22Route42%22");
    calls.put("tests that are gone", run + "/gone");
    calls.put("its edits", run + "/edits");
    calls.put("its bundles", "bundles?run=" + run.substring(5));
    String group = first("\"group\":(\\d+)", target.get("groups?limit=1"));
    calls.put("today", "today");
    calls.put("the desk", "groups?limit=100");
    calls.put("the desk of two weeks", "groups?limit=100&days=14");
    calls.put("a group", "groups/" + group);
    calls.put("a run by groups", run + "/groups");
    calls.put("failures of a stream", "failures?limit=100&stream=growth/s7");
    calls.put("a failed result", run + "/results/" + failed);
    calls.put("a passed result", run + "/results/" + passed);
    calls.put("a test", "tests/" + test);
    String same = first("\"id\":(\\d+)", target.get("runs?limit=1&stream=" + SAME));
    String known = first("\"testId\":(\\d+)", target.get("runs/" + same + "/results?limit=1"));
    calls.put("100 results of a test", "tests/" + known + "/history?stream=" + SAME);
    calls.put("what happened to it", "tests/" + known + "/moments?stream=" + SAME);
    calls.put("200 tests by 100 runs", "tests/grid?stream=" + SAME);
    calls.put("flaky tests", "tests/taken?limit=100");
    for (String by :
        List.of("failing", "costly", "slowing", "slowest", "steady", "missing", "newest")) {
      calls.put("tests, " + by, "tests/ranked?limit=100&by=" + by);
    }
    calls.put("a test's note", "tests/" + test + "/note");
    calls.put("a test's edits", "tests/" + test + "/edits");
    Map<String, Double> p95 = new LinkedHashMap<>();
    for (Map.Entry<String, String> call : calls.entrySet()) {
      List<Double> times = new ArrayList<>();
      for (int i = 0; i < CALLS; i++) {
        long begun = System.nanoTime();
        target.get(call.getValue());
        if (i >= CALLS / 4) {
          times.add((System.nanoTime() - begun) / 1e6);
        }
      }
      p95.put(call.getKey(), Bench.p95(times));
    }
    return p95;
  }

  private String runId() throws IOException, InterruptedException {
    return first("\"id\":(\\d+)", target.get("runs?limit=1&stream=growth/s7"));
  }

  private String resultId(String path) throws IOException, InterruptedException {
    return first("\"id\":\"(\\d+-\\d+)\"", target.get(path));
  }

  private static String first(String pattern, String text) throws IOException {
    Matcher found = Pattern.compile(pattern).matcher(text);
    if (!found.find()) {
      throw new IOException("no " + pattern + " in " + text);
    }
    return found.group(1);
  }

  /** Of every second group somebody said what it is. */
  private void decided() throws Exception {
    List<Long> groups = new ArrayList<>();
    try (Connection connection = connection();
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("select id from failure_group where id % 2 = 0")) {
      while (rows.next()) {
        groups.add(rows.getLong(1));
      }
    }
    for (long group : groups) {
      target.post(
          "groups/" + group + "/decision",
          "{\"category\": \"Product fault\", \"comment\": \"seen\"}");
    }
    Bench.progress(groups.size() + " groups are explained");
    Thread.sleep(5_000);
  }

  private void push(String stream, int results, int seed) throws IOException {
    String prefix = "org.growth.s" + seed;
    Path file = Reports.write(folder.resolve("growth.xml"), prefix, results, seed, false);
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {
      "push",
      file.toString(),
      "--stream",
      stream,
      "--branch",
      "main",
      "--label",
      "team=team" + seed % 4,
      "--label",
      "env=env" + seed % 3
    };
    if (VineCommand.run(words, nowhere, System.err, target.environment()) != 0) {
      throw new IOException("the push failed");
    }
  }

  private Connection connection() throws SQLException {
    return DriverManager.getConnection(target.database(), "vine", target.password());
  }

  private void analyze() throws SQLException {
    try (Connection connection = connection();
        Statement statement = connection.createStatement()) {
      statement.execute("vacuum analyze");
    }
  }

  /** A run a night, the last of which is the one that was sent: the others come after it. */
  private void earlier(String streams, int runs) throws SQLException {
    String back = " - interval '" + (runs - 1) + " days'";
    String which =
        " in (select r.id from run r join stream s on s.id = r.stream_id where s.name like '"
            + streams
            + "')";
    try (Connection connection = connection();
        Statement statement = connection.createStatement()) {
      statement.execute("update run set started_at = started_at" + back + " where id" + which);
      statement.execute(
          "update group_run set started_at = started_at" + back + " where run_id" + which);
      statement.execute(
          "update failure_group g set last_at = (select max(x.started_at) from group_run x"
              + " where x.project_id = g.project_id and x.group_id = g.id)");
    }
  }

  /**
   * One more run of each stream, as the one before it with another night: each table that hangs on
   * runs is copied with the new run's number.
   */
  private void copyRuns(String streams, int number) throws SQLException {
    try (Connection connection = connection();
        Statement statement = connection.createStatement()) {
      connection.setAutoCommit(false);
      statement.execute(
          "create temp table copied on commit drop as select r.id as old,"
              + " nextval('run_id_seq')::int as id from run r join stream s"
              + " on s.project_id = r.project_id and s.id = r.stream_id"
              + " where s.name like '"
              + streams
              + "' and r.number = "
              + (number - 1));
      copy(
          statement,
          "run",
          "id",
          Map.of(
              "id",
              "c.id",
              "run_key",
              "'copy ' || c.id",
              "number",
              "t.number + 1",
              "previous_id",
              "t.id",
              "started_at",
              "t.started_at + interval '1 day'",
              "created_at",
              "t.created_at + interval '1 day'"));
      statement.execute(
          "update stream set next_run_number = "
              + (number + 1)
              + " where name like '"
              + streams
              + "'");
      Map<String, String> byRun = Map.of("run_id", "c.id");
      for (String table :
          new String[] {"part", "part_file", "run_label", "result_note", "run_suite"}) {
        copy(statement, table, "run_id", byRun);
      }
      copy(statement, "result_row", "run_id", byRun);
      copy(statement, "attempt", "run_id", byRun);
      copy(statement, "run_change", "run_id", byRun);
      copy(statement, "failure", "run_id", byRun);
      copy(statement, "group_cause", "run_id", byRun);
      copy(
          statement,
          "group_run",
          "run_id",
          Map.of("run_id", "c.id", "started_at", "t.started_at + interval '1 day'"));
      statement.execute(
          "update failure_group g set results = s.results, open = s.open, runs = s.runs, last_at = s.last_at"
              + " from (select project_id, group_id, sum(results) as results, sum(open) as open, count(*) as runs,"
              + " max(started_at) as last_at from group_run group by 1, 2) s"
              + " where s.project_id = g.project_id and s.group_id = g.id");
      connection.commit();
    }
  }

  private static void copy(
      Statement statement, String table, String run, Map<String, String> changed)
      throws SQLException {
    List<String> columns = new ArrayList<>();
    try (ResultSet rows =
        statement.executeQuery(
            "select column_name from information_schema.columns where table_name = '"
                + table
                + "' order by ordinal_position")) {
      while (rows.next()) {
        columns.add(rows.getString(1));
      }
    }
    List<String> values =
        columns.stream().map(column -> changed.getOrDefault(column, "t." + column)).toList();
    statement.execute(
        "insert into "
            + table
            + " ("
            + String.join(", ", columns)
            + ") select "
            + String.join(", ", values)
            + " from "
            + table
            + " t join copied c on c.old = t."
            + run
            + (table.equals("result_row") ? " order by c.id, t.place" : ""));
  }

  private List<Bench.Row> sizes() throws SQLException {
    try (Connection connection = connection();
        Statement statement = connection.createStatement()) {
      double results = number(statement, "select count(*) from result_row");
      double rows = size(statement, "result_row");
      double suites = size(statement, "run_suite");
      double details = size(statement, "attempt") + size(statement, "result_note");
      double all = number(statement, "select pg_database_size(current_database())");
      return List.of(
          new Bench.Row(
              "size of a passing result, indexes included",
              String.format(
                  Locale.ROOT,
                  "%.0f bytes a row; with its share of the suites' counts %.0f",
                  rows / results,
                  (rows + suites) / results),
              String.format(Locale.ROOT, "%.0f results", results),
              "",
              "≤ 100 bytes",
              (rows + suites) / results <= 100),
          new Bench.Row(
              "size of everything, by result",
              String.format(
                  Locale.ROOT,
                  "%.0f bytes, of which %.0f are traces of 2 %% failing",
                  all / results,
                  details / results),
              "",
              "",
              "",
              true));
    }
  }

  private static double size(Statement statement, String table) throws SQLException {
    return number(
        statement,
        "select sum(pg_total_relation_size(relid)) from pg_partition_tree('" + table + "')");
  }

  private static double number(Statement statement, String sql) throws SQLException {
    try (ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getDouble(1);
    }
  }
}
