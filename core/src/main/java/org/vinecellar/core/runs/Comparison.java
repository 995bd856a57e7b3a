package org.vinecellar.core.runs;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;

/**
 * A run beside another one that somebody chose.
 *
 * @param differences by change, in its order, as many as were asked for
 */
public record Comparison(ChangeCounts counts, List<Difference> differences) {
  /** Copies the list. */
  public Comparison {
    differences = List.copyOf(differences);
  }

  /**
   * What became of one test.
   *
   * @param result in this run; null when it has none
   * @param before its outcome in the other one; null when it has none there
   * @param now its outcome in this run; null when it has none
   */
  public record Difference(
      KeptTest test,
      Change change,
      @Nullable ResultId result,
      @Nullable Outcome before,
      @Nullable Outcome now) {}
}
