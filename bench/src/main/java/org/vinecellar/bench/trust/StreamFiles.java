package org.vinecellar.bench.trust;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;

/**
 * Simulated streams as the files that pipelines would send, to measure the whole product by: {@code
 * runs/run-0001/results.xml} and {@code run.json} each, and the truth beside them.
 */
public final class StreamFiles {
  private static final Instant BEGIN = Instant.parse("2026-06-01T03:00:00Z");
  private static final int TESTS = 300;
  private static final int IN_CLASS = 12;

  private final Path to;
  private final Random random;
  private final SimulatedStream stream;
  private final List<SimulatedTest> tests = new ArrayList<>();
  private final Map<SimulatedTest, String> names = new HashMap<>();

  private StreamFiles(Path to, long seed) {
    this.to = to;
    this.random = Seeds.of(seed);
    this.stream = new SimulatedStream(random);
    for (int i = 0; i < TESTS; i++) {
      SimulatedTest test = SimulatedTest.any(random, stream);
      tests.add(test);
      names.put(
          test, "org.skerrow.quay.Berth" + i / IN_CLASS + "Test#keepsTheLineOfShip" + i % IN_CLASS);
    }
  }

  /**
   * Writes one.
   *
   * @param args the directory, which must not be there, and a seed
   */
  public static void main(String[] args) throws IOException {
    Path to = Path.of(args[0]);
    StreamFiles files = new StreamFiles(to, Long.parseLong(args[1]));
    files.writeRuns();
    StringBuilder truth = new StringBuilder();
    files.tests.forEach(test -> truth.append(files.truth(test)));
    Files.writeString(to.resolve("flaky_truth.jsonl"), truth);
  }

  /**
   * Writes one to a directory that is not there.
   *
   * @return its tests by their names
   */
  static Map<String, SimulatedTest> write(Path to, long seed) throws IOException {
    StreamFiles files = new StreamFiles(to, seed);
    files.writeRuns();
    Map<String, SimulatedTest> tests = new HashMap<>();
    files.names.forEach((test, name) -> tests.put(name, test));
    return tests;
  }

  private void writeRuns() throws IOException {
    for (SimulatedStream.Run run : stream.runs()) {
      Path at = to.resolve(String.format(Locale.ROOT, "runs/run-%04d", run.number()));
      Files.createDirectories(at);
      Files.writeString(at.resolve("results.xml"), results(run));
      Files.writeString(
          at.resolve("run.json"),
          String.format(
              Locale.ROOT,
              "{\"commit\":\"%s\",\"branch\":\"main\",\"started_at\":\"%s\",\"env\":\"%s\","
                  + "\"order\":%d,\"retries\":%d}%n",
              run.commit(),
              BEGIN.plus(Duration.ofHours(6L * run.number())),
              run.environment(),
              run.shuffled() ? run.number() : 0,
              run.retries() ? 1 : 0));
    }
  }

  private String truth(SimulatedTest test) {
    boolean flaky = test.rate > 0;
    return String.format(
        Locale.ROOT,
        "{\"test\":\"%s\",\"kind\":\"%s\",\"rate\":%.5f,\"first\":1,\"flaky_from\":%s,"
            + "\"flaky_to\":%s,\"flake_runs\":%s}%n",
        names.get(test),
        test.kind.name().toLowerCase(Locale.ROOT),
        test.rate,
        flaky ? Integer.toString(test.begins) : "null",
        flaky && test.ends <= SimulatedStream.RUNS ? Integer.toString(test.ends - 1) : "null",
        test.chances);
  }

  private String results(SimulatedStream.Run run) {
    List<SimulatedTest> order = new ArrayList<>(tests);
    if (run.shuffled()) {
      Collections.shuffle(order, random);
    }
    StringBuilder xml =
        new StringBuilder("<?xml version=\"1.0\"?>\n<testsuites><testsuite name=\"quay\">\n");
    for (SimulatedTest test : order) {
      String name = String.valueOf(names.get(test));
      int hash = name.indexOf('#');
      xml.append(
          String.format(
              Locale.ROOT,
              "<testcase classname=\"%s\" name=\"%s\" time=\"%.3f\">%s</testcase>%n",
              name.substring(0, hash),
              name.substring(hash + 1),
              0.01 + random.nextDouble(),
              came(run, test, name)));
    }
    return xml.append("</testsuite></testsuites>\n").toString();
  }

  private String came(SimulatedStream.Run run, SimulatedTest test, String name) {
    int tries = run.retries() ? 2 : 1;
    if (run.outage() && random.nextBoolean()) {
      String refused =
          "java.net.ConnectException: Connection refused: db-quay.skerrow.example:5432";
      return tries > 1 && random.nextBoolean()
          ? failure("flakyFailure", refused, name)
          : failure("failure", refused, name);
    }
    int failed = 0;
    while (failed < tries && test.fails(run, random)) {
      failed++;
    }
    String message = message(name);
    if (failed == 0) {
      return "";
    }
    if (failed < tries) {
      return failure("flakyFailure", message, name);
    }
    return failure("failure", message, name)
        + (tries > 1 ? failure("rerunFailure", message, name) : "");
  }

  /** Half of the tests name what they saw, the others say what many say. */
  private static String message(String name) {
    int kind = Math.floorMod(name.hashCode(), 4);
    return switch (kind) {
      case 0 -> "java.util.concurrent.TimeoutException: timed out after 5000 ms";
      case 1 -> "org.opentest4j.AssertionFailedError: expected: true but was: false";
      case 2 -> "java.lang.AssertionError: no ship at berth " + Math.floorMod(name.hashCode(), 97);
      default ->
          "java.lang.NullPointerException: Cannot invoke \"Ship.line()\" because \"ship\" is null";
    };
  }

  private static String failure(String element, String message, String name) {
    int hash = name.indexOf('#');
    String test = name.substring(0, hash);
    String simple = test.substring(test.lastIndexOf('.') + 1);
    int colon = message.indexOf(':');
    return String.format(
        Locale.ROOT,
        "<%s type=\"%s\" message=\"%s\">%s%n\tat %s.%s(%s.java:%d)%n</%s>",
        element,
        message.substring(0, colon),
        escaped(message.substring(colon + 2)),
        escaped(message),
        test,
        name.substring(hash + 1),
        simple,
        20 + Math.floorMod(name.hashCode(), 300),
        element);
  }

  private static String escaped(String text) {
    return text.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
  }
}
