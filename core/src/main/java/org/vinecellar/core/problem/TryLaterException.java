package org.vinecellar.core.problem;

import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** Cannot be done now, and it is known when to ask again. */
public final class TryLaterException extends CellarException {
  private static final long serialVersionUID = 1L;

  private final Duration wait;

  /**
   * @param wait how long the caller should wait before the next try
   */
  public TryLaterException(ProblemCode code, String message, Duration wait) {
    this(code, message, wait, null);
  }

  /**
   * @param wait how long the caller should wait before the next try
   * @param cause what lies behind it; null when nothing does
   */
  public TryLaterException(
      ProblemCode code, String message, Duration wait, @Nullable Throwable cause) {
    super(code, message, cause);
    this.wait = wait;
  }

  /** In whole seconds, at least one. */
  public long waitSeconds() {
    return Math.max(1, wait.toSeconds() + (wait.toNanosPart() > 0 ? 1 : 0));
  }
}
