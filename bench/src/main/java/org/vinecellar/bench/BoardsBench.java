package org.vinecellar.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * The ready boards, all their panels one after the other, of some streams; and first pages of
 * filters.
 */
final class BoardsBench {
  private static final int ROUNDS = 80;
  private static final List<String> READY = List.of("stream", "teams", "release");
  private static final String TIMES = "times";
  private static final String LABELS = "labels";
  private static final ObjectMapper JSON = new ObjectMapper();

  private static final String RUNS =
      "run r join stream s on s.project_id = r.project_id and s.id = r.stream_id"
          + " where r.number is not null and s.name like '%s%%'"
          + " and r.started_at >= date_trunc('day', now(), 'UTC') - interval '%d days'";

  private static final String SUMS =
      "count(*), sum(r.passed), sum(r.failed), sum(r.errored), sum(r.skipped), sum(r.not_reached)";

  /** Of each kind of panel, what a person would write in psql; {@code RUNS} stands for its runs. */
  private static final Map<String, List<String>> BARE =
      Map.ofEntries(
          Map.entry(
              "outcomes",
              List.of("select date_trunc('day', r.started_at), " + SUMS + " from RUNS group by 1")),
          Map.entry(
              "rate",
              List.of("select date_trunc('day', r.started_at), " + SUMS + " from RUNS group by 1")),
          Map.entry(
              "time",
              List.of(
                  "select date_trunc('day', r.started_at), sum(r.duration_us), count(*) from RUNS group by 1")),
          Map.entry(
              "growth",
              List.of(
                  "select date_trunc('day', r.started_at), sum(r.added), sum(r.gone), sum(r.new_failing), sum(r.fixed) from RUNS group by 1")),
          Map.entry(
              "latest",
              List.of("select r.* from RUNS order by r.started_at desc, r.id desc limit 1")),
          Map.entry(
              "breakdown",
              List.of(
                  "select l.value, "
                      + SUMS
                      + " from run_label l join (select r.* from RUNS) r on r.id = l.run_id and l.key = 'team' group by 1",
                  "select l.value, "
                      + SUMS
                      + " from run_label l join (select r.* from BEFORE) r on r.id = l.run_id and l.key = 'team' group by 1")),
          Map.entry(
              "matrix",
              List.of(
                  "select l.value, m.value, "
                      + SUMS
                      + " from run_label l join run_label m on m.run_id = l.run_id and m.key = 'env' join (select r.* from RUNS) r on r.id = l.run_id and l.key = 'team' group by 1, 2")),
          Map.entry(
              "worst",
              List.of(
                  "select f.test_id, count(*) from failure f join (select r.id from RUNS) r on r.id = f.run_id group by 1 order by 2 desc limit 51")),
          Map.entry(
              "causes",
              List.of(
                  "select date_trunc('day', r.started_at), c.category_id, sum(c.results) from group_cause c join (select r.* from RUNS) r on r.project_id = c.project_id and r.id = c.run_id group by 1, 2",
                  "select date_trunc('day', r.started_at), sum(r.failed + r.errored) from RUNS group by 1")),
          Map.entry(
              "flaky",
              List.of("select * from test_belief where verdict = 1 order by score desc limit 51")),
          Map.entry(
              "groups",
              List.of(
                  "select g.group_id, sum(g.results), sum(g.open), count(*) from group_run g join (select r.* from RUNS) r on r.project_id = g.project_id and r.id = g.run_id group by 1 order by 2 desc limit 51")),
          Map.entry(
              "tickets",
              List.of(
                  "select g.group_id, sum(g.results) from group_run g join group_ticket t on t.project_id = g.project_id and t.group_id = g.group_id join (select r.* from RUNS) r on r.project_id = g.project_id and r.id = g.run_id group by 1")));

  private static final String FAILED = "and o.outcome = 1 and o.outcome <> 0";

  /** The page has what fails first, as the portal's. */
  private static final String FAILING_FIRST = "order by (o.outcome in (1, 2)) desc, o.place";

  /**
   * Filters of all results, with what a person would write for their first page: which runs, which
   * of their results.
   */
  private static final Map<String, String> FILTERS =
      Map.of(
          "outcome eq \"failed\"",
          page("", "", FAILED, "order by o.place"),
          "run.stream eq \"growth/s7\" and outcome eq \"failed\"",
          page(
              "join stream s on s.project_id = r.project_id and s.id = r.stream_id",
              "and s.name = 'growth/s7'",
              FAILED,
              "order by o.place"),
          "label.team eq \"team1\"",
          page(
              "join run_label l on l.run_id = r.id and l.key = 'team' and l.value = 'team1'",
              "",
              "",
              FAILING_FIRST),
          "run.number eq 50",
          page("", "and r.number = 50", "", FAILING_FIRST));

