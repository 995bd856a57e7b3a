package org.vinecellar.bench.trust;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.vinecellar.bench.figures.Figure;
import org.vinecellar.core.trust.flaky.Belief;
import org.vinecellar.core.trust.flaky.Sight;
import org.vinecellar.core.trust.flaky.Verdict;

/** How well tests that fail by chance are told from all others, after some runs. */
public final class FlakyBench {
  private static final int[] AFTER = {15, 30, 60, 120};
  private static final int TESTS = 300;

  private FlakyBench() {}

  /** What was said after so many runs. */
  static final class Said {
    private int right;
    private int wrong;
    private int failedOnce;
    private int foundOnce;
    private int failedTwice;
    private int foundTwice;
    private final Map<SimulatedTest.Kind, Integer> accused = new TreeMap<>();

    double precision() {
      return right + wrong == 0 ? 1 : (double) right / (right + wrong);
    }

    /** Of those that failed by chance at least twice. */
    double recallTwice() {
      return failedTwice == 0 ? 1 : (double) foundTwice / failedTwice;
    }

    /** Of those that failed by chance at all. */
    double recallOnce() {
      return failedOnce == 0 ? 1 : (double) foundOnce / failedOnce;
    }

    /** As they can be read in a line. */
    String told() {
      return String.format(
          Locale.ROOT,
          "precision %.3f | found of those that failed twice %.3f of %d, once %.3f of %d | accused"
              + " %s",
          precision(),
          recallTwice(),
          failedTwice,
          recallOnce(),
          failedOnce,
          accused);
    }

    void add(SimulatedTest test, int runs, boolean flaky) {
      SimulatedTest.Truth truth = test.truth(runs);
      if (truth == SimulatedTest.Truth.NOT_FLAKY && flaky) {
        wrong++;
        accused.merge(test.kind, 1, Integer::sum);
      }
      if (truth == SimulatedTest.Truth.FLAKY) {
        int found = flaky ? 1 : 0;
        long failed = test.chances.stream().filter(run -> run <= runs).count();
        right += found;
        failedOnce += failed < 1 ? 0 : 1;
        foundOnce += failed < 1 ? 0 : found;
        failedTwice += failed < 2 ? 0 : 1;
        foundTwice += failed < 2 ? 0 : found;
      }
    }
  }

  /** What is to be said, by the number of runs. */
  static Map<Integer, Said> nothingSaid() {
    Map<Integer, Said> said = new TreeMap<>();
    for (int after : AFTER) {
      said.put(after, new Said());
    }
    return said;
  }

  /** Of so many streams, by the number of runs. */
  static Map<Integer, Said> of(long seed, int streams) {
    Map<Integer, Said> said = nothingSaid();
    for (int nr = 0; nr < streams; nr++) {
      Random random = Seeds.of(seed * 1_000 + nr);
      SimulatedStream stream = new SimulatedStream(random);
      for (int test = 0; test < TESTS; test++) {
        one(SimulatedTest.any(random, stream), stream, random, said);
      }
    }
    return said;
  }

  private static void one(
      SimulatedTest test, SimulatedStream stream, Random random, Map<Integer, Said> said) {
    Belief belief = Belief.start();
    for (SimulatedStream.Run run : stream.runs()) {
      belief = belief.after(sight(test, run, random));
      Said now = said.get(run.number());
      if (now != null) {
        now.add(test, run.number(), belief.verdict() == Verdict.FLAKY);
      }
    }
  }

  private static Sight sight(SimulatedTest test, SimulatedStream.Run run, Random random) {
    if (run.outage() && random.nextBoolean()) {
      return new Sight(run.commit(), run.environment(), run.retries() ? 2 : 1, 0, 1);
    }
    int failed = 0;
    int tries = run.retries() ? 2 : 1;
    while (failed < tries && test.fails(run, random)) {
      failed++;
    }
    return new Sight(run.commit(), run.environment(), failed, failed < tries ? 1 : 0, 0);
  }

  /** On a seed that nothing was tuned on. */
  public static List<Figure> figures() {
    return figures("flaky, after ", of(1_000, 120));
  }

  static List<Figure> figures(String what, Map<Integer, Said> all) {
    List<Figure> figures = new ArrayList<>();
    all.forEach(
        (after, said) -> {
          String of = what + after + " runs: ";
          figures.add(new Figure(of + "precision", said.precision(), 0.97));
          if (after >= 60) {
            figures.add(
                new Figure(of + "found, of those that failed twice", said.recallTwice(), 0.95));
            figures.add(new Figure(of + "found, of those that failed", said.recallOnce(), 0.9));
          }
        });
    return figures;
  }

  /**
   * Prints what is said of streams.
   *
   * @param args a seed and a number of streams; 1 and 30 where they are missing
   */
  public static void main(String[] args) {
    long seed = args.length > 0 ? Long.parseLong(args[0]) : 1;
    int streams = args.length > 1 ? Integer.parseInt(args[1]) : 30;
    of(seed, streams).forEach((after, said) -> System.out.println(after + " runs: " + said.told()));
  }
}
