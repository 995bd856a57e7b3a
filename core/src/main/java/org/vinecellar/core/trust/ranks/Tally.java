package org.vinecellar.core.trust.ranks;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.history.Durations;

/**
 * Counts what the latest runs of a stream tell of its tests. How long a test takes is compared
 * after what its environment makes of it, and what the run as a whole made of all tests, is taken
 * off: a slow machine makes no test slow. Only what passed at once tells how long it takes.
 */
public final class Tally {
  /** So many runs at most. */
  public static final int MOST = Long.SIZE;

  /** A machine is judged by so many tests at least. */
  private static final int MANY = 10;

  /** So many laps in an environment tell what it makes of a test. */
  private static final int KNOWN = 5;

  /** What is shorter is mostly the clock. */
  private static final double LEAST_MILLIS = 20;

  private final List<String> environments;
  private final Map<Integer, Seen> tests = new HashMap<>();

  /** What runs told of a test. */
  private static final class Seen {
    long runs;
    long failed;
    boolean isSettled;
    final double[] logs;

    Seen(int runs) {
      logs = new double[runs];
      Arrays.fill(logs, Double.NaN);
    }
  }

  /**
   * @param environments of the runs, the oldest first; {@value #MOST} at most
   */
  public Tally(List<String> environments) {
    if (environments.size() > MOST) {
      throw new IllegalArgumentException("more than " + MOST + " runs: " + environments.size());
    }
    this.environments = List.copyOf(environments);
  }

  /**
   * What a test did in a run. It may be told of several times: it failed when any says so, and else
   * took as long as all of them together.
   *
   * @param run from 0
   * @param millis how long it took; null when that tells nothing, as of what failed
   */
  public void add(int test, int run, boolean failed, @Nullable Double millis) {
    Seen seen = tests.computeIfAbsent(test, k -> new Seen(environments.size()));
    seen.runs |= 1L << run;
    seen.failed |= failed ? 1L << run : 0;
    if (millis != null) {
      double before = seen.logs[run];
      seen.logs[run] = Math.log(millis + (Double.isNaN(before) ? 1 : Math.exp(before)));
    }
  }

  /** What runs made of these tests as a whole. */
  public Pace pace() {
    settle();
    return new Pace(machine());
  }

  /** Is told how long tests took. */
  public interface Listener {
    /**
     * @param millis in each run, with what the run and its environment made of it taken off; NaN
     *     where that is not known
     */
    void took(int test, double[] millis);
  }

  /**
   * Of these tests, by their numbers, with that taken off.
   *
   * @param listener is told of each of them
   */
  public Map<Integer, Figures> figures(Pace pace, Listener listener) {
    settle();
    Map<Integer, Figures> all = new HashMap<>();
    tests.forEach(
        (test, seen) -> {
          double[] millis = millis(seen, pace);
          listener.took(test, millis);
          all.put(test, figures(seen, millis));
        });
    return all;
  }

  private static double[] millis(Seen seen, Pace pace) {
    double[] millis = new double[seen.logs.length];
    for (int run = 0; run < millis.length; run++) {
      millis[run] = Math.exp(seen.logs[run] - pace.log(run)) - 1;
    }
    return millis;
  }

  /** How many tests were told of. */
  public int size() {
    return tests.size();
  }

  /** Others are told of after it. */
  public void clear() {
    tests.clear();
  }

  private void settle() {
    for (Seen seen : tests.values()) {
      if (!seen.isSettled) {
        for (int run = 0; run < seen.logs.length; run++) {
          if ((seen.failed >>> run & 1) == 1) {
            seen.logs[run] = Double.NaN;
          }
        }
        takeOffEnvironment(seen);
        seen.isSettled = true;
      }
    }
  }

  private static Figures figures(Seen seen, double[] millis) {
    Took took = took(millis);
    return new Figures(seen.runs, seen.failed, took.millis, took.slower);
  }

  /**
   * How long something takes.
   *
   * @param millis now; null when not known
   * @param slower null when it did not become that
   */
  public record Took(@Nullable Double millis, Figures.@Nullable Slower slower) {}

