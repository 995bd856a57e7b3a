package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How long the tests of a run took, of runs with the same values that began in one step.
 *
 * @param by a value for each dimension; null where a run has none
 */
public record LengthCell(Instant at, List<@Nullable String> by, Lengths run) {
  /** Copies the values. */
  public LengthCell {
    by = Collections.unmodifiableList(new ArrayList<>(by));
  }
}
