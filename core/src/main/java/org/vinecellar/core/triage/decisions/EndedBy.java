package org.vinecellar.core.triage.decisions;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Why a decision comes to its end; the codes are stored and never change. */
public enum EndedBy {
  /** Somebody said that the cause is mended. */
  MENDED(1),
  /** It was made up to a day. */
  DATE(2),
  /** It was made until its tickets are closed, and they are. */
  TICKET(3);

  private final int code;

  EndedBy(int code) {
    this.code = code;
  }

  /** The stored number. */
  public int code() {
    return code;
  }

  /** The word in the API. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @return null for null
   * @throws IllegalArgumentException when none has that number
   */
  public static @Nullable EndedBy ofCode(@Nullable Integer code) {
    if (code == null) {
      return null;
    }
    for (EndedBy one : values()) {
      if (one.code == code) {
        return one;
      }
    }
    throw new IllegalArgumentException("no end has the code " + code);
  }
}
