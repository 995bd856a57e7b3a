package org.vinecellar.core.trust.flaky;

/**
 * What a test may be, as places in a list of how likely each of them is: everywhere first, then for
 * each environment.
 */
final class States {
  static final int SOUND = 0;
  static final int BROKEN = 1;

  /** Passes, and was broken before: what was mended once breaks again sooner than others. */
  static final int PRONE = 2;

  /** The first of the rates at which it is flaky everywhere. */
  static final int FLAKY = 3;

  private States() {}

  /** How many places there are for so many environments. */
  static int places(int environments) {
    return brokenIn(environments);
  }

  static int brokenIn(int environment) {
    return FLAKY + Rates.STEPS + environment * (1 + Rates.STEPS);
  }

  /** The first of the rates at which it is flaky in one environment. */
  static int flakyIn(int environment) {
    return brokenIn(environment) + 1;
  }

  /** Of all rates from a place on. */
  static double rates(float[] weights, int from) {
    double sum = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      sum += weights[from + step];
    }
    return sum;
  }

  /** Adds the same to all rates from a place on. */
  static void spread(float[] weights, int from, double mass) {
    for (int step = 0; step < Rates.STEPS; step++) {
      weights[from + step] += mass / Rates.STEPS;
    }
  }

  static double sum(float[] weights) {
    double sum = 0;
    for (float weight : weights) {
      sum += weight;
    }
    return sum;
  }

  static void times(float[] weights, double factor) {
    for (int i = 0; i < weights.length; i++) {
      weights[i] = (float) (weights[i] * factor);
    }
  }
}
