package org.vinecellar.client.command;

import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import sun.misc.Signal;
import sun.misc.SignalHandler;

/**
 * Passes the signals by which a pipeline ends a job on to its command, so that what the command
 * left can still be sent. As long as it is open.
 */
final class Interruption implements AutoCloseable {
  private final AtomicBoolean came = new AtomicBoolean();
  private final AtomicReference<@Nullable Process> process = new AtomicReference<>();
  private final @Nullable SignalHandler terminating;
  private final @Nullable SignalHandler interrupting;

  /** From now on; before the command is started, so that no signal comes in between. */
  Interruption() {
    SignalHandler pass =
        signal -> {
          came.set(true);
          end();
        };
    terminating = handle("TERM", pass);
    interrupting = handle("INT", pass);
  }

  /** The command that signals are passed on to, also one that has come already. */
  void passTo(Process command) {
    process.set(command);
    if (came.get()) {
      end();
    }
  }

  private void end() {
    Process command = process.get();
    if (command != null) {
      command.destroy();
    }
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
