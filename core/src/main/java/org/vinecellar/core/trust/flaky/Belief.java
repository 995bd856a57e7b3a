package org.vinecellar.core.trust.flaky;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What is believed of a test after some runs: a forward filter over what it may be. A test is
 * sound, broken, broken in one environment, flaky at some rate, or flaky in one environment. That
 * changes at commits, and only there; what one run tells is weighed by how likely each of them
 * would show it. A pure function of the runs in their order; immutable.
 *
 * <p>The numbers are those of a test that nobody knows anything about, set on simulated streams.
 * How often a sound test fails all the same, and how often a flaky one is steadied, weigh what is
 * found against who is accused; the others hardly matter within a factor of two.
 */
public final class Belief {
  /** In the first run. */
  private static final double FLAKY = 0.06;

  private static final double BROKEN = 0.01;

  /** In an environment that is seen for the first time, for a test that was sound in the others. */
  private static final double FLAKY_THERE = 0.01;

  private static final double BROKEN_THERE = 0.003;

  /** At each commit. */
  private static final double BREAKS = 0.0015;

  private static final double BREAKS_SOMEWHERE = 0.0005;
  private static final double TURNS_FLAKY = 0.001;
  private static final double TURNS_FLAKY_SOMEWHERE = 0.0001;
  private static final double IS_MENDED = 0.12;
  private static final double IS_MENDED_HALF = 0.002;
  private static final double IS_STEADIED = 0.004;
  private static final double FLAKY_BREAKS = 0.001;

  /** A sound test fails all the same, and a broken one passes. */
  private static final double ODD_FAILURE = 0.0001;

  private static final double ODD_PASS = 0.003;

  /** Of a test's environments so many are told apart; in others it is as it is everywhere. */
  private static final int ENVIRONMENTS = 8;

  /** More tries of one run tell no more than so many, of which the same share failed. */
  private static final double MOST_TRIES = 50;

  private static final int SOUND = 0;
  private static final int ALL_BROKEN = 1;
  private static final int ALL_FLAKY = 2;

  private static final double SURE = 0.5;

  private final List<String> environments;
  private final double[] weights;
  private final @Nullable String commit;
  private final int runs;

  private Belief(List<String> environments, double[] weights, @Nullable String commit, int runs) {
    this.environments = environments;
    this.weights = weights;
    this.commit = commit;
    this.runs = runs;
  }

  /** Of a test that no run has had. */
  public static Belief start() {
    double[] weights = new double[ALL_FLAKY + Rates.STEPS];
    weights[SOUND] = 1 - FLAKY - BROKEN;
    weights[ALL_BROKEN] = BROKEN;
    spread(weights, ALL_FLAKY, FLAKY);
    return new Belief(List.of(), weights, null, 0);
  }

  /** With one more run, which began after those before. */
  public Belief after(Sight sight) {
    List<String> known = environments;
    double[] next = weights.clone();
    if (!known.contains(sight.environment()) && known.size() < ENVIRONMENTS) {
      known = new ArrayList<>(known);
      known.add(sight.environment());
      next = withOneMore(next, known.size());
    }
    if (runs > 0 && (commit == null || !commit.equals(sight.commit()))) {
      next = changed(next, known.size());
    }
    if (sight.tells()) {
      weigh(next, known.indexOf(sight.environment()), known.size(), sight);
    }
    double sum = Arrays.stream(next).sum();
    for (int i = 0; i < next.length; i++) {
      next[i] /= sum;
    }
    return new Belief(List.copyOf(known), next, sight.commit(), runs + 1);
  }

  /** How many runs told of it. */
  public int runs() {
    return runs;
  }

  /** How likely it is flaky, from 0 to 1. */
  public double flaky() {
    double flaky = sum(weights, ALL_FLAKY);
    for (int i = 0; i < environments.size(); i++) {
      flaky += sum(weights, flakyIn(i));
    }
    return flaky;
  }

  /** How likely it is broken now, anywhere, from 0 to 1. */
  public double broken() {
    double broken = weights[ALL_BROKEN];
    for (int i = 0; i < environments.size(); i++) {
      broken += weights[brokenIn(i)];
    }
    return broken;
  }

  /** What it is taken for. */
  public Verdict verdict() {
    if (flaky() >= SURE) {
      return Verdict.FLAKY;
    }
    if (broken() >= SURE) {
      return Verdict.BROKEN;
    }
    return weights[SOUND] >= SURE ? Verdict.STEADY : Verdict.UNSURE;
  }

