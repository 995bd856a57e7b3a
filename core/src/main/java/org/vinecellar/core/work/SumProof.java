package org.vinecellar.core.work;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Proves that what is kept summed up of runs is what their results come to, and puts right what is
 * not.
 */
public interface SumProof {
  /**
   * Proves the run that was proved the longest ago, if that is a while ago.
   *
   * @return whether there was one
   */
  boolean proveOne(Instant now);

  /** What was put right so far. */
  Repairs repairs();

  /**
   * What was put right.
   *
   * @param times how often something was
   * @param last when it last was; null for never
   * @param said what that was; null for nothing
   */
  record Repairs(long times, @Nullable Instant last, @Nullable String said) {}
}
