package org.vinecellar.core.runs;

import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.results.Outcome;

/**
 * Which results of a run are meant.
 *
 * @param outcomes empty for all
 * @param change null for any
 * @param text part of name, suite or first line, whatever the case; null for any
 * @param setUps only failed set-ups; asked for by outcome, results are those of tests
 * @param overruled only those whose outcome somebody set
 */
public record ResultFilter(
    Set<Outcome> outcomes,
    @Nullable Change change,
    @Nullable String text,
    boolean setUps,
    boolean overruled) {
  /** Every result. */
  public static final ResultFilter ALL = new ResultFilter(Set.of(), null, null, false, false);

  /** Copies the set; a blank text is none. */
  public ResultFilter {
    outcomes = Set.copyOf(outcomes);
    text = text == null || text.isBlank() ? null : text.strip();
  }

  /** Whether it lets everything through. */
  public boolean isAll() {
    return equals(ALL);
  }
}
