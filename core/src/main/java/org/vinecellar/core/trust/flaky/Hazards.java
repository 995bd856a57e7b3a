package org.vinecellar.core.trust.flaky;

import java.util.Arrays;

/**
 * How likely a test becomes something else. That happens at commits, and only there; but a commit
 * after ten runs holds what was changed in that time, as ten commits of one run each do: so it is
 * told of a run, and a commit has that of all runs since the one before it.
 *
 * <p>The numbers are those of a test of which nobody knows anything, set on simulated streams of
 * several kinds.
 */
final class Hazards {
  /** In the first run. */
  private static final double FLAKY = 0.06;

  private static final double BROKEN = 0.01;

  /** In an environment that is seen for the first time, for a test that was sound in the others. */
  private static final double FLAKY_THERE = 0.01;

  private static final double BROKEN_THERE = 0.003;

  private static final double BREAKS = 0.0018;
  private static final double BREAKS_SOMEWHERE = 0.0005;
  private static final double TURNS_FLAKY = 0.0008;
  private static final double TURNS_FLAKY_SOMEWHERE = 0.0001;
  private static final double BREAKS_AGAIN = 0.02;
  private static final double IS_PRONE_NO_MORE = 0.005;
  private static final double IS_MENDED = 0.12;
  private static final double IS_MENDED_HALF = 0.002;
  private static final double IS_STEADIED = 0.0025;
  private static final double FLAKY_BREAKS = 0.0008;

  private Hazards() {}

  /** What a test may be that no run has had. */
  static float[] atFirst() {
    float[] weights = new float[States.places(0)];
    weights[States.SOUND] = (float) (1 - FLAKY - BROKEN);
    weights[States.BROKEN] = (float) BROKEN;
    States.spread(weights, States.FLAKY, FLAKY);
    return weights;
  }

  /**
   * With one environment more.
   *
   * @param environments how many there are with that one
   */
  static float[] withOneMore(float[] before, int environments) {
    float[] weights = Arrays.copyOf(before, States.places(environments));
    double sound = before[States.SOUND];
    weights[States.SOUND] = (float) (sound * (1 - BROKEN_THERE - FLAKY_THERE));
    weights[States.brokenIn(environments - 1)] = (float) (sound * BROKEN_THERE);
    States.spread(weights, States.flakyIn(environments - 1), sound * FLAKY_THERE);
    return weights;
  }

  /**
   * What it may be after a commit.
   *
   * @param runs of the commit before it
   */
  static float[] afterCommit(float[] before, int environments, int runs) {
    float[] weights = new float[before.length];
    double flaky = TURNS_FLAKY * runs;
    fromSound(before, weights, environments, runs);
    double prone = before[States.PRONE];
    double again = BREAKS_AGAIN * runs;
    double noMore = IS_PRONE_NO_MORE * runs;
    weights[States.BROKEN] += prone * again;
    weights[States.SOUND] += prone * noMore;
    States.spread(weights, States.FLAKY, prone * flaky);
    weights[States.PRONE] += prone * (1 - again - noMore - flaky);
    double broken = before[States.BROKEN];
    double mended = mended(runs);
    double half = IS_MENDED_HALF * runs;
    weights[States.PRONE] += broken * mended;
    weights[States.BROKEN] += broken * (1 - mended - half);
    States.spread(weights, States.FLAKY, broken * half);
    for (int step = 0; step < Rates.STEPS; step++) {
      stays(before, weights, States.FLAKY + step, IS_STEADIED * runs, FLAKY_BREAKS * runs);
    }
    return weights;
  }

  private static void fromSound(float[] before, float[] weights, int environments, int runs) {
    double sound = before[States.SOUND];
    double leaves = BREAKS + TURNS_FLAKY;
    weights[States.BROKEN] += sound * BREAKS * runs;
    States.spread(weights, States.FLAKY, sound * TURNS_FLAKY * runs);
    double mended = mended(runs);
    for (int i = 0; i < environments; i++) {
      leaves += BREAKS_SOMEWHERE + TURNS_FLAKY_SOMEWHERE;
      weights[States.brokenIn(i)] += sound * BREAKS_SOMEWHERE * runs;
      States.spread(weights, States.flakyIn(i), sound * TURNS_FLAKY_SOMEWHERE * runs);
      stays(before, weights, States.brokenIn(i), mended, 0);
      for (int step = 0; step < Rates.STEPS; step++) {
        stays(before, weights, States.flakyIn(i) + step, IS_STEADIED * runs, 0);
      }
    }
    weights[States.SOUND] += sound * (1 - leaves * runs);
  }

  private static double mended(int runs) {
    return 1 - Math.pow(1 - IS_MENDED, runs);
  }

  private static void stays(
      float[] before, float[] weights, int what, double mended, double breaks) {
    weights[States.SOUND] += before[what] * mended;
    weights[States.BROKEN] += before[what] * breaks;
    weights[what] += before[what] * (1 - mended - breaks);
  }
}
