package org.vinecellar.store.triage.rows;

import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import org.jspecify.annotations.Nullable;

/**
 * Does one piece of work on a thread of its own while its owner gets the next one ready. They are
 * done in order, never two at a time, and what one has written the next one sees.
 */
final class Alongside {
  private final String name;
  private @Nullable FutureTask<Void> going;

  Alongside(String name) {
    this.name = name;
  }

  /** Waits for the piece before it, and begins this one. */
  void next(Runnable piece) {
    end();
    FutureTask<Void> task = new FutureTask<>(piece, null);
    going = task;
    Thread thread = new Thread(task, name);
    thread.setDaemon(true);
    thread.start();
  }

  /** Waits for the last piece. What went wrong in it is thrown here, as it was. */
  void end() {
    FutureTask<Void> last = going;
    going = null;
    if (last == null) {
      return;
    }
    try {
      await(last);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException wrong) {
        throw wrong;
      }
      if (e.getCause() instanceof Error wrong) {
        throw wrong;
      }
      throw new IllegalStateException(e.getCause());
    }
  }

  /**
   * It uses what its owner holds, and must be done before that is let go, whoever is in a hurry.
   */
  private static void await(FutureTask<Void> task) throws ExecutionException {
    boolean interrupted = false;
    try {
      while (true) {
        try {
          Void unused = task.get();
          return;
        } catch (InterruptedException e) {
          interrupted = true;
        }
      }
    } finally {
      if (interrupted) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
