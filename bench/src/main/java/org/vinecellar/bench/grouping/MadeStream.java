package org.vinecellar.bench.grouping;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.BiPredicate;
import org.jspecify.annotations.Nullable;

/** Makes a stream of runs with known causes: result files, and the truth beside them. */
final class MadeStream {
  private static final int RUNS = 60;

  private static final List<String> WORDS =
      List.of(
          "Booking",
          "Fare",
          "Berth",
          "Voyage",
          "Tide",
          "Crew",
          "Ticket",
          "Kiosk",
          "Refund",
          "Manifest",
          "Season",
          "Harbour",
          "Cabin",
          "Vehicle",
          "Loyalty",
          "Catering",
          "Freight",
          "Pet",
          "Quote",
          "Invoice",
          "Roster",
          "Deck",
          "Gangway",
          "Passenger");
  private static final List<String> VERBS =
      List.of(
          "opens",
          "prices",
          "confirms",
          "cancels",
          "moves",
          "prints",
          "counts",
          "lists",
          "rejects",
          "keeps",
          "renews",
          "rounds",
          "splits",
          "merges",
          "sends",
          "reads");
  private static final List<String> REST =
      List.of(
          "a family",
          "a group",
          "at noon",
          "in winter",
          "twice",
          "after closing",
          "for residents",
          "without cabin",
          "with a dog",
          "by card",
          "on the way back",
          "for freight",
          "at the gate",
          "on a full boat",
          "with a voucher",
          "from the kiosk");

  private final Random random;
  private final Holes holes;
  private final @Nullable Names names;
  private final @Nullable Rough rough;

  /** A cause with where it shows. */
  private record Cause(String id, String kind, boolean mass, boolean single, List<Where> where) {}

  /** One family that shows it, with the row. */
  private record Where(Faces.Framework framework, Faces.Family family, String[] row) {}

  private record Test(String className, String name, Map<String, String> names) {}

  private record Line(Test test, String framework, Faces.Face face, String[] row, Cause cause) {}

  /**
   * @param renamed whether the code of the product is called otherwise than in the faces
   * @param worn whether texts are cut, coloured and wrapped as they are on their way
   */
  MadeStream(long seed, boolean renamed, boolean worn) {
    random = new Random(seed);
    holes = new Holes(random);
    rough = worn ? new Rough(new Random(seed + 1)) : null;
    names = renamed ? new Names(new Random(seed)) : null;
  }

  /** Whether a cause is kept back from tuning, by its name alone. */
  static boolean isHeld(String cause) {
    return Math.floorMod(org.vinecellar.core.results.Key128.of(cause).low(), 3) == 0;
  }

  /** Writes runs and truth below a directory. */
  void write(
      Path directory, List<Faces.Framework> frameworks, BiPredicate<Faces.Framework, String> wanted)
      throws IOException {
    List<Cause> causes = causes(frameworks, wanted);
    Map<String, List<Test>> tests = new HashMap<>();
    StringBuilder truth = new StringBuilder();
    StringBuilder families = new StringBuilder();
    causes.forEach(
        cause ->
            families.append(
                "{\"cause_id\":\""
                    + cause.id
                    + "\",\"family\":\""
                    + cause.where.get(0).family.name()
                    + "\"}\n"));
    Map<Cause, boolean[]> when = new LinkedHashMap<>();
    causes.forEach(cause -> when.put(cause, runs(cause.mass)));
    for (int run = 1; run <= RUNS; run++) {
      List<Line> lines = new ArrayList<>();
      for (Cause cause : causes) {
        boolean[] active = when.get(cause);
        if (active != null && active[run - 1]) {
          hit(cause, tests, lines);
        }
      }
      writeRun(directory, run, lines, truth);
    }
    Files.writeString(directory.resolve("truth.jsonl"), truth);
    Files.writeString(directory.resolve("causes.jsonl"), families);
  }

  private List<Cause> causes(
      List<Faces.Framework> frameworks, BiPredicate<Faces.Framework, String> wanted) {
    Map<String, Cause> causes = new TreeMap<>();
    for (Faces.Framework framework : frameworks) {
      for (Faces.Family family : framework.families()) {
        for (String[] row : family.rows()) {
          String id =
              holes.fill(family.cause(), row, Map.of()).replace('"', '-').replace('\\', '-');
          if (wanted.test(framework, id)) {
            causes
                .computeIfAbsent(
                    id,
                    k ->
                        new Cause(
                            id, family.kind(), family.mass(), family.single(), new ArrayList<>()))
                .where
                .add(new Where(framework, family, names == null ? row : names.of(family, row)));
          }
        }
      }
    }
    return new ArrayList<>(causes.values());
  }

  /** In which runs it shows: it starts, ends, and mostly comes back. */
  private boolean[] runs(boolean mass) {
    boolean[] active = new boolean[RUNS];
    int from = random.nextInt(RUNS * 2 / 3);
    int times = mass ? 1 + random.nextInt(2) : 1 + random.nextInt(3);
    for (int t = 0; t < times && from < RUNS; t++) {
      int length = mass ? 1 + random.nextInt(2) : 1 + random.nextInt(9);
      for (int r = from; r < Math.min(RUNS, from + length); r++) {
        active[r] = random.nextInt(5) > 0 || r == from;
      }
      from += length + 4 + random.nextInt(14);
    }
    return active;
  }

