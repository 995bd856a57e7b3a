package org.vinecellar.client.command;

import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.settings.SettingsException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** What the process ends with. */
public final class ExitCode {
  /** Done. */
  public static final int DONE = 0;

  /** The call itself is wrong. */
  public static final int WRONG_CALL = 2;

  /** No file matched, or no test was found in those that did. */
  public static final int NOTHING_FOUND = 3;

  /** A file could not be read. */
  public static final int UNREADABLE = 4;

  /** The portal refused. */
  public static final int REFUSED = 5;

  /** The portal could not be reached, or failed itself. */
  public static final int NOT_REACHED = 6;

  /** Sent, and the run has what {@code --fail-on} names. */
  public static final int FAILING = 10;

  private ExitCode() {}

  /** What a failure ends with. */
  static int of(Exception e) {
    if (e instanceof CommandException command) {
      return command.exitCode();
    }
    if (e instanceof SettingsException || isInvalidValue(e)) {
      return WRONG_CALL;
    }
    if (!(e instanceof PortalException refused)) {
      return UNREADABLE;
    }
    if (refused.slug().equals("unreadable-file")) {
      return UNREADABLE;
    }
    if (refused.slug().equals("no-tests")) {
      return NOTHING_FOUND;
    }
    boolean reached = refused.status() > 0 && refused.status() < 500;
    return reached ? REFUSED : NOT_REACHED;
  }

  private static boolean isInvalidValue(Exception e) {
    return e instanceof CellarException cellar && cellar.code() == ProblemCode.INVALID_VALUE;
  }
}
