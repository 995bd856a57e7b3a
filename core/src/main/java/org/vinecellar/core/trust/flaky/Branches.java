package org.vinecellar.core.trust.flaky;

/**
 * Branches beside the main one that were left: such a branch is made to change something, and what
 * fails on it from one commit on may be its doing. How often, the test itself has shown.
 *
 * @param left how many
 * @param broken how many of them had broken the test, as far as that is believed
 */
record Branches(float left, float broken) {
  static final Branches NONE = new Branches(0, 0);

  /** Before anything was seen: one in twelve. */
  private static final double EXPECTED = 12;

  Branches and(double howBroken) {
    return new Branches(left + 1, (float) (broken + howBroken));
  }

  /** How likely the next one breaks it. */
  double breaks() {
    return (1 + broken) / (EXPECTED + left);
  }
}
