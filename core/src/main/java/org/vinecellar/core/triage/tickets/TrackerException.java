package org.vinecellar.core.triage.tickets;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** A tracker that cannot be reached, refuses, or answers what makes no sense. */
public final class TrackerException extends CellarException {
  private static final long serialVersionUID = 1L;

  private final boolean reached;

  /**
   * @param reached whether it has heard what it was asked for: it may have done it, or refuses it
   * @param cause what lies behind it; null when nothing does
   */
  public TrackerException(String message, boolean reached, @Nullable Throwable cause) {
    super(ProblemCode.TRACKER_TROUBLE, message, cause);
    this.reached = reached;
  }

  /** Whether it has heard what it was asked for: it may have done it, or refuses it. */
  public boolean reached() {
    return reached;
  }
}
