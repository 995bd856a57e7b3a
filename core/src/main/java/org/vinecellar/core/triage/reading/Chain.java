package org.vinecellar.core.triage.reading;

import java.util.List;

/**
 * What one failure says: errors that caused each other, and what stands beside them.
 *
 * @param errors from the outermost in; at least one, which may be empty
 * @param beside errors, or sections of a report, that no link joins with these, in their order
 * @param check the line of source in which the check stands that did not hold, where it is shown
 *     beside its place; empty where it is not
 * @param text all lines that are evidence: neither places in code nor output nor steps that passed
 */
public record Chain(List<Thrown> errors, List<Thrown> beside, String check, String text) {
  /** Copies the lists. */
  public Chain {
    errors = List.copyOf(errors);
    beside = List.copyOf(beside);
  }

  /** The innermost cause. */
  public Thrown root() {
    return errors.get(errors.size() - 1);
  }
}
