package org.vinecellar.core.trust;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.flaky.Belief;
import org.vinecellar.core.trust.flaky.Verdict;

/**
 * What is believed of a test, as it is told.
 *
 * @param score how likely it is flaky, from 0 to 1
 * @param rate how often it fails by chance, from 0 to 1; null for a broken test, of which that
 *     cannot be known
 * @param low where an interval begins that has the true rate in nine of ten cases; null with the
 *     rate
 * @param high where it ends
 * @param runs that told of it
 * @param stumbles those of them in which a try of it failed by itself
 * @param onlyIn the environment in which alone it is flaky or broken; null for everywhere
 */
public record Estimate(
    Verdict verdict,
    double score,
    @Nullable Double rate,
    @Nullable Double low,
    @Nullable Double high,
    int runs,
    int stumbles,
    @Nullable String onlyIn) {
  private static final double LOW = 0.05;
  private static final double HIGH = 0.95;

  /** As it is believed now. */
  public static Estimate of(Belief belief, int stumbles) {
    Verdict verdict = belief.verdict();
    boolean steady = verdict == Verdict.STEADY;
    boolean broken = verdict == Verdict.BROKEN;
    return new Estimate(
        verdict,
        belief.flaky(),
        broken ? null : steady ? (Double) 0.0 : (Double) belief.rate(0.5),
        broken ? null : steady ? (Double) 0.0 : (Double) belief.rate(LOW),
        broken ? null : steady ? (Double) unseen(belief.runs()) : (Double) belief.rate(HIGH),
        belief.runs(),
        stumbles,
        belief.onlyIn());
  }

  /** Of a test that never failed by itself, in so many runs. */
  public static Estimate ofPasses(int runs) {
    Belief belief = Belief.ofPasses(runs);
    double high = unseen(runs);
    return new Estimate(belief.verdict(), belief.flaky(), 0.0, 0.0, high, runs, 0, null);
  }

  /**
   * The same of a test that fails in run after run, even if for a cause that many others have: that
   * is no chance, and nobody would call it steady.
   *
   * @param always whether it failed in all of the latest runs
   */
  public Estimate failing(boolean always) {
    return !always || verdict == Verdict.FLAKY
        ? this
        : new Estimate(Verdict.BROKEN, score, null, null, null, runs, stumbles, onlyIn);
  }

  /**
   * Of a test that never failed by itself, how many more runs in which it passes it takes until it
   * is called steady; 0 when it is.
   */
  public int cleanRunsLeft() {
    return verdict == Verdict.UNSURE ? Belief.ofPasses(runs).cleanRunsLeft() : 0;
  }

  /** What happens no more often than that shows in so many runs in nine of ten cases. */
  private static double unseen(int runs) {
    return runs == 0 ? 1 : 1 - Math.pow(1 - (HIGH - LOW), 1.0 / runs);
  }
}
