package org.vinecellar.core.trust.evidence;

import org.jspecify.annotations.Nullable;

/**
 * A run as what its tests did is judged by it.
 *
 * @param number in its stream
 * @param commit null where none is told
 * @param branch beside the main one; null for that one
 * @param environment in which it ran, see {@link Environments}; empty where none is told
 * @param tests that passed or failed in it
 * @param failing those of them that failed
 * @param stumbling those of them that passed when they were tried again
 */
public record Night(
    long run,
    int number,
    @Nullable String commit,
    @Nullable String branch,
    String environment,
    int tests,
    int failing,
    int stumbling) {
  /** A cause that so many tests have is none of theirs, if they are some part of the run. */
  private static final int MANY = 5;

  /** A cause that such a share of the tests has tells nothing of any of them. */
  private static final double LARGE = 0.08;

  /** In a run of any size, so many are a mass. */
  private static final int MASS = 40;

  /** In a small run so many, if they are half of it. */
  private static final int SOME = 3;

  private static final double HALF = 0.5;

  /** Less than this is far less than how often a sound test fails all the same. */
  private static final double NEGLIGIBLE = 1e-6;

  /** Fewer failures than these are no bad night, whatever share of a small run they are. */
  private static final int FEW = 20;

  /** Of how many tests on a cause tells of none of them, unless the run has very few. */
  public int mass() {
    return Math.min(MASS, Math.max(MANY, (int) Math.ceil(LARGE * tests)));
  }

  /** Whether a cause has so many tests of the run that it tells of none of them. */
  public boolean isMass(int reach) {
    return reach >= mass() || reach >= SOME && share(reach) >= HALF;
  }

  /**
   * How much of the run failed because of a cause: the more, the less that tells of a test.
   *
   * @param reach how many tests of the run have it
   * @param usual how many usually have it: no more than so many are no sign that one thing befell
   *     them in this run
   * @param certain whether it is one cause for sure, and not only the same words: as many tests say
   *     that something timed out
   * @return 0 for a test that fails by itself; 1 for so many that it tells of none
   */
  public double common(int reach, int usual, boolean certain) {
    if (isMass(reach)) {
      return 1;
    }
    int others = certain ? reach : reach - usual;
    if (others < 2) {
      return 0;
    }
    double common = certain ? share(others) : share(others) * share(others);
    return common < NEGLIGIBLE ? 0 : common;
  }

  private double share(int reach) {
    return (double) reach / Math.max(reach, tests);
  }

  /**
   * Whether so much failed, at least when it was tried first, that it is the run which is ill, even
   * if each test says something else.
   *
   * @param before the run before it; null for none
   */
  public boolean isBad(@Nullable Night before) {
    boolean usual = before != null && before.ill() * 2 >= ill();
    return ill() >= FEW && ill() * 4 > tests && !usual;
  }

  /** How many failed, at least when they were tried first. */
  public int ill() {
    return failing + stumbling;
  }
}
