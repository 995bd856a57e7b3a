package org.vinecellar.core.triage.decisions;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How a decision came to a result; the codes are stored and never change. */
public enum DecisionOrigin {
  /** A person made it at this very result. */
  HAND(1),
  /** A rule made it. */
  RULE(2),
  /** It was made at another result of the same cause. */
  CARRIED(3);

  private final int code;

  DecisionOrigin(int code) {
    this.code = code;
  }

  /** The stored number. */
  public int code() {
    return code;
  }

  /** The word in the API and in exports. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @return null for null
   * @throws IllegalArgumentException when none has that number
   */
  public static @Nullable DecisionOrigin ofCode(@Nullable Integer code) {
    if (code == null) {
      return null;
    }
    for (DecisionOrigin origin : values()) {
      if (origin.code == code) {
        return origin;
      }
    }
    throw new IllegalArgumentException("no origin has the code " + code);
  }
}
