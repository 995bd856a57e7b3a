package org.vinecellar.core.formats;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** A file that no result can be taken from. The message names the place and what to do. */
public class UnreadableFileException extends CellarException {
  private static final long serialVersionUID = 1L;

  /**
   * @param message what is wrong with the file, without the file's name
   */
  public UnreadableFileException(String message) {
    this(message, null);
  }

  /**
   * @param message what is wrong with the file, without the file's name
   * @param cause what lies behind it; null when nothing does
   */
  public UnreadableFileException(String message, @Nullable Throwable cause) {
    super(ProblemCode.UNREADABLE_FILE, message, cause);
  }
}
