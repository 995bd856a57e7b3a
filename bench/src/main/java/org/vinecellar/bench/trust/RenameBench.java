package org.vinecellar.bench.trust;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.bench.figures.Figure;
import org.vinecellar.core.trust.renames.Face;
import org.vinecellar.core.trust.renames.Matching;
import org.vinecellar.core.trust.renames.Succession;

/** How well tests are found again under other names. */
public final class RenameBench {
  private static final int CLASSES = 25;
  private static final int STEPS = 20;

  private final Random random;
  private final MadeNames names;
  private final boolean shuffled;
  private List<Made> tests = new ArrayList<>();
  private long next = 1;
  private final Said all;

  /** What was said of a stream's changes. */
  static final class Said {
    private int right;
    private int wrong;
    private int missed;
    private int sure;
    private int surelyWrong;
    private final Map<String, Integer> missedBy = new TreeMap<>();
    private final Map<String, Integer> wrongBy = new TreeMap<>();
    private final List<String> examples = new ArrayList<>();

    double precision() {
      return right + wrong == 0 ? 1 : (double) right / (right + wrong);
    }

    double recall() {
      return right + missed == 0 ? 1 : (double) right / (right + missed);
    }
  }

  private record Made(
      long id,
      String suite,
      MadeNames.Check check,
      @Nullable String parameters,
      double place,
      double millis,
      String how) {
    Made as(
        long other,
        String inSuite,
        MadeNames.Check as,
        @Nullable String with,
        double at,
        String by) {
      return new Made(other, inSuite, as, with, at, millis, by);
    }
  }

  private RenameBench(Random random, Said all) {
    this.random = random;
    this.names = new MadeNames(random);
    this.shuffled = random.nextInt(3) == 0;
    this.all = all;
    for (int i = 0; i < CLASSES; i++) {
      String suite = "org.skerrow." + "abcdef".charAt(random.nextInt(6)) + "." + names.suite() + i;
      for (int j = 3 + random.nextInt(15); j > 0; j--) {
        add(suite, names.any(), random.nextInt(6) == 0);
      }
    }
  }

  private void add(String suite, MadeNames.Check check, boolean cases) {
    double millis = Math.exp(1 + random.nextGaussian() * 1.5) * 10;
    for (int i = cases ? 2 + random.nextInt(4) : 1; i > 0; i--) {
      tests.add(
          new Made(next++, suite, check, cases ? names.parameters() : null, next, millis, ""));
    }
  }

  private String name(Made test) {
    return names.said(test.check);
  }

  private Face face(Made test) {
    return new Face(
        test.id,
        List.of(test.suite),
        name(test),
        test.parameters,
        Map.of(),
        null,
        test.millis * Math.exp(random.nextGaussian() * 0.2),
        null,
        Set.of());
  }

  private List<Long> order(List<Made> some) {
    List<Made> sorted = new ArrayList<>(some);
    if (shuffled) {
      java.util.Collections.shuffle(sorted, random);
    } else {
      sorted.sort(Comparator.comparing(Made::suite).thenComparing(Made::place));
    }
    return sorted.stream().map(Made::id).toList();
  }

  /** Writes a stream of them as files, with the truth beside it. */
  static void write(Path to, long seed) throws IOException {
    RenameBench stream = new RenameBench(Seeds.of(seed), new Said());
    stream.unique();
    StringBuilder truth = new StringBuilder();
    for (int run = 1; run <= STEPS; run++) {
      Path at = to.resolve(String.format(Locale.ROOT, "runs/run-%04d", run));
      Files.createDirectories(at);
      Files.writeString(at.resolve("results.xml"), stream.results());
      Files.writeString(
          at.resolve("run.json"),
          String.format(
              Locale.ROOT,
              "{\"commit\":\"c%d\",\"branch\":\"main\",\"started_at\":\"%s\"}%n",
              run,
              Instant.parse("2026-06-01T03:00:00Z").plus(Duration.ofDays(run))));
      if (run < STEPS) {
        Map<Long, Made> old =
            stream.tests.stream().collect(Collectors.toMap(Made::id, test -> test));
        stream
            .step()
            .forEach(
                (id, now) ->
                    truth.append(
                        String.format(
                            Locale.ROOT,
                            "{\"old\":\"%s\",\"new\":\"%s\"}%n",
                            stream.called(Objects.requireNonNull(old.get(id))),
                            stream.called(now))));
      }
    }
    Files.writeString(to.resolve("truth_moves.jsonl"), truth);
  }

  private String called(Made test) {
    return test.suite + "#" + name(test) + (test.parameters == null ? "" : test.parameters);
  }

