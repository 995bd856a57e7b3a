package org.vinecellar.core.problem;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** The one base of all our own failures: a stable code, and a message that says what to do. */
public class CellarException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final ProblemCode code;

  /**
   * @param message for a person: the offending value, the limit, the position, and what to do
   */
  public CellarException(ProblemCode code, String message) {
    this(code, message, null);
  }

  /**
   * @param cause what lies behind it; null when nothing does
   */
  public CellarException(ProblemCode code, String message, @Nullable Throwable cause) {
    super(Objects.requireNonNull(message), cause);
    this.code = Objects.requireNonNull(code);
  }

  /** The stable code to branch on. */
  public ProblemCode code() {
    return code;
  }

  /** The message, which is never null here. */
  public String text() {
    return Objects.requireNonNull(getMessage());
  }
}