  /** A hundred results with what the page tells of each: its test, what changed, why it fails. */
  private static String page(String join, String runs, String results, String order) {
    return "select x.*, t.name, t.parameters, s.name, c.change, v.reported, g.kind, g.sentence,"
        + " g.template, d.comment, d.made_by, k.name, e.number, e.started_at, e.name"
        + " from (select r.project_id, o.* from (select r.project_id, r.id from run r "
        + join
        + " where r.project_id = 1 and r.number is not null "
        + runs
        + " order by r.started_at desc, r.id desc) r cross join lateral (select * from result o"
        + " where o.run_id = r.id and not o.superseded "
        + results
        + " "
        + order
        + " limit 100) o limit 100) x"
        + " join test t on t.project_id = x.project_id and t.id = x.test_id"
        + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
        + " left join run_change c on c.run_id = x.run_id and c.test_id = x.test_id"
        + " left join overruling v on v.run_id = x.run_id and v.place = x.place"
        + " left join failure f on f.run_id = x.run_id and f.place = x.place"
        + " left join failure_group g on g.project_id = x.project_id and g.id = f.group_id"
        + " left join decision d on d.project_id = g.project_id and d.id = f.decision_id"
        + " left join category k on k.project_id = d.project_id and k.id = d.category_id"
        + " left join lateral (select w.number, w.started_at, m.name from group_run gr"
        + " join run w on w.project_id = gr.project_id and w.id = gr.run_id"
        + " join stream m on m.project_id = w.project_id and m.id = w.stream_id"
        + " where gr.project_id = g.project_id and gr.group_id = g.id"
        + " order by gr.started_at, gr.run_id limit 1) e on true";
  }

  private final Target few;
  private final Target many;
  private int made;

  /**
   * @param few the portal with few results, in streams with as many runs
   * @param many the one with many
   */
  BoardsBench(Target few, Target many) {
    this.few = few;
    this.many = many;
  }

  /**
   * Boards of both portals and what a person would write in SQL for them, in turn: a machine that
   * is slower for a while is so for all of them.
   *
   * @param fewStreams what the names of the streams begin with in the portal with few
   * @param manyStreams the same in the one with many
   */
  List<Bench.Row> boards(String fewStreams, String manyStreams)
      throws IOException, InterruptedException, SQLException {
    List<Bench.Row> grown = new ArrayList<>();
    List<Bench.Row> bare = new ArrayList<>();
    List<String> all = new ArrayList<>(READY);
    all.add(TIMES);
    all.add(LABELS);
    try (Connection connection = many.connection();
        Statement statement = connection.createStatement()) {
      for (String name : all) {
        JsonNode board =
            switch (name) {
              case TIMES -> times();
              case LABELS -> labels();
              default -> board(name);
            };
        Times ofFew = new Times();
        Times ofMany = new Times();
        Times ofSql = new Times();
        for (int round = 0; round < ROUNDS; round++) {
          ofFew.shown(few, board, fewStreams);
          ofMany.shown(many, board, manyStreams);
          ofSql.written(statement, board, manyStreams);
        }
        ofFew.tell(fewStreams + " " + name);
        ofMany.tell(manyStreams + " " + name);
        String what = "board “" + name + "”";
        grown.add(GrowthBench.row(what, ofFew.p95(), ofMany.p95()));
        if (READY.contains(name)) {
          bare.add(row(what, ofMany.p95(), ofSql.p95(), 3));
        }
      }
    }
    grown.addAll(bare);
    return grown;
  }

  /** How long a board took, round by round, and each of its panels, in milliseconds. */
  private static final class Times {
    private final List<Double> whole = new ArrayList<>();
    private final Map<String, List<Double>> each = new LinkedHashMap<>();

    /** The board's panels are asked for, one after the other. */
    void shown(Target target, JsonNode board, String streams)
        throws IOException, InterruptedException {
      double sum = 0;
      for (JsonNode panel : board.path("panels")) {
        ObjectNode asked = JSON.createObjectNode();
        asked.set("panel", panel);
        asked.put("filter", "stream sw \"" + streams + "\"");
        long begun = System.nanoTime();
        String unused = target.answer("boards/sheet", asked.toString());
        double took = (System.nanoTime() - begun) / 1e6;
        each.computeIfAbsent(panel.path("title").asText(), t -> new ArrayList<>()).add(took);
        sum += took;
      }
      whole.add(sum);
    }

    /** What a person would write for them. */
    void written(Statement statement, JsonNode board, String streams) throws SQLException {
      double sum = 0;
      for (JsonNode panel : board.path("panels")) {
        int days = panel.path("days").asInt();
        for (String sql : BARE.getOrDefault(panel.path("kind").asText(), List.of())) {
          sum +=
              took(
                  statement,
                  sql.replace("RUNS", String.format(Locale.ROOT, RUNS, streams, days))
                      .replace("BEFORE", String.format(Locale.ROOT, RUNS, streams, 2 * days)));
        }
      }
      whole.add(sum);
    }