  private String results() {
    StringBuilder xml = new StringBuilder("<testsuite name=\"all\">\n");
    Map<Long, Made> byId = tests.stream().collect(Collectors.toMap(Made::id, test -> test));
    for (long id : order(tests)) {
      Made test = Objects.requireNonNull(byId.get(id));
      xml.append(
          String.format(
              Locale.ROOT,
              "<testcase classname=\"%s\" name=\"%s\" time=\"%.3f\"/>%n",
              test.suite,
              called(test).substring(test.suite.length() + 1),
              face(test).millis() / 1000));
    }
    return xml.append("</testsuite>\n").toString();
  }

  private Map<Long, Made> step() {
    List<Made> before = new ArrayList<>(tests);
    Map<Long, Made> truth = new HashMap<>();
    for (int i = 1 + random.nextInt(4); i > 0; i--) {
      change(truth);
    }
    unique();
    Set<Long> old = before.stream().map(Made::id).collect(Collectors.toSet());
    Set<Long> now = tests.stream().map(Made::id).collect(Collectors.toSet());
    truth.keySet().removeIf(id -> !old.contains(id));
    truth.values().removeIf(test -> !now.contains(test.id));
    List<Face> gone = before.stream().filter(t -> !now.contains(t.id)).map(this::face).toList();
    List<Face> came = tests.stream().filter(t -> !old.contains(t.id)).map(this::face).toList();
    List<String> others = tests.stream().filter(t -> old.contains(t.id)).map(this::name).toList();
    judge(Matching.of(gone, came, others, order(before), order(tests)), truth, before);
    return truth;
  }

  /** No two tests are called the same in one suite; such a change is left out. */
  private void unique() {
    Set<String> seen = new HashSet<>();
    List<Made> kept = new ArrayList<>();
    for (Made test : tests) {
      if (seen.add(test.suite + "#" + name(test) + test.parameters)) {
        kept.add(test);
      }
    }
    tests = kept;
  }

  private void change(Map<Long, Made> truth) {
    switch (random.nextInt(8)) {
      case 0, 1 -> reword(truth);
      case 2 -> replace();
      case 3 -> move(truth, 1);
      case 4 -> move(truth, 2 + random.nextInt(8));
      case 5 -> suite(truth);
      case 6 -> parameters(truth);
      default -> {
        if (random.nextBoolean()) {
          add(tests.get(random.nextInt(tests.size())).suite, names.any(), false);
        } else {
          tests.remove(random.nextInt(tests.size()));
        }
      }
    }
  }

  private void put(Map<Long, Made> truth, Made old, Made now) {
    tests.set(tests.indexOf(old), now);
    truth.entrySet().stream()
        .filter(entry -> entry.getValue().id == old.id)
        .findFirst()
        .ifPresentOrElse(entry -> entry.setValue(now), () -> truth.put(old.id, now));
  }

  private void reword(Map<Long, Made> truth) {
    for (int i = 1 + random.nextInt(5); i > 0; i--) {
      Made one = tests.get(random.nextInt(tests.size()));
      MadeNames.Check as = names.reworded(one.check);
      if (names.said(as).equals(name(one))) {
        continue;
      }
      for (Made test : List.copyOf(tests)) {
        if (test.suite.equals(one.suite) && name(test).equals(name(one))) {
          put(
              truth,
              test,
              test.as(next++, test.suite, as, test.parameters, test.place, "reworded"));
        }
      }
    }
  }

  /** One goes, and another comes that sounds like it, at its place or at the end. */
  private void replace() {
    for (int i = 1 + random.nextInt(3); i > 0; i--) {
      Made old = tests.remove(random.nextInt(tests.size()));
      double place = random.nextInt(3) == 0 ? old.place : next;
      tests.add(
          new Made(
              next++,
              old.suite,
              names.other(old.check),
              old.parameters,
              place,
              old.millis * (0.5 + random.nextDouble()),
              ""));
    }
  }

  private void move(Map<Long, Made> truth, int count) {
    Made one = tests.get(random.nextInt(tests.size()));
    String to =
        random.nextBoolean()
            ? tests.get(random.nextInt(tests.size())).suite
            : "org.skerrow.m." + names.suite() + next;
    int left = count;
    for (Made test : List.copyOf(tests)) {
      if (left > 0 && test.suite.equals(one.suite) && !to.equals(one.suite)) {
        boolean also = random.nextInt(8) == 0;
        MadeNames.Check as = also ? names.reworded(test.check) : test.check;
        put(
            truth,
            test,
            test.as(next++, to, as, test.parameters, next, also ? "moved and reworded" : "moved"));
        left--;
      }
    }
  }

