package org.vinecellar.core.filters;

import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** A filter that cannot be understood: where, what stands there, and what could. */
public final class FilterException extends CellarException {
  private static final long serialVersionUID = 1L;

  private final int at;
  private final String said;

  /**
   * @param at where in the text, from 0; at most its length
   */
  public FilterException(int at, String message) {
    super(ProblemCode.INVALID_VALUE, "filter, position " + (at + 1) + ": " + message);
    this.at = at;
    this.said = message;
  }

  /** What is wrong, without the place. */
  public String said() {
    return said;
  }

  /** Where in the text it cannot go on, from 0. */
  public int at() {
    return at;
  }
}
