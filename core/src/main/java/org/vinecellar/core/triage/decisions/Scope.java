package org.vinecellar.core.triage.decisions;

import java.util.Locale;

/** For what a decision is made; the codes are stored and never change. */
public enum Scope {
  /** For one result alone. */
  RESULT(0),
  /** For its group, from its run on. */
  ONWARDS(1),
  /** For its group, with all that it had. */
  WHOLE(2),
  /** By a rule, for those results of its group that fit it. */
  FITTING(3);

  private final int code;

  Scope(int code) {
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
   * @throws IllegalArgumentException when none has that number
   */
  public static Scope ofCode(int code) {
    for (Scope scope : values()) {
      if (scope.code == code) {
        return scope;
      }
    }
    throw new IllegalArgumentException("no scope has the code " + code);
  }
}
