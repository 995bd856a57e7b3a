package org.vinecellar.bench.grouping;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.grouping.GroupKey;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.grouping.KnownGroup;
import org.vinecellar.core.triage.grouping.KnownGroups;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;

/** How many failures a second are read, signed and grouped: traces of 30 frames, 2 000 causes. */
public final class SpeedBench {
  private static final int CAUSES = 2_000;
  private static final int GROUPS = 200_000;

  private record One(TestId test, List<Failure> failures) {}

  private SpeedBench() {}

  /** Failures a second of one thread, the best of some rounds. */
  public static double measure() {
    List<One> failures = failures(20_000);
    Map<GroupKey, List<KnownGroup>> known = known();
    KnownGroups groups = key -> known.getOrDefault(key, List.of());
    double best = 0;
    for (int round = 0; round < 12; round++) {
      long start = System.nanoTime();
      Signer signer =
          new Signer(
              CodeMap.of(
                  failures.stream().map(f -> f.test.suite().name()).distinct().toList(),
                  CodeSettings.NONE));
      List<Signature> signatures = new ArrayList<>(failures.size());
      for (One one : failures) {
        signatures.add(signer.sign(one.test, one.failures));
      }
      Grouping.Result result = Grouping.of(Grouping.settled(signatures), groups);
      double seconds = (System.nanoTime() - start) / 1e9;
      if (result.of().size() < CAUSES / 2) {
        throw new IllegalStateException("only " + result.of().size() + " groups");
      }
      best = Math.max(best, failures.size() / seconds);
    }
    return best;
  }

  private static Map<GroupKey, List<KnownGroup>> known() {
    Map<GroupKey, List<KnownGroup>> known = new HashMap<>();
    for (int i = 0; i < GROUPS; i++) {
      String key = "frame known" + i + ".at|x";
      Signature made =
          new Signature(
              KeyKind.FRAME, key, List.of(), List.of(), "", List.of("known", "at"), "", true);
      KnownGroup group = new KnownGroup(i, KeyKind.FRAME, made.words());
      Grouping.askedThen(List.of(made), k -> List.of()).forEach(k -> known.put(k, List.of(group)));
    }
    return known;
  }

  private static List<One> failures(int count) {
    Random random = new Random(5);
    List<One> all = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      int cause = random.nextInt(CAUSES);
      String suite = "org.skerrow.booking.part" + cause % 40 + ".Desk" + cause % 300 + "Test";
      String test = "opens" + random.nextInt(5_000);
      String trace =
          switch (cause % 5) {
            case 0, 1 -> java(random, cause, suite, test);
            case 2 -> wrapped(random, cause, suite, test);
            case 3 -> python(random, cause);
            default -> checked(random, cause, suite, test);
          };
      all.add(
          new One(
              TestId.of(SuitePath.of(List.of(suite)), test, null),
              List.of(new Failure(null, trace.lines().findFirst().orElse(""), trace))));
    }
    return all;
  }

  private static String java(Random random, int cause, String suite, String test) {
    StringBuilder out = new StringBuilder("java.lang.IllegalStateException: no row for ");
    out.append(100_000 + random.nextInt(900_000)).append('\n');
    frames(out, random, cause, suite, test, 30);
    return out.toString();
  }

  private static String wrapped(Random random, int cause, String suite, String test) {
    StringBuilder out = new StringBuilder("org.skerrow.booking.DeskException: order failed\n");
    frames(out, random, cause + 1, suite, test, 15);
    out.append("Caused by: java.lang.NullPointerException: Cannot invoke \"Row.amount()\"\n");
    frames(out, random, cause, suite, test, 15);
    return out.append("\t... 40 more\n").toString();
  }

  private static String checked(Random random, int cause, String suite, String test) {
    StringBuilder out =
        new StringBuilder("org.opentest4j.AssertionFailedError: [quote.part")
            .append(cause)
            .append(".total] \nExpecting actual:\n  ")
            .append(random.nextInt(900))
            .append("\nto be equal to:\n  ")
            .append(random.nextInt(900))
            .append('\n');
    String cut = suite.substring(suite.lastIndexOf('.') + 1);
    out.append(String.format(Locale.ROOT, "\tat %s.%s(%s.java:%d)%n", suite, test, cut, 40));
    for (int i = 0; i < 29; i++) {
      out.append(library(i));
    }
    return out.toString();
  }

  private static void frames(
      StringBuilder out, Random random, int cause, String suite, String test, int count) {
    String simple = suite.substring(suite.lastIndexOf('.') + 1);
    for (int i = 0; i < count / 3; i++) {
      String owner = i == 0 ? "FareTable" + cause : "Facade" + i;
      out.append(
          String.format(
              Locale.ROOT,
              "\tat org.skerrow.booking.part%d.%s.priced%d(%s.java:%d)%n",
              cause % 40,
              owner,
              i,
              owner,
              20 + random.nextInt(400)));
    }
    out.append(String.format(Locale.ROOT, "\tat %s.%s(%s.java:%d)%n", suite, test, simple, 40));
    for (int i = 0; i < count - count / 3 - 1; i++) {
      out.append(library(i));
    }
  }

  private static String library(int i) {
    return i % 2 == 0
        ? "\tat java.base/java.util.ArrayList.forEach(ArrayList.java:" + (1_500 + i) + ")\n"
        : "\tat org.junit.platform.engine.support.hierarchical.NodeTestTask.lambda$run$"
            + i
            + "(NodeTestTask.java:"
            + (140 + i)
            + ")\n";
  }

  private static String python(Random random, int cause) {
    StringBuilder out = new StringBuilder("Traceback (most recent call last):\n");
    for (int i = 0; i < 12; i++) {
      out.append("  File \"/app/skerrow/facade")
          .append(i)
          .append(".py\", line ")
          .append(20 + random.nextInt(400))
          .append(", in serve\n    return self.next(order)\n");
    }
    return out.append("  File \"/app/skerrow/fares")
        .append(cause)
        .append(".py\", line 12, in priced\n    return rows[key]\nKeyError: 'SK-")
        .append(10_000 + random.nextInt(80_000))
        .append("'\n")
        .toString();
  }

  /** Prints the figure. */
  public static void main(String[] args) {
    System.out.printf(Locale.ROOT, "%.0f failures a second%n", measure());
  }
}
