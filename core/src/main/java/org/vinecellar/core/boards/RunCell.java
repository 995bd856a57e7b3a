package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Runs that belong together: of one step of time, with the same values of what they are told apart
 * by.
 *
 * @param at when the step began; of all time where there are none
 * @param by a value for each dimension; null where a run has none
 */
public record RunCell(Instant at, List<@Nullable String> by, RunSum sum) {
  /** Copies the values. */
  public RunCell {
    by = Collections.unmodifiableList(new ArrayList<>(by));
  }
}
