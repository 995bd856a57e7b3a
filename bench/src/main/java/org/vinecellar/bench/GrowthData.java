package org.vinecellar.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.vinecellar.client.command.VineCommand;

/**
 * Fills a portal. The first run of each stream is sent; the others are copies of it that the
 * database makes, a night apart.
 */
final class GrowthData {
  static final int STREAMS = 20;

  /** A stream with so many runs of 200 tests, however much is beside it. */
  static final String SAME = "same/s";

  private static final int SAME_RUNS = 100;

  private final Path folder;
  private final Target target;

  GrowthData(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  /**
   * Twenty streams.
   *
   * @param prefix what their names begin with
   * @param runs of each of them
   * @param results of each run
   */
  record Streams(String prefix, int runs, int results) {}

  /** All of these, and the stream that is the same everywhere; they are learned of, too. */
  void fill(Streams... all) throws Exception {
    push(SAME, 200, 1000);
    int seed = 0;
    for (Streams some : all) {
      for (int stream = 0; stream < STREAMS; stream++) {
        push(some.prefix + "s" + stream, some.results, seed++);
      }
    }
    decided();
    copies(SAME, SAME_RUNS, 200);
    for (Streams some : all) {
      copies(some.prefix + "%", some.runs, STREAMS * some.results);
    }
    try (Connection connection = target.connection();
        Statement statement = connection.createStatement()) {
      // As upkeep does from time to time, now that there are enough runs.
      statement.execute(
          "do $$ declare cut text; begin for cut in select attrelid::regclass::text from pg_attribute"
              + " where attname = 'run_id' and attstattarget = 0 loop execute"
              + " 'alter table ' || cut || ' alter column run_id set statistics -1'; end loop; end $$");
      statement.execute("vacuum analyze");
    }
    Bench.progress(
        String.format(Locale.ROOT, "all learned anew in %.0f s", Anew.learnt(target, "")));
  }

  private void copies(String streams, int runs, int results) throws SQLException {
    earlier(streams, runs);
    long begun = System.nanoTime();
    for (int run = 2; run <= runs; run++) {
      copyRuns(streams, run);
      if (run % 20 == 0) {
        Bench.progress(
            String.format(
                Locale.ROOT,
                "%s: %d results after %d s",
                streams,
                run * results,
                (System.nanoTime() - begun) / 1_000_000_000L));
      }
    }
  }

  /** Of every second group somebody said what it is. */
  private void decided() throws Exception {
    List<Long> groups = new ArrayList<>();
    try (Connection connection = target.connection();
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

  /** A run a night, the last of which is the one that was sent: the others come after it. */
  private void earlier(String streams, int runs) throws SQLException {
    String back = " - interval '" + (runs - 1) + " days'";
    String which =
        " in (select r.id from run r join stream s on s.id = r.stream_id where s.name like '"
            + streams
            + "')";
    try (Connection connection = target.connection();
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
    try (Connection connection = target.connection();
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
      copy(statement, "run_cause", "run_id", byRun);
      copy(statement, "run_failing", "run_id", byRun);
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
}