  private void hit(Cause cause, Map<String, List<Test>> tests, List<Line> lines) {
    int n = cause.mass ? 25 + random.nextInt(60) : cause.single ? 1 : 1 + random.nextInt(3);
    for (int i = 0; i < n; i++) {
      Where where = cause.where.get(random.nextInt(cause.where.size()));
      Test test =
          test(cause, where, cause.single ? 0 : random.nextInt(cause.mass ? 100 : 6), tests);
      boolean there =
          lines.stream()
              .anyMatch(
                  l -> l.test.className.equals(test.className) && l.test.name.equals(test.name));
      if (!there) {
        List<Faces.Face> faces = where.family.faces();
        lines.add(
            new Line(
                test,
                where.framework.name(),
                faces.get(random.nextInt(faces.size())),
                where.row,
                cause));
      }
    }
  }

  private Test test(Cause cause, Where where, int number, Map<String, List<Test>> tests) {
    String key = cause.id + "/" + where.framework.name();
    List<Test> known = tests.computeIfAbsent(key, k -> new ArrayList<>());
    while (known.size() <= number) {
      Random own = new Random(key.hashCode() * 31L + known.size());
      String suite =
          WORDS.get(own.nextInt(WORDS.size()))
              + (own.nextInt(3) == 0 ? WORDS.get(own.nextInt(WORDS.size())) : "");
      String words =
          VERBS.get(own.nextInt(VERBS.size()))
              + " "
              + REST.get(own.nextInt(REST.size()))
              + (own.nextInt(2) == 0 ? "" : " " + own.nextInt(40));
      String camel = camel(words);
      String snake = words.replace(' ', '_');
      Map<String, String> names =
          new HashMap<>(
              Map.of(
                  "suite",
                  suite,
                  "suite_",
                  snake(suite),
                  "words",
                  words,
                  "test",
                  camel,
                  "Test",
                  Character.toUpperCase(camel.charAt(0)) + camel.substring(1),
                  "test_",
                  snake));
      String className = holes.fill(where.framework.classes(), where.row, names);
      String name = holes.fill(where.framework.tests(), where.row, names);
      names.put("class", className);
      names.put("name", name);
      known.add(new Test(className, name, names));
    }
    return known.get(number);
  }

  private static String camel(String words) {
    StringBuilder out = new StringBuilder();
    for (String word : words.split(" ")) {
      out.append(
          out.length() == 0 ? word : Character.toUpperCase(word.charAt(0)) + word.substring(1));
    }
    return out.toString();
  }

  private static String snake(String camel) {
    return camel.replaceAll("(?<=[a-z])(?=[A-Z])", "_").toLowerCase(java.util.Locale.ROOT);
  }

  private void writeRun(Path directory, int run, List<Line> lines, StringBuilder truth)
      throws IOException {
    Path folder = Files.createDirectories(directory.resolve(String.format("runs/run-%04d", run)));
    Map<String, List<Line>> classes = new TreeMap<>();
    lines.forEach(
        line ->
            classes
                .computeIfAbsent(
                    line.framework + "\t" + line.test.className, k -> new ArrayList<>())
                .add(line));
    Map<String, StringBuilder> files = new TreeMap<>();
    classes.forEach(
        (key, some) -> {
          String className = key.substring(key.indexOf('\t') + 1);
          StringBuilder xml =
              files.computeIfAbsent(key.substring(0, key.indexOf('\t')), k -> new StringBuilder());
          xml.append("<testsuite name=\"" + escaped(className) + "\">\n");
          xml.append(
              "<testcase classname=\""
                  + escaped(className)
                  + "\" name=\"stays well\" time=\"0.01\"/>\n");
          for (Line line : some) {
            Map<String, String> names = line.test.names;
            holes.begin();
            xml.append(
                "<testcase classname=\""
                    + escaped(className)
                    + "\" name=\""
                    + escaped(line.test.name)
                    + "\" time=\"0.1\"><failure");
            Faces.Face told =
                new Faces.Face(
                    holes.fill(line.face.type(), line.row, names),
                    holes.fill(line.face.message(), line.row, names),
                    holes.fill(line.face.body(), line.row, names));
            Faces.Face face = rough == null ? told : rough.of(told, line.row, line.cause.kind());
            xml.append(face.type().isEmpty() ? "" : " type=\"" + escaped(face.type()) + "\"");
            xml.append(
                face.message().isEmpty() ? "" : " message=\"" + escaped(face.message()) + "\"");
            xml.append(">" + escaped(face.body()) + "</failure></testcase>\n");
          }
          xml.append("</testsuite>\n");
        });
    for (Map.Entry<String, StringBuilder> file : files.entrySet()) {
      Files.writeString(
          folder.resolve(file.getKey() + ".xml"),
          "<?xml version=\"1.0\"?>\n<testsuites>\n" + file.getValue() + "</testsuites>\n");
    }
    if (files.isEmpty()) {
      Files.writeString(
          folder.resolve("none.xml"),
          "<testsuite name=\"none\"><testcase classname=\"none\" name=\"stays well\"/></testsuite>");
    }
    Files.writeString(
        folder.resolve("run.json"),
        "{\"commit\":\""
            + String.format("%040x", run)
            + "\",\"branch\":\"main\",\"started_at\":\""
            + Instant.parse("2026-09-01T02:00:00Z").plusSeconds(86_400L * run)
            + "\"}\n");
    classes.forEach(
        (key, some) ->
            some.forEach(
                line ->
                    truth.append(
                        "{\"run\":"
                            + run
                            + ",\"test\":"
                            + quoted(line.test.className + "#" + line.test.name)
                            + ",\"cause_id\":\""
                            + line.cause.id
                            + "\",\"cause_kind\":\""
                            + line.cause.kind
                            + "\",\"framework\":\""
                            + line.framework
                            + "\"}\n")));
  }

  private static String quoted(String text) {
    return "\"" + text.replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
  }

  private static String escaped(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;")
        .replace("\n", "&#10;")
        .replace("\r", "&#13;")
        .replaceAll("[\\x00-\\x08\\x0b-\\x1f]", "");
  }
}
