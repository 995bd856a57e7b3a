package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Results that were found over all runs.
 *
 * @param next where to go on; null when all runs were looked through. A page may be short and still
 *     have one: looking ends after a while, and what was found by then is told
 */
public record FoundPage(List<Found> results, @Nullable FindCursor next) {
  /** Copies the list. */
  public FoundPage {
    results = List.copyOf(results);
  }

  /** A result and the run that it is in. */
  public record Found(Of run, ResultRow result) {}

  /** Whose it is. */
  public record Of(
      long id,
      String stream,
      int number,
      Instant startedAt,
      @Nullable String commit,
      @Nullable String branch) {}

  /**
   * How many there are.
   *
   * @param all false when there was too much to look through: then there are at least so many
   */
  public record Count(long number, boolean all) {}
}
