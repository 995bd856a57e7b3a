package org.vinecellar.core.reports;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What runs with the same values took, in microseconds.
 *
 * @param by a value for each dimension; null where a run has none
 * @param run of the tests of a run together
 * @param failingUs what results took that failed in the end
 * @param againUs what tries took beside the last one of each result
 */
public record TimeCell(List<@Nullable String> by, Lengths run, long failingUs, long againUs) {
  /** Copies the values. */
  public TimeCell {
    by = Collections.unmodifiableList(new ArrayList<>(by));
  }
}
