package org.vinecellar.client;

import org.vinecellar.client.command.VineCommand;

/** Begins the program. */
public final class Vine {
  private Vine() {}

  /** Ends the process with the command's exit code. */
  public static void main(String[] args) {
    System.exit(VineCommand.run(args, System.out, System.err, System.getenv()));
  }
}
