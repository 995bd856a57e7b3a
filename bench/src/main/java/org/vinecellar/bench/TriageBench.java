package org.vinecellar.bench;

import java.io.IOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * What it costs to explain: the share of grouping in the time until an upload is explained, what
 * carrying adds to it, and how long a decision on a wide group takes.
 */
final class TriageBench {
  private static final int TESTS = 100_000;
  private static final int CAUSES = 2_000;
  private static final int KNOWN = 200_000;
  private static final int ROUNDS = 5;

  /** Pairs of which the ratio is taken: what a busy machine does to one of both is seen through. */
  private static final int IN_TURN = 9;

  /** So many before they are measured: a service has seen the runs of a night. */
  private static final int WARM = 10;

  private static final int WIDE = 50_000;

  /** Why tests fail: some of what follows upon a number. */
  private record Causes(int first, int many) {
    int any(Random random) {
      return first + random.nextInt(many);
    }
  }

  private static final Causes PLAIN = new Causes(0, CAUSES);
  private static final Causes DECIDED = new Causes(CAUSES, CAUSES);
  private static final Causes NEW = new Causes(2 * CAUSES, 1);

  private static final Pattern GROUPED = Pattern.compile("read and grouped in (\\d+) ms");

  private final Path folder;
  private final Target target;

  TriageBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    try (Connection connection = target.connection()) {
      Watched watched = new Watched(target, connection);
      Bench.progress("making " + KNOWN + " known groups");
      known(connection);
      List<Bench.Row> rows = new ArrayList<>(grouping(watched));
      rows.addAll(List.of(carrying(connection, watched), answered(connection, watched), reached()));
      return rows;
    }
  }

  private List<Bench.Row> grouping(Watched watched) throws Exception {
    List<Watched.Took> all = new ArrayList<>();
    List<Double> grouped = new ArrayList<>();
    for (int round = 0; round < WARM + ROUNDS; round++) {
      Watched.Took took = watched.push("triage/plain", write(TESTS, 20, PLAIN, round));
      if (round >= WARM) {
        all.add(took);
        grouped.add(grouped());
      }
      Bench.progress(
          String.format(
              Locale.ROOT,
              "there after %.2f s, explained after %.2f s",
              took.there(),
              took.explained()));
    }
    List<Double> parts = new ArrayList<>();
    for (int i = 0; i < all.size(); i++) {
      parts.add(grouped.get(i) / all.get(i).explained());
    }
    double part = Bench.median(parts);
    double whole = Bench.median(all.stream().map(Watched.Took::share).toList());
    return List.of(
        new Bench.Row(
            "reading, signing and grouping 5 000 failing of 100 000 results, 2 000 causes, 200 000 known groups",
            String.format(Locale.ROOT, "%.2f s", Bench.median(grouped)),
            "the time until the upload is explained",
            String.format(Locale.ROOT, "%.2f", part),
            "≤ 0.25",
            part <= 0.25),
        new Bench.Row(
            "that, and writing, rules, carrying and sums",
            String.format(
                Locale.ROOT,
                "%.2f s",
                Bench.median(all.stream().map(one -> one.explained() - one.there()).toList())),
            "the time until the upload is explained",
            String.format(Locale.ROOT, "%.2f", whole),
            "",
            true));
  }

  /** How many seconds the service says that it took for the latest run. */
  private static double grouped() throws IOException {
    double last = Double.NaN;
    try (Stream<String> lines = Files.lines(Path.of(System.getProperty("bench.log")))) {
      for (String line : (Iterable<String>) lines::iterator) {
        Matcher said = GROUPED.matcher(line);
        if (said.find()) {
          last = Long.parseLong(said.group(1)) / 1e3;
        }
      }
    }
    return last;
  }

  private Bench.Row carrying(Connection connection, Watched watched) throws Exception {
    long known = watched.number("select max(id) from failure_group");
    for (int round = 0; round < ROUNDS; round++) {
      watched.push("triage/decided", write(TESTS, 20, DECIDED, 50 + round));
    }
    Bench.progress("deciding the groups of a stream");
    try (Statement statement = connection.createStatement();
        ResultSet groups =
            statement.executeQuery(
                "select id from failure_group where results > 0 and id > " + known)) {
      while (groups.next()) {
        target.post(
            "groups/" + groups.getLong(1) + "/decision",
            "{\"category\":\"Product fault\",\"comment\":\"known\"}");
      }
    }
    watched.settled();
    List<Double> without = new ArrayList<>();
    List<Double> with = new ArrayList<>();
    List<Double> ratios = new ArrayList<>();
    for (int round = 0; round < IN_TURN; round++) {
      Watched.Took plain = watched.push("triage/plain", write(TESTS, 20, PLAIN, 80 + round));
      Watched.Took decided = watched.push("triage/decided", write(TESTS, 20, DECIDED, 80 + round));
      without.add(plain.explained());
      with.add(decided.explained());
      ratios.add(decided.explained() / plain.explained());
      Bench.progress(
          String.format(
              Locale.ROOT,
              "explained after %.2f s, and with decisions %.2f s",
              plain.explained(),
              decided.explained()));
    }
    double ratio = Bench.median(ratios);
    return new Bench.Row(
        "carrying 2 000 decisions to 5 000 failing of 100 000 results",
        String.format(Locale.ROOT, "%.2f s until explained", Bench.median(with)),
        String.format(Locale.ROOT, "nothing decided, in turn: %.2f s", Bench.median(without)),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≤ 1.10",
        ratio <= 1.1);
  }

  private double reached;

  private Bench.Row answered(Connection connection, Watched watched) throws Exception {
    for (int run = 0; run < 2; run++) {
      watched.push("triage/wide", write(WIDE, 1, NEW, 100 + run));
    }
    long group;
    try (Statement statement = connection.createStatement();
        ResultSet widest =
            statement.executeQuery(
                "select id from failure_group where open >= 100000 order by open desc")) {
      widest.next();
      group = widest.getLong(1);
    }
    long begun = System.nanoTime();
    target.post(
        "groups/" + group + "/decision",
        "{\"category\":\"Environment fault\",\"comment\":\"wide\"}");
    double answer = (System.nanoTime() - begun) / 1e6;
    watched.none("select count(*) from failure where decision_id is null and group_id = " + group);
    reached = (System.nanoTime() - begun) / 1e9;
    return new Bench.Row(
        "a decision on a group of 100 000 results is answered",
        String.format(Locale.ROOT, "%.0f ms", answer),
        "",
        "",
        "≤ 200 ms",
        answer <= 200);
  }

  private Bench.Row reached() {
    return new Bench.Row(
        "and has reached all of them",
        String.format(Locale.ROOT, "%.1f s", reached),
        "",
        "",
        "≤ 10 s",
        reached <= 10);
  }

  private static void known(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(
          "with g as (insert into failure_group (project_id, kind, signature_version, key_text,"
              + " sentence, template, words, made_at) select p.id, 3, 1, 'frame known' || n || '.at|x',"
              + " 'known', 'known', '[\"known\"]', now() from project p,"
              + " generate_series(1, "
              + KNOWN
              + ") n where p.key = 'bench' returning project_id, id)"
              + " insert into group_key (project_id, use, key_high, key_low, group_id)"
              + " select project_id, use, hashint8extended(id, use), hashint8extended(id, use + 7), id"
              + " from g, generate_series(0, 2) use");
      statement.execute("analyze failure_group");
      statement.execute("analyze group_key");
    }
  }

  /**
   * One of so many tests fails, with a trace of 30 frames.
   *
   * @param causes why they do
   */
  private Path write(int tests, int oneOf, Causes causes, long seed) throws IOException {
    Random random = new Random(seed);
    Path file = folder.resolve("triage.xml");
    try (Writer out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
      out.write("<testsuites>\n");
      for (int suite = 0; suite * 100 < tests; suite++) {
        String name = "org.skerrow.desk.part" + suite % 40 + ".Desk" + suite + "Test";
        out.write("<testsuite name=\"" + name + "\">\n");
        for (int i = 0; i < 100; i++) {
          out.write("<testcase name=\"opens" + i + "\" classname=\"" + name + "\" time=\"0.02\"");
          if (random.nextInt(oneOf) == 0) {
            out.write("><failure type=\"java.lang.IllegalStateException\">");
            trace(out, random, causes.any(random), name, i);
            out.write("</failure></testcase>\n");
          } else {
            out.write("/>\n");
          }
        }
        out.write("</testsuite>\n");
      }
      out.write("</testsuites>\n");
    }
    return file;
  }

  private static void trace(Writer out, Random random, int cause, String suite, int test)
      throws IOException {
    out.write(
        "java.lang.IllegalStateException: no row for "
            + (100_000 + random.nextInt(900_000))
            + "\n");
    for (int i = 0; i < 10; i++) {
      String owner = i == 0 ? "FareTable" + cause : "Facade" + i;
      out.write(
          "\tat org.skerrow.desk.part"
              + cause % 40
              + "."
              + owner
              + ".priced("
              + owner
              + ".java:"
              + (20 + random.nextInt(400))
              + ")\n");
    }
    String simple = suite.substring(suite.lastIndexOf('.') + 1);
    out.write("\tat " + suite + ".opens" + test + "(" + simple + ".java:40)\n");
    for (int i = 0; i < 19; i++) {
      out.write(
          "\tat org.junit.platform.engine.support.hierarchical.NodeTestTask.lambda$run$"
              + i
              + "(NodeTestTask.java:"
              + (140 + i)
              + ")\n");
    }
  }
}