    double p95() {
      return p95(whole);
    }

    void tell(String what) {
      each.forEach(
          (title, times) ->
              Bench.progress(
                  String.format(Locale.ROOT, "%s, %s: %.1f ms", what, title, p95(times))));
    }

    /** The first ones are slower: nobody counts them. */
    private static double p95(List<Double> rounds) {
      return Bench.p95(rounds.subList(rounds.size() / 4, rounds.size()));
    }
  }

  /** Panels of how long something took, which no ready board has. */
  private static JsonNode times() {
    ObjectNode board = JSON.createObjectNode();
    for (String kind : List.of("lengths", "lost", "mending", "explaining")) {
      ObjectNode panel = board.withArray("panels").addObject();
      panel.put("kind", kind).put("title", kind).put("days", 30);
    }
    return board;
  }

  /** Breakdowns of 90 days: each of twelve pairs of team and environment, and each team. */
  private static JsonNode labels() {
    ObjectNode board = JSON.createObjectNode();
    for (List<String> by : List.of(List.of("label.team", "label.env"), List.of("label.team"))) {
      ObjectNode panel = board.withArray("panels").addObject();
      panel.put("kind", "breakdown").put("title", String.join(", ", by)).put("days", 90);
      by.forEach(panel.withArray("by")::add);
    }
    return board;
  }

  /**
   * Reports of some streams of the portal with many, made once each.
   *
   * @return how long each took
   */
  List<Bench.Row> reports(String streams) throws IOException, InterruptedException {
    List<Bench.Row> rows = new ArrayList<>();
    String filter = URLEncoder.encode("stream sw \"" + streams + "\"", StandardCharsets.UTF_8);
    for (String kind : List.of("summary", "tests", "breakdown", "people")) {
      long begun = System.nanoTime();
      String said = "";
      try {
        String unused = many.get("reports/" + kind + "?days=30&filter=" + filter);
      } catch (IOException e) {
        // What takes too long is refused; that is a figure, too.
        said = String.valueOf(e.getMessage());
      }
      rows.add(
          new Bench.Row(
              "10 million results: report “" + kind + "” of 30 days",
              String.format(Locale.ROOT, "%.1f s", (System.nanoTime() - begun) / 1e9),
              said.contains(" answered ") ? said.substring(said.indexOf(" answered ") + 1) : "",
              "",
              "",
              said.isEmpty()));
    }
    return rows;
  }

  private JsonNode board(String ready) throws IOException, InterruptedException {
    return JSON.readTree(
        many.answer(
            "boards/ready",
            "{\"ready\": \"" + ready + "\", \"name\": \"" + ready + " " + ++made + "\"}"));
  }

  /** First pages of filters, against what a person would write in SQL. */
  List<Bench.Row> filters() throws IOException, InterruptedException, SQLException {
    List<Bench.Row> rows = new ArrayList<>();
    try (Connection connection = many.connection();
        Statement statement = connection.createStatement()) {
      for (Map.Entry<String, String> filter : FILTERS.entrySet()) {
        List<Double> portal = new ArrayList<>();
        List<Double> bare = new ArrayList<>();
        String path =
            "results?limit=100&filter="
                + URLEncoder.encode(filter.getKey(), StandardCharsets.UTF_8);
        for (int round = 0; round < ROUNDS; round++) {
          long begun = System.nanoTime();
          String unused = many.get(path);
          double took = (System.nanoTime() - begun) / 1e6;
          double sql = took(statement, filter.getValue());
          if (round >= ROUNDS / 4) {
            portal.add(took);
            bare.add(sql);
          }
        }
        rows.add(
            row("first page of `" + filter.getKey() + "`", Bench.p95(portal), Bench.p95(bare), 2));
      }
    }
    return rows;
  }

  private static Bench.Row row(String what, double portal, double bare, double bar) {
    double ratio = portal / bare;
    return new Bench.Row(
        "10 million results: " + what,
        String.format(Locale.ROOT, "p95 %.1f ms", portal),
        String.format(Locale.ROOT, "bare SQL: p95 %.1f ms", bare),
        String.format(Locale.ROOT, "%.2f", ratio),
        String.format(Locale.ROOT, "≤ %.0f", bar),
        ratio <= bar);
  }

  private static double took(Statement statement, String sql) throws SQLException {
    long begun = System.nanoTime();
    try (ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        Object unused = rows.getObject(1);
      }
    }
    return (System.nanoTime() - begun) / 1e6;
  }
}