  private void suite(Map<Long, Made> truth) {
    Made one = tests.get(random.nextInt(tests.size()));
    String to = "org.skerrow.n." + names.suite() + next;
    for (Made test : List.copyOf(tests)) {
      if (test.suite.equals(one.suite)) {
        put(truth, test, test.as(next++, to, test.check, test.parameters, test.place, "suite"));
      }
    }
  }

  private void parameters(Map<Long, Made> truth) {
    List<Made> with = tests.stream().filter(test -> test.parameters != null).toList();
    if (with.isEmpty()) {
      return;
    }
    Made one = with.get(random.nextInt(with.size()));
    int way = random.nextInt(3);
    for (Made test : List.copyOf(tests)) {
      if (test.suite.equals(one.suite) && name(test).equals(name(one)) && test.parameters != null) {
        String inside = test.parameters.substring(1, test.parameters.length() - 1);
        String as =
            switch (way) {
              case 0 -> "[" + inside + ", true]";
              case 1 -> "(" + inside.replace(", ", "; ") + ")";
              default -> "[amount=" + inside + "]";
            };
        put(truth, test, test.as(next++, test.suite, test.check, as, test.place, "parameters"));
      }
    }
  }

  private void judge(List<Succession> found, Map<Long, Made> truth, List<Made> before) {
    Map<Long, Made> old = before.stream().collect(Collectors.toMap(Made::id, test -> test));
    Map<Long, Made> now = tests.stream().collect(Collectors.toMap(Made::id, test -> test));
    Map<Long, Long> said = new HashMap<>();
    for (Succession one : found) {
      Made meant = truth.get(one.old());
      boolean right = meant != null && meant.id == one.now();
      said.put(one.old(), one.now());
      all.right += right ? 1 : 0;
      all.wrong += right ? 0 : 1;
      all.sure += one.isSure() ? 1 : 0;
      all.surelyWrong += one.isSure() && !right ? 1 : 0;
      if (!right) {
        Made from = old.get(one.old());
        Made to = now.get(one.now());
        all.wrongBy.merge(meant == null ? "none" : meant.how, 1, Integer::sum);
        if (from != null && to != null) {
          all.examples.add(
              String.format(
                  Locale.ROOT,
                  "wrong %.2f %s#%s%s -> %s#%s%s %s",
                  one.likely(),
                  from.suite,
                  name(from),
                  from.parameters,
                  to.suite,
                  name(to),
                  to.parameters,
                  one.reasons()));
        }
      }
    }
    truth.forEach(
        (id, test) -> {
          if (!Long.valueOf(test.id).equals(said.get(id))) {
            all.missed++;
            all.missedBy.merge(test.how, 1, Integer::sum);
            Made from = old.get(id);
            if (from != null) {
              all.examples.add(
                  "missed "
                      + test.how
                      + " "
                      + from.suite
                      + "#"
                      + name(from)
                      + from.parameters
                      + " -> "
                      + test.suite
                      + "#"
                      + name(test)
                      + test.parameters);
            }
          }
        });
  }

  static Said of(long seed, int streams) {
    Said said = new Said();
    for (int nr = 0; nr < streams; nr++) {
      RenameBench stream = new RenameBench(Seeds.of(seed * 1_000 + nr), said);
      for (int step = 0; step < STEPS; step++) {
        Map<Long, Made> unused = stream.step();
      }
    }
    return said;
  }

  /** On a seed that nothing was tuned on. */
  public static List<Figure> figures() {
    Said said = of(1_000, 20);
    return List.of(
        new Figure("renames: precision", said.precision(), 0.98),
        new Figure("renames: found", said.recall(), 0.95));
  }

  /**
   * Prints what is said of streams, or writes one.
   *
   * @param args a seed and a number of streams; a third word prints what is wrong
   */
  public static void main(String[] args) throws IOException {
    if (args.length > 0 && args[0].equals("write")) {
      write(Path.of(args[1]), Long.parseLong(args[2]));
      return;
    }
    Said said =
        of(
            args.length > 0 ? Long.parseLong(args[0]) : 1,
            args.length > 1 ? Integer.parseInt(args[1]) : 20);
    System.out.printf(
        Locale.ROOT,
        "renames: precision %.3f found %.3f of %d | sure %d, of them wrong %d | wrong %s missed %s%n",
        said.precision(),
        said.recall(),
        said.right + said.missed,
        said.sure,
        said.surelyWrong,
        said.wrongBy,
        said.missedBy);
    if (args.length > 2) {
      said.examples.stream().limit(60).forEach(System.out::println);
    }
  }
}
