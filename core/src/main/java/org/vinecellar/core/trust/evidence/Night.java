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
 */
public record Night(
    long run,
    int number,
    @Nullable String commit,
    @Nullable String branch,
    String environment,
    int tests,
    int failing) {
  /** A cause that so many tests have is none of theirs. */
  private static final int MANY = 5;

  /** In a small run so many, if they are half of it. */
  private static final int SOME = 3;

  /** Fewer failures than these are no bad night, whatever share of a small run they are. */
  private static final int FEW = 20;

  /**
   * Whether what failed because of a cause tells of the cause, and not of a test.
   *
   * @param reach how many tests of the run have it
   */
  public boolean isShared(int reach) {
    return reach >= MANY || (reach >= SOME && reach * 2 >= tests);
  }

  /**
   * Whether so much failed that it is the run which is ill, even if each test says something else.
   *
   * @param before the run before it; null for none
   */
  public boolean isBad(@Nullable Night before) {
    boolean usual = before != null && before.failing * 2 >= failing;
    return failing >= FEW && failing * 4 > tests && !usual;
  }
}
