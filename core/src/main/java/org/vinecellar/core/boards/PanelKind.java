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
  /** How long a run took that is longer than half, nine of ten, nineteen of twenty of its step. */
  LENGTHS,
  /** How long was spent on tests that failed, and on tries that were not the last. */
  LOST,
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
  /** The latest runs one by one, by outcome. */
  RUNS,
  /** The pass rate of each value beside each other: of environments in streams, for one. */
  MATRIX,
  /** Tests that are taken for flaky, the most certain first, and what they did. */
  FLAKY,
  /** Tests that take longest. */
  SLOWEST,
  /** Tests that take longer than they did, the dearest first. */
  SLOWING,
  /** Failure groups by how much they have. */
  GROUPS,
  /** Tickets by how many failures they stand for. */
  TICKETS,
  /** How long it takes until somebody explains a new failure group, step by step. */
  EXPLAINING,
  /** How long it takes until a test that fails passes again, step by step. */
  MENDING,
  /** Who explained how much. */
  PEOPLE,
  /** Words of whoever made the board. */
  TEXT;

  /** Whether it tells runs apart by what they have. */
  public boolean isApart() {
    return this == RATE || this == TIME || this == BREAKDOWN || this == MATRIX;
  }

  /** Whether it lists the first of many. */
  boolean isListed() {
    return switch (this) {
      case WORST, FLAKY, SLOWEST, SLOWING, GROUPS, TICKETS, PEOPLE -> true;
      default -> false;
    };
  }

  /** Whether it has a row for each step of its period. */
  public boolean isStepwise() {
    return switch (this) {
      case OUTCOMES, RATE, TIME, LENGTHS, LOST, GROWTH, CAUSES, EXPLAINING, MENDING -> true;
      default -> false;
    };
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
