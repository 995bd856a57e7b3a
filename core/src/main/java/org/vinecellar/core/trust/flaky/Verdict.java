package org.vinecellar.core.trust.flaky;

import java.util.Locale;

/** What a test is taken for. */
public enum Verdict {
  /** Passes and fails with no change that explains it. */
  FLAKY(1),
  /** Passes. */
  STEADY(2),
  /** Fails until something is mended, everywhere or in one environment. */
  BROKEN(3),
  /** What is known of it fits more than one, or is too little. */
  UNSURE(4);

  private final int code;

  Verdict(int code) {
    this.code = code;
  }

  /** The stored number. */
  public int code() {
    return code;
  }

  /** As it is told to others. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException when no verdict has that number
   */
  public static Verdict ofCode(int code) {
    return switch (code) {
      case 1 -> FLAKY;
      case 2 -> STEADY;
      case 3 -> BROKEN;
      case 4 -> UNSURE;
      default -> throw new IllegalArgumentException("no verdict has the code " + code);
    };
  }
}