  /**
   * How often it fails by chance, if it is flaky: the rate below which so much lies of what is
   * believed.
   *
   * @param share from 0 to 1; 0.05 and 0.95 are the ends of an interval that has the true rate in
   *     nine of ten cases
   */
  public double rate(double share) {
    double[] masses = new double[Rates.STEPS];
    double all = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      masses[step] = weights[ALL_FLAKY + step];
      for (int i = 0; i < environments.size(); i++) {
        masses[step] += weights[flakyIn(i) + step];
      }
      all += masses[step];
    }
    double until = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      double begin = until;
      until += masses[step];
      if (until >= share * all) {
        double low = step == 0 ? Rates.at(0) : Rates.end(step - 1);
        double part = masses[step] == 0 ? 0 : (share * all - begin) / masses[step];
        return low * Math.pow(Rates.end(step) / low, part);
      }
    }
    return Rates.end(Rates.STEPS - 1);
  }

  /**
   * The environment in which alone it is flaky or broken, if that is likelier than everywhere.
   *
   * @return null when it is not, or when it is neither
   */
  public @Nullable String onlyIn() {
    if (flaky() + broken() < SURE || environments.size() < 2) {
      return null;
    }
    double most = sum(weights, ALL_FLAKY) + weights[ALL_BROKEN];
    String only = null;
    for (int i = 0; i < environments.size(); i++) {
      double there = sum(weights, flakyIn(i)) + weights[brokenIn(i)];
      if (there > most) {
        most = there;
        only = Objects.requireNonNull(environments.get(i));
      }
    }
    return only;
  }

  private static int brokenIn(int environment) {
    return ALL_FLAKY + Rates.STEPS + environment * (1 + Rates.STEPS);
  }

  private static int flakyIn(int environment) {
    return brokenIn(environment) + 1;
  }

  private static double sum(double[] weights, int from) {
    double sum = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      sum += weights[from + step];
    }
    return sum;
  }

  private static void spread(double[] weights, int from, double mass) {
    for (int step = 0; step < Rates.STEPS; step++) {
      weights[from + step] += mass / Rates.STEPS;
    }
  }

  private static double[] withOneMore(double[] before, int environments) {
    double[] weights = Arrays.copyOf(before, brokenIn(environments));
    double sound = before[SOUND];
    weights[SOUND] = sound * (1 - BROKEN_THERE - FLAKY_THERE);
    weights[brokenIn(environments - 1)] = sound * BROKEN_THERE;
    spread(weights, flakyIn(environments - 1), sound * FLAKY_THERE);
    return weights;
  }

  /** What it may be after a commit. */
  private static double[] changed(double[] before, int environments) {
    double[] weights = new double[before.length];
    double sound = before[SOUND];
    double leaves = BREAKS + TURNS_FLAKY;
    weights[ALL_BROKEN] += sound * BREAKS;
    spread(weights, ALL_FLAKY, sound * TURNS_FLAKY);
    for (int i = 0; i < environments; i++) {
      leaves += BREAKS_SOMEWHERE + TURNS_FLAKY_SOMEWHERE;
      weights[brokenIn(i)] += sound * BREAKS_SOMEWHERE;
      spread(weights, flakyIn(i), sound * TURNS_FLAKY_SOMEWHERE);
      stays(before, weights, brokenIn(i), IS_MENDED, 0);
      for (int step = 0; step < Rates.STEPS; step++) {
        stays(before, weights, flakyIn(i) + step, IS_STEADIED, 0);
      }
    }
    weights[SOUND] += sound * (1 - leaves);
    stays(before, weights, ALL_BROKEN, IS_MENDED, 0);
    double half = before[ALL_BROKEN] * IS_MENDED_HALF;
    weights[ALL_BROKEN] -= half;
    spread(weights, ALL_FLAKY, half);
    for (int step = 0; step < Rates.STEPS; step++) {
      stays(before, weights, ALL_FLAKY + step, IS_STEADIED, FLAKY_BREAKS);
    }
    return weights;
  }

  private static void stays(
      double[] before, double[] weights, int what, double mended, double breaks) {
    weights[SOUND] += before[what] * mended;
    weights[ALL_BROKEN] += before[what] * breaks;
    weights[what] += before[what] * (1 - mended - breaks);
  }

  private static void weigh(double[] weights, int environment, int environments, Sight sight) {
    double sound = likely(ODD_FAILURE, sight);
    double broken = likely(1 - ODD_PASS, sight);
    weights[SOUND] *= sound;
    weights[ALL_BROKEN] *= broken;
    for (int i = 0; i < environments; i++) {
      weights[brokenIn(i)] *= i == environment ? broken : sound;
    }
    for (int step = 0; step < Rates.STEPS; step++) {
      double flaky = likely(Rates.at(step), sight);
      weights[ALL_FLAKY + step] *= flaky;
      for (int i = 0; i < environments; i++) {
        weights[flakyIn(i) + step] *= i == environment ? flaky : sound;
      }
    }
  }

  /** Of so many tries in whatever order, at a rate at which one fails. */
  private static double likely(double rate, Sight sight) {
    double tries = sight.failed() + (double) sight.passed();
    double counted = Math.min(1, MOST_TRIES / tries);
    return Math.pow(rate, sight.failed() * counted) * Math.pow(1 - rate, sight.passed() * counted);
  }
}
