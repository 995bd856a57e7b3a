package org.vinecellar.client;

import org.vinecellar.client.command.VineCommand;

/** Begins the program. */
public final class Vine {
  private Vine() {}

  /** Ends the process with the command's exit code. */
  public static void main(String[] args) {
    int code = VineCommand.run(args, System.out, System.err, System.getenv());
    endConnections();
    System.exit(code);
  }

  /**
   * Java 17's HTTP client cannot be closed, and its thread waits inside the operating system; the
   * virtual machine gives such threads 0.3 seconds to come back before it ends. Interrupted, the
   * thread closes its connections and goes.
   */
  private static void endConnections() {
    Thread[] threads = new Thread[Thread.activeCount() + 10];
    int n = Thread.enumerate(threads);
    for (int i = 0; i < n; i++) {
      if (threads[i].getName().startsWith("HttpClient-")) {
        threads[i].interrupt();
      }
    }
  }
}
