package org.vinecellar.bench.trust;

import java.util.Random;

/** What is drawn for one stream after another. */
final class Seeds {
  /** The golden ratio as a whole number: its multiples lie far apart. */
  private static final long APART = 0x9E3779B97F4A7C15L;

  private Seeds() {}

  /**
   * Of numbers that follow each other, {@link Random} draws nearly the same first, so that such
   * streams would all have as many environments, and as many commits.
   */
  static Random of(long seed) {
    return new Random(seed * APART);
  }
}
