package org.vinecellar.client.command;

import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import sun.misc.Signal;
import sun.misc.SignalHandler;

/**
 * Passes the signals by which a pipeline ends a job on to its command, so that what the command
 * left can still be sent. As long as it is open.
 */
final class Interruption implements AutoCloseable {
  private final AtomicBoolean came = new AtomicBoolean();
  private final @Nullable SignalHandler terminating;
  private final @Nullable SignalHandler interrupting;

  private Interruption(Process process) {
    SignalHandler pass =
        signal -> {
          came.set(true);
          process.destroy();
        };
    terminating = handle("TERM", pass);
    interrupting = handle("INT", pass);
  }

  static Interruption passedTo(Process process) {
    return new Interruption(process);
  }

  /** Whether a signal has come. */
  boolean came() {
    return came.get();
  }

  /** Null where the system has no such signal. */
  private static @Nullable SignalHandler handle(String name, SignalHandler handler) {
    try {
      return Signal.handle(new Signal(name), handler);
    } catch (IllegalArgumentException e) {
      return null;
    }
  }

  @Override
  public void close() {
    if (terminating != null) {
      handle("TERM", terminating);
    }
    if (interrupting != null) {
      handle("INT", interrupting);
    }
  }
}
