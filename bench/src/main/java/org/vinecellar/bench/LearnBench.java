package org.vinecellar.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.FutureTask;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.vinecellar.client.command.VineCommand;

/**
 * What it costs to keep history, flaky estimates and durations up to date: a stream of one run
 * after another, in which one of fifty tests fails by chance. It is done beside, after a run is
 * explained; the service says in its log how long it took.
 */
final class LearnBench {
  private static final int TESTS = 5_000;
  private static final int RUNS = Integer.getInteger("bench.learn.runs", 140);

  /**
   * The latest so many are measured: the stream has a history by then, and is counted some times.
   */
  private static final int MEASURED = Math.min(100, RUNS / 2);

  private static final int WARM = RUNS - MEASURED;

  private static final Pattern TOLD =
      Pattern.compile("stream \\d+: (learned|counted) in (\\d+) ms");

  private static final int BETWEEN_MILLIS = 300;
  private static final int SETTLING_MILLIS = 5_000;

  private final Path folder;
  private final Target target;
  private final Random random = new Random(17);

  LearnBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    double pushed = 0;
    Map<String, Double> before = Map.of();
    for (int run = 0; run < RUNS; run++) {
      if (run == WARM) {
        Thread.sleep(SETTLING_MILLIS);
        before = told();
      }
      write(run);
      double took = push("learn/nightly", run);
      if (run >= WARM) {
        pushed += took;
        // Each by itself: on two cores they would take each other's time.
        Thread.sleep(BETWEEN_MILLIS);
      }
      Bench.progress(String.format(Locale.ROOT, "run %d: sent in %.2f s", run, took));
    }
    // What follows the last of them is done by then.
    Thread.sleep(SETTLING_MILLIS);
    Map<String, Double> after = told();
    double learned = after.getOrDefault("learned", 0.0) - before.getOrDefault("learned", 0.0);
    double counted = after.getOrDefault("counted", 0.0) - before.getOrDefault("counted", 0.0);
    double share = (learned + counted) / pushed;
    List<Double> alone = new ArrayList<>();
    for (int run = 0; run < 5; run++) {
      write(run);
      alone.add(push("learn/beside", run));
    }
    Meanwhile meanwhile = meanwhile();
    return List.of(
        new Bench.Row(
            "learning of 5 000 tests, of which 100 fail by chance, from a run, and counting",
            String.format(Locale.ROOT, "%.3f s and %.3f s", learned / MEASURED, counted / MEASURED),
            String.format(
                Locale.ROOT,
                "`vine push` of that run until it is explained: %.2f s",
                pushed / MEASURED),
            String.format(Locale.ROOT, "%.2f", share),
            "≤ 0.15",
            share <= 0.15),
        new Bench.Row(
            String.format(
                Locale.ROOT,
                "a push of 5 000 results while another stream of %d such runs is learned from nothing",
                RUNS),
            String.format(
                Locale.ROOT,
                "%.2f s, the longest of %d; it took %.0f s",
                Collections.max(meanwhile.pushes),
                meanwhile.pushes.size(),
                meanwhile.seconds),
            String.format(Locale.ROOT, "with nothing beside: %.2f s", Collections.max(alone)),
            String.format(
                Locale.ROOT, "%.2f", Collections.max(meanwhile.pushes) / Collections.max(alone)),
            "",
            true));
  }

  /** What was pushed while a stream was learned of from nothing. */
  private record Meanwhile(double seconds, List<Double> pushes) {}

  private Meanwhile meanwhile() throws Exception {
    FutureTask<Double> learning = new FutureTask<>(() -> Anew.learnt(target, "^learn/nightly$"));
    new Thread(learning, "learning").start();
    List<Double> pushes = new ArrayList<>();
    for (int run = 5; !learning.isDone() || pushes.isEmpty(); run++) {
      write(run);
      pushes.add(push("learn/beside", run));
      Thread.sleep(500);
    }
    return new Meanwhile(learning.get(), pushes);
  }

  /** All seconds that the service says it spent so far, by what for. */
  private static Map<String, Double> told() throws IOException {
    Map<String, Double> all = new HashMap<>();
    try (Stream<String> lines = Files.lines(Path.of(System.getProperty("bench.log")))) {
      for (String line : (Iterable<String>) lines::iterator) {
        Matcher said = TOLD.matcher(line);
        if (said.find()) {
          all.merge(said.group(1), Long.parseLong(said.group(2)) / 1e3, Double::sum);
        }
      }
    }
    return all;
  }

  private double push(String stream, int run) throws IOException {
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {
      "push",
      folder.resolve("learn.xml").toString(),
      "--stream",
      stream,
      "--commit",
      "c" + run,
      "--branch",
      "main",
      "--at",
      Instant.parse("2026-01-01T02:00:00Z").plusSeconds(run * 14_400L).toString()
    };
    long begun = System.nanoTime();
    int code = VineCommand.run(words, nowhere, System.err, target.environment());
    if (code != 0) {
      throw new IOException("the push ended with " + code);
    }
    return (System.nanoTime() - begun) / 1e9;
  }

  private void write(int run) throws IOException {
    try (Writer out =
        Files.newBufferedWriter(folder.resolve("learn.xml"), StandardCharsets.UTF_8)) {
      out.write("<testsuites>\n");
      for (int suite = 0; suite * 50 < TESTS; suite++) {
        String name = "org.skerrow.learn.Berth" + suite + "Test";
        out.write("<testsuite name=\"" + name + "\">\n");
        for (int i = 0; i < 50; i++) {
          double time = (0.01 + (suite * 50 + i) % 97 * 0.01) * (0.9 + 0.2 * random.nextDouble());
          out.write("<testcase classname=\"" + name + "\" name=\"moors" + i + "\" time=\"");
          out.write(String.format(Locale.ROOT, "%.3f\">", time));
          if (i == 7 && random.nextInt(5) == 0) {
            out.write(
                "<failure type=\"AssertionError\" message=\"berth "
                    + suite
                    + " is free ==> expected: true but was: "
                    + run
                    + "\">at "
                    + name
                    + ".moors7(Berth.java:"
                    + (20 + suite)
                    + ")</failure>");
          }
          out.write("</testcase>\n");
        }
        out.write("</testsuite>\n");
      }
      out.write("</testsuites>\n");
    }
  }
}
