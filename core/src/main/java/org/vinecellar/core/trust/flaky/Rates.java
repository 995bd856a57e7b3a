package org.vinecellar.core.trust.flaky;

/** How often a flaky test fails, in steps: from one in 250 times to six in ten. */
final class Rates {
  static final int STEPS = 24;
  private static final double LOWEST = 0.004;
  private static final double HIGHEST = 0.6;
  private static final double[] RATE = new double[STEPS];

  static {
    for (int step = 0; step < STEPS; step++) {
      RATE[step] = LOWEST * Math.pow(HIGHEST / LOWEST, step / (STEPS - 1.0));
    }
  }

  private Rates() {}

  static double at(int step) {
    return RATE[step];
  }

  /**
   * The border between a step and the next one; steps have the same width on a scale of factors.
   */
  static double end(int step) {
    return Math.min(1, RATE[step] * Math.pow(HIGHEST / LOWEST, 0.5 / (STEPS - 1.0)));
  }
}
