package org.vinecellar.client.command;

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
}
