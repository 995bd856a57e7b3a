package org.vinecellar.core.boards;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What a panel shows. */
public enum PanelKind {
  /** Results by outcome, step by step. */
  OUTCOMES,
  /** The pass rate, step by step; a line for each value of what runs are told apart by. */
  RATE,
  /** How long the tests of a run took, step by step; a line for each value. */
  TIME,
  /** How many tests came and went, step by step. */
  GROWTH,
  /** The latest run by outcome. */
  LATEST,
  /** Runs by up to three values, the worst first. */
  BREAKDOWN,
  /** Tests that failed most often. */
  WORST,
  /** Failing results by what explains them, step by step. */
  CAUSES,
  /** Words of whoever made the board. */
  TEXT;

  /** Whether it tells runs apart by what they have. */
  public boolean isApart() {
    return this == RATE || this == TIME || this == BREAKDOWN;
  }

  /** As it is written. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The one that is written so. */
  public static Optional<PanelKind> ofWord(String word) {
    return Arrays.stream(values()).filter(kind -> kind.word().equals(word)).findFirst();
  }
}
