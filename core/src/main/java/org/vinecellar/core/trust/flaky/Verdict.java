package org.vinecellar.core.trust.flaky;

/** What a test is taken for. */
public enum Verdict {
  /** Passes and fails with no change that explains it. */
  FLAKY,
  /** Passes. */
  STEADY,
  /** Fails until something is mended, everywhere or in one environment. */
  BROKEN,
  /** What is known of it fits more than one. */
  UNSURE
}
