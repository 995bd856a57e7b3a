package org.vinecellar.core.trust.flaky;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * Where a belief stands while runs of a branch beside the main one come: what that branch tries may
 * have broken the test, and says nothing of it elsewhere.
 *
 * @param broken for each of what the test may be, how likely it is that and broken here
 */
record Beside(String branch, @Nullable String commit, float[] broken) {
  private static final double IS_MENDED = 0.2;

  /**
   * @param breaks how likely a branch breaks the test
   */
  static Beside begun(float[] weights, double breaks, String branch, @Nullable String commit) {
    float[] broken = new float[weights.length];
    for (int i = 0; i < broken.length; i++) {
      broken[i] = (float) (weights[i] * breaks);
      weights[i] -= broken[i];
    }
    return new Beside(branch, commit, broken);
  }

  /** At the next commit of the branch. */
  Beside moved(float[] weights, double breaks, @Nullable String next) {
    float[] now = new float[broken.length];
    for (int i = 0; i < now.length; i++) {
      now[i] = (float) (weights[i] * breaks + broken[i] * (1 - IS_MENDED));
      weights[i] = (float) (weights[i] * (1 - breaks) + broken[i] * IS_MENDED);
    }
    return new Beside(branch, next, now);
  }

  /** The same, to be weighed by what another run tells. */
  Beside copy() {
    return new Beside(branch, commit, broken.clone());
  }

  /** With places for more that the test may be. */
  Beside wider(int length) {
    return new Beside(branch, commit, Arrays.copyOf(broken, length));
  }

  /** The branch is left: what it broke is broken there. */
  void leave(float[] weights) {
    for (int i = 0; i < broken.length; i++) {
      weights[i] += broken[i];
    }
  }
}
