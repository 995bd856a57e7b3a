package org.vinecellar.core.trust.flaky;

/** How likely each of what a test may be would have shown what a run tells. */
final class Likelihood {
  /** A sound test fails all the same, and a broken one passes. */
  private static final double ODD_FAILURE = 0.00009;

  private static final double ODD_PASS = 0.005;

  /** More tries of one run tell no more than so many, of which the same share failed. */
  private static final double MOST_TRIES = 50;

  private Likelihood() {}

  /**
   * Weighs what a test may be by what a run tells.
   *
   * @param environment the number of the one in which it ran; less than 0 for one of those that are
   *     not told apart
   */
  static void weigh(float[] weights, int environment, int environments, Sight sight) {
    double sound = likely(ODD_FAILURE, sight);
    double broken = ofBroken(sight);
    weights[States.SOUND] *= sound;
    weights[States.PRONE] *= sound;
    weights[States.BROKEN] *= broken;
    for (int i = 0; i < environments; i++) {
      weights[States.brokenIn(i)] *= i == environment ? broken : sound;
    }
    for (int step = 0; step < Rates.STEPS; step++) {
      double flaky = likely(Rates.at(step), sight);
      weights[States.FLAKY + step] *= flaky;
      for (int i = 0; i < environments; i++) {
        weights[States.flakyIn(i) + step] *= i == environment ? flaky : sound;
      }
    }
  }

  /** Of a test that is broken. */
  static double ofBroken(Sight sight) {
    return likely(1 - ODD_PASS, sight);
  }

  /** Of so many tries in whatever order, at a rate at which one fails. */
  private static double likely(double rate, Sight sight) {
    if (sight.failed() + sight.passed() == 1) {
      return sight.failed() == 1 ? rate + (1 - rate) * sight.common() : 1 - rate;
    }
    double own = ofItself(rate, sight);
    if (sight.failed() == 0 || sight.common() == 0) {
      return own;
    }
    // What failed may have met what others met, and then it tells nothing of this test.
    return own + (Math.pow(1 - rate, sight.passed()) - own) * sight.common();
  }

  private static double ofItself(double rate, Sight sight) {
    double tries = sight.failed() + (double) sight.passed();
    double counted = Math.min(1, MOST_TRIES / tries);
    return Math.pow(rate, sight.failed() * counted) * Math.pow(1 - rate, sight.passed() * counted);
  }
}
