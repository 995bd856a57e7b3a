package org.vinecellar.client.command;

import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Ends a command with an exit code and a message. */
final class CommandException extends CellarException {
  private static final long serialVersionUID = 1L;

  private final int exitCode;

  CommandException(int exitCode, String message) {
    super(ProblemCode.INVALID_VALUE, message);
    this.exitCode = exitCode;
  }

  int exitCode() {
    return exitCode;
  }
}
