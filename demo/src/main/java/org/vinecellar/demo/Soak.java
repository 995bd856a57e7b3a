package org.vinecellar.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.SplittableRandom;

/**
 * The load of a summer Saturday on the harbour system, every third night: samples as a table, and a
 * page of curves that the load tool makes itself. The search becomes slower, night by night.
 */
final class Soak {
  static final int EVERY = 3;

  /** What the pipeline says of the table's columns. */
  static final List<String> COLUMNS =
      List.of(
          "--column", "suite=Scenario",
          "--column", "test=Under",
          "--column", "outcome=Verdict",
          "--column", "duration ms=95th percentile",
          "--column", "message=Remark");

  private static final int[] USERS = {10, 50, 100, 200, 400};
  private static final int LIMIT_MS = 900;

  private record Load(String scenario, double baseMs, double perUserMs, double creep) {}

  private static final Load[] LOADS = {
    new Load("Search a sailing", 150, 0.60, 1.028),
    new Load("Book a car", 180, 0.62, 1.0),
    new Load("Board at the gate", 40, 0.20, 1.0),
    new Load("Print the manifest", 310, 0.85, 1.0),
  };

  private record Sample(String scenario, int users, double ms, double errors) {
    boolean good() {
      return ms <= LIMIT_MS && errors < 1;
    }
  }

  private Soak() {}

  private static List<Sample> samples(int night) {
    SplittableRandom dice = new SplittableRandom(7L * night);
    List<Sample> samples = new ArrayList<>();
    for (Load load : LOADS) {
      for (int users : USERS) {
        double slower = Math.pow(load.creep, night) * (0.94 + 0.12 * dice.nextDouble());
        double errors = Story.outage(night) ? 38 + dice.nextDouble() : 0.3 * dice.nextDouble();
        samples.add(
            new Sample(
                load.scenario, users, (load.baseMs + load.perUserMs * users) * slower, errors));
      }
    }
    return samples;
  }

  /** The table of samples. */
  static void write(Path file, int night) throws IOException {
    StringBuilder csv =
        new StringBuilder("Scenario,Under,Verdict,95th percentile,Errors %,Users,Remark\n");
    for (Sample sample : samples(night)) {
      String remark =
          sample.errors >= 1
              ? "the staging database refuses connections"
              : sample.good() ? "" : "slower than " + LIMIT_MS + " ms";
      csv.append(
          String.format(
              Locale.ROOT,
              "%s,%d users,%s,%.0f,%.1f,%d,%s%n",
              sample.scenario,
              sample.users,
              sample.good() ? "passed" : "failed",
              sample.ms,
              sample.errors,
              sample.users,
              remark));
    }
    Files.writeString(file, csv);
  }

  /** The page of curves: a folder with a page, a style and a script. */
  static Path bundle(Path folder, int night) throws IOException {
    Files.createDirectories(folder);
    StringBuilder data = new StringBuilder("const samples = [\n");
    for (Sample sample : samples(night)) {
      data.append(
          String.format(
              Locale.ROOT,
              "  { scenario: '%s', users: %d, ms: %.0f },%n",
              sample.scenario,
              sample.users,
              sample.ms));
    }
    Files.writeString(folder.resolve("samples.js"), data.append("];\n"));
    for (String name : List.of("index.html", "curves.js", "style.css")) {
      try (var in = Soak.class.getResourceAsStream("/soak/" + name)) {
        if (in == null) {
          throw new IOException("the demo has no " + name);
        }
        Files.writeString(
            folder.resolve(name), new String(in.readAllBytes(), StandardCharsets.UTF_8));
      }
    }
    return folder;
  }
}
