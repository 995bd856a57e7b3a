package org.vinecellar.bench;

import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The calls behind every page of a portal with 100 thousand results and of one with 10 million: 20
 * streams whose runs have 5 000 results each, in the first with one run a stream, in the second
 * with 100. Both run side by side and are asked in turn, so that a machine that is slower for a
 * while is so for both. In each is a stream that is the same, by which is measured what is longer
 * where there are more runs.
 */
final class GrowthBench {
  private static final int RESULTS = 5_000;
  private static final int RUNS = Integer.getInteger("bench.growth.runs", 100);
  private static final int CALLS = 200;
  private static final String GROWTH = "growth/";

  /** Streams with as many runs of 50 tests: what boards show of them is as much, of less. */
  private static final String SMALL = "small/";

  private static final int SMALL_RESULTS = 50;

  private final Path folder;
  private final Target few;
  private final Target many;

  /**
   * @param few the portal that gets 100 thousand results
   * @param many the one that gets 10 million
   */
  GrowthBench(Path folder, Target few, Target many) {
    this.folder = folder;
    this.few = few;
    this.many = many;
  }

  List<Bench.Row> run() throws Exception {
    new GrowthData(folder, few)
        .fill(
            new GrowthData.Streams(GROWTH, 1, RESULTS),
            new GrowthData.Streams(SMALL, RUNS, SMALL_RESULTS));
    new GrowthData(folder, many).fill(new GrowthData.Streams(GROWTH, RUNS, RESULTS));
    Bench.progress("asking both portals in turn");
    List<Bench.Row> rows = new ArrayList<>();
    rows.addAll(pages());
    BoardsBench boards = new BoardsBench(few, many);
    rows.addAll(boards.boards(SMALL, GROWTH));
    rows.addAll(boards.filters());
    rows.addAll(boards.reports(GROWTH));
    rows.addAll(sizes());
    return rows;
  }

  static Bench.Row row(String what, double few, double many) {
    double ratio = many / few;
    return new Bench.Row(
        "growth: " + what,
        String.format(Locale.ROOT, "10 million results: p95 %.1f ms", many),
        String.format(Locale.ROOT, "100 thousand: p95 %.1f ms", few),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≤ 1.5",
        ratio <= 1.5);
  }

  /** The calls of the pages, of both portals in turn. */
  private List<Bench.Row> pages() throws IOException, InterruptedException {
    Map<String, String> ofFew = calls(few);
    List<Bench.Row> rows = new ArrayList<>();
    for (Map.Entry<String, String> call : calls(many).entrySet()) {
      List<Double> fewTook = new ArrayList<>();
      List<Double> manyTook = new ArrayList<>();
      String sameOfFew = Objects.requireNonNull(ofFew.get(call.getKey()));
      for (int i = 0; i < CALLS; i++) {
        double one = took(few, sameOfFew);
        double other = took(many, call.getValue());
        if (i >= CALLS / 4) {
          fewTook.add(one);
          manyTook.add(other);
        }
      }
      rows.add(row(call.getKey(), Bench.p95(fewTook), Bench.p95(manyTook)));
    }
    return rows;
  }

  private static double took(Target target, String path) throws IOException, InterruptedException {
    long begun = System.nanoTime();
    String unused = target.get(path);
    return (System.nanoTime() - begun) / 1e6;
  }

  /** Those of the streams, of a stream, of a run, of a result. */
  private static Map<String, String> calls(Target target) throws IOException, InterruptedException {
    String run = "runs/" + runId(target);
    String failed = resultId(target, run + "/results?limit=1&filter=outcome+eq+%22failed%22");
    String passed = resultId(target, run + "/results?limit=1&filter=outcome+eq+%22passed%22");
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
    String same = first("\"id\":(\\d+)", target.get("runs?limit=1&stream=" + GrowthData.SAME));
    String known = first("\"testId\":(\\d+)", target.get("runs/" + same + "/results?limit=1"));
    calls.put("100 results of a test", "tests/" + known + "/history?stream=" + GrowthData.SAME);
    calls.put("what happened to it", "tests/" + known + "/moments?stream=" + GrowthData.SAME);
    calls.put("200 tests by 100 runs", "tests/grid?stream=" + GrowthData.SAME);
    calls.put("flaky tests", "tests/taken?limit=100");
    for (String by :
        List.of("failing", "costly", "slowing", "slowest", "steady", "missing", "newest")) {
      calls.put("tests, " + by, "tests/ranked?limit=100&by=" + by);
    }
    calls.put("a test's note", "tests/" + test + "/note");
    calls.put("a test's edits", "tests/" + test + "/edits");
    return calls;
  }

  private static String runId(Target target) throws IOException, InterruptedException {
    return first("\"id\":(\\d+)", target.get("runs?limit=1&stream=growth/s7"));
  }

  private static String resultId(Target target, String path)
      throws IOException, InterruptedException {
    return first("\"id\":\"(\\d+-\\d+)\"", target.get(path));
  }

  private static String first(String pattern, String text) throws IOException {
    Matcher found = Pattern.compile(pattern).matcher(text);
    if (!found.find()) {
      throw new IOException("no " + pattern + " in " + text);
    }
    return found.group(1);
  }

  private List<Bench.Row> sizes() throws SQLException {
    try (Connection connection = many.connection();
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