  /**
   * By what it took in each run.
   *
   * @param byRun in milliseconds; NaN where that is not known
   */
  public static Took took(double[] byRun) {
    int[] runs = new int[byRun.length];
    double[] millis = new double[byRun.length];
    int n = 0;
    for (int run = 0; run < byRun.length; run++) {
      if (!Double.isNaN(byRun[run])) {
        runs[n] = run;
        millis[n++] = byRun[run];
      }
    }
    if (n == 0) {
      return new Took(null, null);
    }
    List<Durations.Stretch> stretches = Durations.of(Arrays.copyOf(millis, n));
    double now = Math.max(0, stretches.get(stretches.size() - 1).millis());
    return new Took(now, slower(stretches, runs));
  }

  /**
   * The last stretch against the fastest before it: what creeps does so in steps.
   *
   * @param runs of which each is told; null for all
   */
  static Figures.@Nullable Slower slower(List<Durations.Stretch> stretches, int @Nullable [] runs) {
    if (stretches.size() < 2) {
      return null;
    }
    Durations.Stretch now = stretches.get(stretches.size() - 1);
    int fastest = 0;
    for (int i = 1; i < stretches.size() - 1; i++) {
      if (stretches.get(i).millis() <= stretches.get(fastest).millis()) {
        fastest = i;
      }
    }
    double before = stretches.get(fastest).millis();
    if (now.millis() < before * Durations.FACTOR || now.millis() < LEAST_MILLIS) {
      return null;
    }
    int at = stretches.get(fastest + 1).from();
    return new Figures.Slower(runs == null ? at : runs[at], before);
  }

  /** As it would be in the environment that it is mostly in. */
  private void takeOffEnvironment(Seen seen) {
    Map<String, Integer> laps = new HashMap<>();
    for (int run = 0; run < seen.logs.length; run++) {
      if (!Double.isNaN(seen.logs[run])) {
        laps.merge(environments.get(run), 1, Integer::sum);
      }
    }
    if (laps.size() < 2) {
      return;
    }
    String usual =
        laps.entrySet().stream()
            .max(
                Map.Entry.<String, Integer>comparingByValue()
                    .thenComparing(Map.Entry.comparingByKey()))
            .orElseThrow()
            .getKey();
    double base = median(in(seen, usual));
    for (Map.Entry<String, Integer> one : laps.entrySet()) {
      if (!one.getKey().equals(usual)) {
        boolean isKnown = one.getValue() >= KNOWN;
        double off = isKnown ? median(in(seen, one.getKey())) - base : 0;
        for (int run = 0; run < seen.logs.length; run++) {
          if (environments.get(run).equals(one.getKey())) {
            seen.logs[run] = isKnown ? seen.logs[run] - off : Double.NaN;
          }
        }
      }
    }
  }

  private double[] in(Seen seen, String environment) {
    double[] logs = new double[seen.logs.length];
    int n = 0;
    for (int run = 0; run < logs.length; run++) {
      if (!Double.isNaN(seen.logs[run]) && environments.get(run).equals(environment)) {
        logs[n++] = seen.logs[run];
      }
    }
    return Arrays.copyOf(logs, n);
  }

  /** By how much each run was slower than the others, for most tests, as a logarithm. */
  private double[] machine() {
    double[] machine = new double[environments.size()];
    double[][] logs = new double[tests.size()][];
    double[] usual = new double[tests.size()];
    int known = 0;
    for (Seen seen : tests.values()) {
      double[] told = told(seen.logs);
      double median = median(told);
      if (told.length >= KNOWN && median >= Math.log(LEAST_MILLIS)) {
        logs[known] = seen.logs;
        usual[known++] = median;
      }
    }
    double[] off = new double[known];
    for (int run = 0; run < machine.length; run++) {
      int n = 0;
      for (int test = 0; test < known; test++) {
        double log = logs[test][run];
        if (!Double.isNaN(log)) {
          off[n++] = log - usual[test];
        }
      }
      machine[run] = n < MANY ? 0 : median(Arrays.copyOf(off, n));
    }
    return machine;
  }

  private static double[] told(double[] logs) {
    double[] told = new double[logs.length];
    int n = 0;
    for (double log : logs) {
      if (!Double.isNaN(log)) {
        told[n++] = log;
      }
    }
    return Arrays.copyOf(told, n);
  }

  private static double median(double[] all) {
    if (all.length == 0) {
      return 0;
    }
    Arrays.sort(all);
    int half = all.length / 2;
    return all.length % 2 == 1 ? all[half] : (all[half - 1] + all[half]) / 2;
  }
}
